<?php

declare(strict_types=1);

namespace Brenvic\Core\Retention;

use Brenvic\Core\Fields\PartialDate;
use DateTimeImmutable;

/** Three months of the calendar, in which documents fall due together. */
final readonly class Quarter
{
    /**
     * @param  int  $number  1 to 4
     * @param  int  $firstDay  as PartialDate counts days, as the last
     */
    private function __construct(
        public int $year,
        public int $number,
        public int $firstDay,
        public int $lastDay,
    ) {
    }

    public static function number(int $year, int $number): self
    {
        return new self(
            $year,
            $number,
            PartialDate::parse(sprintf('%04d-%02d', $year, $number * 3 - 2))->firstDay(),
            PartialDate::parse(sprintf('%04d-%02d', $year, $number * 3))->lastDay(),
        );
    }

    public static function with(DateTimeImmutable $day): self
    {
        return self::number((int) $day->format('Y'), intdiv((int) $day->format('n') - 1, 3) + 1);
    }

    public function next(): self
    {
        return $this->number === 4 ? self::number($this->year + 1, 1) : self::number($this->year, $this->number + 1);
    }

    /** As "2026-Q4". */
    public function code(): string
    {
        return sprintf('%04d-Q%d', $this->year, $this->number);
    }

    /** As "Oct to Dec 2026". */
    public function words(): string
    {
        $months = ['Jan to Mar', 'Apr to Jun', 'Jul to Sep', 'Oct to Dec'];

        return "{$months[$this->number - 1]} {$this->year}";
    }
}
