<?php

declare(strict_types=1);

namespace Brenvic\Core\Index;

use GMP;

/**
 * A whole number for each of some documents, kept as one bit string per binary digit (a bit-sliced index: O'Neil and
 * Quass, “Improved query performance with variant indexes”, SIGMOD 1997). Ranges, sums and the highest-ranking
 * documents come out of a few operations a digit, whatever the number of documents.
 */
final class BitSlices
{
    /** @var array<int, array<int, GMP>> segment => digit => bits, those already converted */
    private array $numbers = [];

    private ?int $width = null;

    /**
     * @param  array<int, array<int, string>>  $slices  segment => binary digit (0 is the lowest) => bits; absent digits are 0
     * @param  DocumentSet  $present  the documents that have a number
     */
    public function __construct(public readonly array $slices, public readonly DocumentSet $present)
    {
    }

    public function width(): int
    {
        return $this->width ??= array_reduce(
            $this->slices,
            static fn (int $width, array $digits): int => $digits === [] ? $width : max($width, max(array_keys($digits)) + 1),
            0,
        );
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

    /** The numbers of `$others` where there are such, these elsewhere. */
    public function below(self $others): self
    {
        $slices = [];
        for ($digit = max($this->width(), $others->width()) - 1; $digit >= 0; $digit--) {
            foreach ($this->digit($digit)->minus($others->present)->or($others->digit($digit))->segments as $segment => $bits) {
                $slices[$segment][$digit] = $bits;
            }
        }

        return new self($slices, $this->present->or($others->present));
    }

    /** The number of a document, 0 when it has none. */
    public function value(int $document): int
    {
        return $this->values([$document])[$document] ?? 0;
    }

    /**
     * @param  list<int>  $documents
     * @return array<int, int> document => number, for those that have one
     */
    public function values(array $documents): array
    {
        $values = [];
        foreach ($documents as $document) {
            if (! $this->present->has($document)) {
                continue;
            }
            $value = 0;
            $at = ($document & 0xFFFF) >> 3;
            $bit = $document & 7;
            foreach ($this->slices[$document >> 16] ?? [] as $digit => $bits) {
                $value |= ((ord($bits[$at]) >> $bit) & 1) << $digit;
            }
            $values[$document] = $value;
        }

        return $values;
    }

    /** The highest number of some documents that all have one, or the lowest. */
    public function extreme(DocumentSet $documents, bool $highest): int
    {
        $left = array_map(Bits::number(...), $documents->segments);
        $number = 0;
        for ($digit = $this->width() - 1; $digit >= 0; $digit--) {
            $further = [];
            foreach ($left as $segment => $bits) {
                $ones = gmp_and($bits, $this->number($segment, $digit) ?? 0);
                $part = $highest ? $ones : gmp_xor($bits, $ones);
                if (gmp_sign($part) !== 0) {
                    $further[$segment] = $part;
                }
            }
            $number |= ($further !== []) === $highest ? 1 << $digit : 0;
            $left = $further === [] ? $left : $further;
        }

        return $number;
    }

    /** The sum of the numbers of some documents, as large as it may be. */
    public function sum(DocumentSet $documents): GMP
    {
        $sum = gmp_init(0);
        foreach ($documents->segments as $segment => $bits) {
            $within = Bits::number($bits);
            foreach (array_keys($this->slices[$segment] ?? []) as $digit) {
                $ones = $this->number($segment, $digit);
                $sum = $ones === null ? $sum : gmp_add($sum, gmp_mul(gmp_pow(2, $digit), gmp_popcount(gmp_and($within, $ones))));
            }
        }

        return $sum;
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
        foreach ($this->present->segments as $segment => $bits) {
            $equal = Bits::number($bits);
            $greater = gmp_init(0);
            for ($digit = $width - 1; $digit >= 0; $digit--) {
                $isSet = (($bound >> $digit) & 1) === 1;
                $slice = $this->slices[$segment][$digit] ?? null;
                // Most upper digits are the same in all: none has them, or every one.
                if ($slice === null || $slice === $bits) {
                    if ($isSet === ($slice === $bits)) {
                        continue;
                    }
                    $greater = $isSet ? $greater : gmp_or($greater, $equal);
                    break;
                }
                $with = gmp_and($equal, $this->number($segment, $digit) ?? 0);
                if (! $isSet) {
                    $greater = gmp_or($greater, $with);
                    $equal = gmp_xor($equal, $with);
                } else {
                    $equal = $with;
                }
            }
            $segments[$segment] = Bits::string($greater);
        }

        return new DocumentSet($segments);
    }

    /**
     * The documents of `$set`, which all have a number, that are ranked in `[$offset, $offset + $limit)` by their number, with all that share
     * the number of the first or the last of them.
     *
     * @return array{DocumentSet, int} the documents, and how many of `$set` stand before them
     */
    public function ranked(DocumentSet $set, int $offset, int $limit, bool $descending): array
    {
        [$chosen, $equals] = $this->descend($set, $offset + $limit, $descending);
        $upTo = $chosen->or($equals);
        if ($offset === 0) {
            return [$upTo, 0];
        }
        [$before] = $this->descend($upTo, $offset + 1, $descending);

        return [$upTo->minus($before), $before->count()];
    }

    /** @return array{DocumentSet, DocumentSet} those surely among the first `$count`, and the group of equals that fills it up */
    private function descend(DocumentSet $set, int $count, bool $descending): array
    {
        $candidates = array_map(Bits::number(...), $set->segments);
        $chosen = [];
        $left = min($count, array_sum(array_map(gmp_popcount(...), $candidates)));
        for ($digit = $this->width() - 1; $digit >= 0; $digit--) {
            $first = $second = [];
            $here = 0;
            foreach ($candidates as $segment => $bits) {
                $ones = $this->number($segment, $digit);
                $with = $ones === null ? gmp_init(0) : gmp_and($bits, $ones);
                $without = $ones === null ? $bits : gmp_xor($bits, $with);
                [$first[$segment], $second[$segment]] = $descending ? [$with, $without] : [$without, $with];
                $here += gmp_popcount($first[$segment]);
            }
            if ($here >= $left) {
                $candidates = $first;
            } else {
                foreach ($first as $segment => $bits) {
                    $chosen[$segment] = isset($chosen[$segment]) ? gmp_or($chosen[$segment], $bits) : $bits;
                }
                $candidates = $second;
                $left -= $here;
            }
            // Segments without candidates need not be looked at again.
            $candidates = array_filter($candidates, static fn (GMP $bits): bool => gmp_sign($bits) !== 0);
        }

        return [self::set($chosen), self::set($candidates)];
    }

    /**
     * This with `$factor` times `$other` added, digit by digit as on paper. A document absent from one counts 0 there.
     */
    public function plus(self $other, int $factor = 1): self
    {
        $slices = $this->slices;
        foreach ($other->slices as $segment => $digits) {
            $sum = array_map(Bits::number(...), $slices[$segment] ?? []);
            $numbers = array_map(Bits::number(...), $digits);
            for ($shift = 0; $factor >> $shift !== 0; $shift++) {
                if ((($factor >> $shift) & 1) === 1) {
                    $sum = self::add($sum, $numbers, $shift);
                }
            }
            $slices[$segment] = array_map(static fn (GMP $bits): string => Bits::string($bits), $sum);
        }

        return new self($slices, $this->present->or($other->present));
    }

    /**
     * @param  array<int, GMP>  $sum
     * @param  array<int, GMP>  $digits
     * @return array<int, GMP>
     */
    private static function add(array $sum, array $digits, int $shift): array
    {
        $carry = null;
        $top = $digits === [] ? -1 : max(array_keys($digits));
        for ($digit = 0; $digit <= $top || $carry !== null; $digit++) {
            $a = $sum[$digit + $shift] ?? null;
            $b = $digits[$digit] ?? null;
            $set = array_values(array_filter([$a, $b, $carry], static fn (?GMP $bits): bool => $bits !== null));
            $carry = null;
            if (count($set) === 1) {
                $sum[$digit + $shift] = $set[0];
            } elseif (count($set) === 2) {
                $sum[$digit + $shift] = gmp_xor($set[0], $set[1]);
                $carry = gmp_and($set[0], $set[1]);
            } elseif (count($set) === 3) {
                $half = gmp_xor($set[0], $set[1]);
                $sum[$digit + $shift] = gmp_xor($half, $set[2]);
                $carry = gmp_or(gmp_and($set[0], $set[1]), gmp_and($half, $set[2]));
            }
            if ($carry !== null && gmp_sign($carry) === 0) {
                $carry = null;
            }
        }

        return $sum;
    }

    private function number(int $segment, int $digit): ?GMP
    {
        if (! isset($this->slices[$segment][$digit])) {
            return null;
        }

        return $this->numbers[$segment][$digit] ??= Bits::number($this->slices[$segment][$digit]);
    }

    /** @param  array<int, GMP>  $segments */
    private static function set(array $segments): DocumentSet
    {
        return new DocumentSet(array_map(static fn (GMP $bits): string => Bits::string($bits), $segments));
    }
}
