<?php

declare(strict_types=1);

namespace Brenvic\Core\Query;

/** One key of `sortBy`. */
final readonly class SortKey
{
    /** @param  list<Modifier>  $modifiers */
    public function __construct(
        public string $index,
        public array $modifiers = [],
    ) {
    }

    public static function of(string $index, bool $descending): self
    {
        return new self($index, $descending ? [new Modifier('sort.descending')] : []);
    }

    public function descending(): bool
    {
        foreach ($this->modifiers as $modifier) {
            if ($modifier->name === 'sort.descending' || $modifier->name === 'descending') {
                return true;
            }
        }

        return false;
    }
}
