<?php

declare(strict_types=1);

namespace Brenvic\Core\Fields;

use DateTimeImmutable;

/** What people's words for stretches of time refer to: the present day, and the month the fiscal year begins with. */
final readonly class Calendar
{
    public function __construct(
        public DateTimeImmutable $today,
        public int $fiscalYearStart = 4,
    ) {
    }

    public static function today(int $fiscalYearStart = 4): self
    {
        return new self(new DateTimeImmutable('today'), $fiscalYearStart);
    }
}
