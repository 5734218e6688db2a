<?php

declare(strict_types=1);

namespace Brenvic\Core\Reading;

/** What a rule read in a document. */
final readonly class Reading
{
    /**
     * @param  list<Found>  $found  in the order of the text
     * @param  bool  $isCut  whether the document goes on where it was not read any more
     */
    public function __construct(public array $found, public bool $isCut)
    {
    }

    /** @return list<string> each value once, in the order in which they were found */
    public function values(): array
    {
        return array_values(array_unique(array_map(static fn (Found $found): string => $found->value, $this->found)));
    }

    /**
     * What is proposed for a field: all values where it takes several, else the first.
     *
     * @return list<Found> each value once
     */
    public function proposed(bool $several): array
    {
        $proposed = [];
        foreach ($this->found as $found) {
            $proposed[$found->value] ??= $found;
        }

        return array_slice(array_values($proposed), 0, $several ? null : 1);
    }
}
