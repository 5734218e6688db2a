<?php

declare(strict_types=1);

namespace Brenvic\Core\Fields;

/** A stretch of days with two known ends, each as precise as it is known (an ISO 8601 interval, `2019-03/2019-05-14`). */
final readonly class DateRange
{
    private function __construct(public PartialDate $from, public PartialDate $to)
    {
    }

    /**
     * Reads two dates with `/`, `to`, `until` or a dash between them; one date is both ends.
     *
     * @throws InvalidValue
     */
    public static function parse(string $text): self
    {
        $ends = preg_split('#(?<![./]\d|[./]\d\d)\s*/\s*(?=\d{4})|\s+(?:to|until|–|-)\s+|\s*–\s*#u', trim($text)) ?: [];
        if (count($ends) > 2) {
            throw new InvalidValue("“{$text}” is not a date range. Write it like Mar 2019 to 14 May 2019, or 2019-03/2019-05.");
        }
        $from = PartialDate::parse($ends[0]);
        $to = isset($ends[1]) ? PartialDate::parse($ends[1]) : $from;
        if ($from->firstDay() > $to->lastDay()) {
            throw new InvalidValue("“{$text}” ends before it begins.");
        }

        return new self($from, $to);
    }

    public function iso(): string
    {
        return "{$this->from->iso()}/{$this->to->iso()}";
    }

    public function display(DateForm $form = DateForm::Words): string
    {
        $from = $form->write($this->from);

        return $this->from->iso() === $this->to->iso() ? $from : "{$from} to {$form->write($this->to)}";
    }

    /** @return list<string> each year that a day of it lies in; of very long stretches the first three hundred */
    public function years(): array
    {
        return array_map(
            static fn (int $year): string => sprintf('%04d', $year),
            range($this->from->year, min($this->to->year, $this->from->year + 299)),
        );
    }

    public function firstDay(): int
    {
        return $this->from->firstDay();
    }

    public function lastDay(): int
    {
        return $this->to->lastDay();
    }
}
