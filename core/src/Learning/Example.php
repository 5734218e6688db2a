<?php

declare(strict_types=1);

namespace Brenvic\Core\Learning;

use Brenvic\Core\Capture\TextPage;

/** A filed document, with what people gave it. */
final readonly class Example
{
    /**
     * @param  array<int, TextPage>  $pages  by their number
     * @param  array<string, list<string>>  $values  normal forms by field code
     */
    public function __construct(public int $document, public array $pages, public array $values)
    {
    }
}
