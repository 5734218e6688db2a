<?php

declare(strict_types=1);

namespace Demo;

use Random\Engine\Mt19937;
use Random\Randomizer;

/** Chance that falls the same way on every run. */
final class Chance
{
    private readonly Randomizer $randomizer;

    public function __construct(int $seed)
    {
        $this->randomizer = new Randomizer(new Mt19937($seed));
    }

    public function int(int $low, int $high): int
    {
        return $this->randomizer->getInt($low, $high);
    }

    public function oneIn(int $times): bool
    {
        return $this->int(1, $times) === 1;
    }

    /**
     * @template T
     *
     * @param  non-empty-list<T>  $of
     * @return T
     */
    public function pick(array $of): mixed
    {
        return $of[$this->int(0, count($of) - 1)];
    }

    public function date(int $firstYear, int $lastYear): string
    {
        return sprintf('%04d-%02d-%02d', $this->int($firstYear, $lastYear), $this->int(1, 12), $this->int(1, 28));
    }
}
