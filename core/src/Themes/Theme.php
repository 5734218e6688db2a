<?php

declare(strict_types=1);

namespace Brenvic\Core\Themes;

use Brenvic\Core\Query\Node;

/** A part of a result, named by what sets it apart from the rest of it. */
final readonly class Theme
{
    /**
     * @param  list<Feature>  $names  the words and values that name it, the one that says most first
     * @param  Node  $node  the criterion that finds it
     * @param  int  $count  documents of the result that it finds
     */
    public function __construct(public array $names, public Node $node, public int $count)
    {
    }
}
