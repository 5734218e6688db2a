<?php

declare(strict_types=1);

namespace Brenvic\Core\Search\Values;

use Brenvic\Core\Query\Node;

/** One group of a level: the documents that share a value. */
final readonly class Group
{
    /**
     * @param  string  $label  the value as it is shown; empty for documents without one
     * @param  Node  $node  finds the group
     * @param  string|null  $deeper  the value below which the same field divides the group further
     * @param  array{sum: string, lowest: string, highest: string}|null  $total  of the field that is summed up, in normal
     *                                                                      form; null when no document has a value
     */
    public function __construct(public string $label, public Node $node, public int $count, public ?string $deeper, public ?array $total)
    {
    }
}
