<?php

declare(strict_types=1);

namespace App\Sorting;

use Brenvic\Core\Pages\SeparatorCode;

/** The pages that a document is to have, and what its separator sheet said of it. */
final readonly class SortedDocument
{
    /** @param  non-empty-list<SortedPage>  $pages */
    public function __construct(public array $pages, public SeparatorCode $known = new SeparatorCode())
    {
    }

    /** @return list<SortedPage> */
    public function kept(): array
    {
        return array_values(array_filter($this->pages, static fn (SortedPage $page): bool => ! $page->isLeftOut));
    }

    /** Whether it is a document of that many pages as it came. */
    public function isWhole(string $source, int $count): bool
    {
        foreach ($this->pages as $i => $page) {
            if ($page->source !== $source || $page->page !== $i + 1 || ! $page->isAsItCame()) {
                return false;
            }
        }

        return count($this->pages) === $count;
    }

    public function isAsItCame(): bool
    {
        return array_filter($this->pages, static fn (SortedPage $page): bool => ! $page->isAsItCame()) === [];
    }
}
