<?php

declare(strict_types=1);

namespace Brenvic\Core\Index;

/**
 * A whole number for each of some documents, kept as one bit string per binary digit (a bit-sliced index: O'Neil and
 * Quass, “Improved query performance with variant indexes”, SIGMOD 1997). Ranges, sums and the highest-ranking
 * documents come out of a few operations a digit, whatever the number of documents.
 */
final readonly class BitSlices
{
    /**
     * @param  array<int, array<int, string>>  $slices  segment => binary digit (0 is the lowest) => bits; absent digits are 0
     * @param  DocumentSet  $present  the documents that have a number
     */
    public function __construct(
        public array $slices,
        public DocumentSet $present,
    ) {
    }

    public function width(): int
    {
        $width = 0;
        foreach ($this->slices as $digits) {
            foreach ($digits as $digit => $_) {
                $width = max($width, $digit + 1);
            }
        }

        return $width;
    }

    /** The documents whose number has a binary digit set. */
    public function digit(int $digit): DocumentSet
    {
        $segments = [];
        foreach ($this->slices as $segment => $digits) {
            if (isset($digits[$digit])) {
                $segments[$segment] = $digits[$digit];
            }
        }

        return new DocumentSet($segments);
    }

    public function value(int $document): int
    {
        $value = 0;
        foreach ($this->slices[$document >> 16] ?? [] as $digit => $bits) {
            if (Bits::has($bits, $document & 0xFFFF)) {
                $value |= 1 << $digit;
            }
        }

        return $value;
    }

    /** The documents with `$low <= number <= $high`; a null bound is open. */
    public function between(?int $low, ?int $high): DocumentSet
    {
        $set = $this->present;
        if ($high !== null) {
            $set = $set->minus($this->above($high));
        }

        return $low === null ? $set : ($low <= 0 ? $set : $set->and($this->above($low - 1)));
    }

    /** The documents whose number is greater than `$bound`. */
    public function above(int $bound): DocumentSet
    {
        if ($bound < 0) {
            return $this->present;
        }
        $width = max($this->width(), $bound === 0 ? 1 : (int) floor(log($bound, 2)) + 2);
        $segments = [];
        foreach ($this->present->segments as $segment => $equal) {
            $greater = Bits::none();
            $digits = $this->slices[$segment] ?? [];
            for ($digit = $width - 1; $digit >= 0; $digit--) {
                $bits = $digits[$digit] ?? null;
                if (($bound >> $digit & 1) === 0) {
                    if ($bits !== null) {
                        $greater |= $equal & $bits;
                        $equal &= ~$bits;
                    }
                } else {
                    $equal = $bits === null ? Bits::none() : $equal & $bits;
                }
            }
            $segments[$segment] = $greater;
        }

        return new DocumentSet($segments);
    }

    /**
     * The documents of `$set` that are ranked in `[$offset, $offset + $limit)` by their number, with all that share
     * the number of the first or the last of them.
     *
     * @return array{DocumentSet, int} the documents, and how many of `$set` stand before them
     */
    public function ranked(DocumentSet $set, int $offset, int $limit, bool $descending): array
    {
        $upTo = $this->firstRanks($set, $offset + $limit, $descending);
        if ($offset === 0) {
            return [$upTo, 0];
        }
        $boundary = $this->lastGroup($upTo, $offset, $descending);

        return [$upTo->minus($boundary), $boundary->count()];
    }

    /** The smallest set of whole groups of equal number that holds the first `$count` of `$set`. */
    private function firstRanks(DocumentSet $set, int $count, bool $descending): DocumentSet
    {
        [$chosen, $candidates] = $this->descend($set, $count, $descending);

        return $chosen->or($candidates);
    }

    /** The whole groups of equal number that end before rank `$offset`. */
    private function lastGroup(DocumentSet $set, int $offset, bool $descending): DocumentSet
    {
        [$chosen] = $this->descend($set, $offset + 1, $descending);

        return $chosen;
    }

    /** @return array{DocumentSet, DocumentSet} those surely among the first `$count`, and the group of equals that fills it up */
    private function descend(DocumentSet $set, int $count, bool $descending): array
    {
        $chosen = DocumentSet::none();
        $candidates = $set->and($this->present);
        if ($candidates->count() <= $count && $count !== PHP_INT_MAX) {
            $count = min($count, $candidates->count());
        }
        for ($digit = $this->width() - 1; $digit >= 0; $digit--) {
            $ones = [];
            foreach ($candidates->segments as $segment => $bits) {
                if (isset($this->slices[$segment][$digit])) {
                    $ones[$segment] = $bits & $this->slices[$segment][$digit];
                }
            }
            $with = new DocumentSet($ones);
            $first = $descending ? $with : $candidates->minus($with);
            $here = $first->count();
            if ($here >= $count) {
                $candidates = $first;
            } else {
                $chosen = $chosen->or($first);
                $candidates = $descending ? $candidates->minus($with) : $with;
                $count -= $here;
            }
        }

        return [$chosen, $candidates];
    }

    /**
     * This with `$factor` times `$other` added, digit by digit as on paper. A document absent from one counts 0 there.
     */
    public function plus(self $other, int $factor = 1): self
    {
        $slices = $this->slices;
        foreach ($other->slices as $segment => $digits) {
            $sum = $slices[$segment] ?? [];
            for ($shift = 0; $factor >> $shift !== 0; $shift++) {
                if (($factor >> $shift & 1) === 1) {
                    $sum = self::add($sum, $digits, $shift);
                }
            }
            $slices[$segment] = $sum;
        }

        return new self($slices, $this->present->or($other->present));
    }

    /**
     * @param  array<int, string>  $sum
     * @param  array<int, string>  $digits
     * @return array<int, string>
     */
    private static function add(array $sum, array $digits, int $shift): array
    {
        $carry = null;
        $top = $digits === [] ? -1 : max(array_keys($digits));
        for ($digit = 0; $digit <= $top || $carry !== null; $digit++) {
            $a = $sum[$digit + $shift] ?? null;
            $b = $digits[$digit] ?? null;
            $set = array_values(array_filter([$a, $b, $carry], static fn (?string $bits): bool => $bits !== null));
            $carry = null;
            if (count($set) === 1) {
                $sum[$digit + $shift] = $set[0];
            } elseif (count($set) === 2) {
                $sum[$digit + $shift] = $set[0] ^ $set[1];
                $carry = $set[0] & $set[1];
            } elseif (count($set) === 3) {
                $half = $set[0] ^ $set[1];
                $sum[$digit + $shift] = $half ^ $set[2];
                $carry = ($set[0] & $set[1]) | ($half & $set[2]);
            }
            if ($carry !== null && Bits::isEmpty($carry)) {
                $carry = null;
            }
        }

        return $sum;
    }
}
