<?php

declare(strict_types=1);

namespace Brenvic\Core\Index;

use GMP;

/**
 * Some documents of a segment, laid over byte columns to count their values. `count_chars` is twice as fast when
 * neighbouring bytes differ (each waits for the count it adds to), so that the bytes of all other documents are not
 * made zero but take turns among four values, which are subtracted again.
 */
final class ColumnMask
{
    private const TURNS = "\0\1\2\3";

    private static ?GMP $turns = null;

    private readonly GMP $mask;

    private readonly GMP $filling;

    /** @var array<int, int> byte => how often it stands in the filling */
    private readonly array $filled;

    /** @param  string  $bits  of the documents */
    public function __construct(string $bits)
    {
        self::$turns ??= Bits::number(str_repeat(self::TURNS, intdiv(Bits::SEGMENT_DOCUMENTS, strlen(self::TURNS))));
        $this->mask = Bits::number(Bits::spread($bits));
        $this->filling = gmp_xor(self::$turns, gmp_and(self::$turns, $this->mask));
        $this->filled = self::counts(gmp_init(0), $this->filling);
    }

    /**
     * @param  string  $column  one byte a document
     * @return array<int, int> byte above zero => documents that have it
     */
    public function count(string $column): array
    {
        $counts = self::counts(gmp_and(Bits::number($column), $this->mask), $this->filling);
        foreach ($this->filled as $byte => $count) {
            $counts[$byte] -= $count;
            if ($counts[$byte] === 0) {
                unset($counts[$byte]);
            }
        }
        unset($counts[0]);

        return $counts;
    }

    /** @return array<int, int> */
    private static function counts(GMP $bytes, GMP $filling): array
    {
        return count_chars(Bits::bytes(gmp_or($bytes, $filling)), 1);
    }
}
