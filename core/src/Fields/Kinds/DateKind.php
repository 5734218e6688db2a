<?php

declare(strict_types=1);

namespace Brenvic\Core\Fields\Kinds;

use Brenvic\Core\Fields\Calendar;
use Brenvic\Core\Fields\DateSpan;
use Brenvic\Core\Fields\FieldDefinition;
use Brenvic\Core\Fields\FieldKind;
use Brenvic\Core\Fields\InvalidValue;
use Brenvic\Core\Fields\PartialDate;

/** A date as precisely as it is known. The normal form is ISO 8601: a day, a month or a year. */
class DateKind extends FieldKind
{
    public function __construct(string $value = 'date', string $label = 'Date')
    {
        parent::__construct($value, $label);
    }

    public function widget(): string
    {
        return 'date';
    }

    public function hint(): string
    {
        return '14 Mar 2024, 2024-03 or 2024';
    }

    public function isOrdered(): bool
    {
        return true;
    }

    public function isDate(): bool
    {
        return true;
    }

    public function hasPrecision(): bool
    {
        return true;
    }

    public function hasWords(): bool
    {
        return false;
    }

    public function parse(FieldDefinition $field, string $text): string
    {
        return PartialDate::parse($text)->iso();
    }

    public function display(FieldDefinition $field, string $normal): string
    {
        return $field->form->dates->write(PartialDate::parse($normal));
    }

    public function formats(): array
    {
        return ['year' => 'year', 'month' => 'month and year', 'iso' => 'ISO 8601'];
    }

    public function formatted(FieldDefinition $field, string $normal, string $format): string
    {
        $date = PartialDate::parse($normal);

        return match ($format) {
            'year' => sprintf('%04d', $date->year),
            'month' => $field->form->dates->write(PartialDate::parse(substr($date->iso(), 0, 7))),
            'iso' => $date->iso(),
            default => $field->form->dates->write($date),
        };
    }

    public function counted(FieldDefinition $field, string $normal): array
    {
        return array_values(array_unique([substr($normal, 0, 4), substr($normal, 0, 7)]));
    }

    /** The year of a month. */
    public function above(FieldDefinition $field, string $value): array
    {
        return strlen($value) > 4 ? [substr($value, 0, 4)] : [];
    }

    public function ordinal(FieldDefinition $field, string $normal): int
    {
        return PartialDate::parse($normal)->firstDay();
    }

    public function lastOrdinal(FieldDefinition $field, string $normal): int
    {
        return PartialDate::parse($normal)->lastDay();
    }

    public function ofOrdinal(int $ordinal): string
    {
        return PartialDate::ofDay($ordinal)->iso();
    }

    public function asked(FieldDefinition $field, string $value, Calendar $calendar): string
    {
        try {
            // What is looked for in a field of stretches is a date like any other.
            return PartialDate::parse($value)->iso();
        } catch (InvalidValue $fault) {
            // “last year” stays as it is: it means another year when the search is opened again.
            return $this->isSpan($value, $calendar) ? DateSpan::kept($value, $calendar) : throw $fault;
        }
    }

    public function displayAsked(FieldDefinition $field, string $value): string
    {
        return str_contains($value, '/') || preg_match('/-w/i', $value) === 1
            ? DateSpan::display($value, $field->form->dates)
            : parent::displayAsked($field, $value);
    }

    public function span(FieldDefinition $field, string $term, Calendar $calendar): array
    {
        $span = DateSpan::parse($term, $calendar);

        return [$span->first, $span->last];
    }

    public function range(FieldDefinition $field, string $term, Calendar $calendar): array
    {
        try {
            $span = DateSpan::parseRange($term, $calendar);

            return [$span->first, $span->last];
        } catch (InvalidValue) {
            throw new InvalidValue(
                "within takes a stretch of time for {$field->label}, or two dates with a space between them, like “2019-01 2019-06” or “last year”.",
            );
        }
    }

    public function isSpan(string $value, Calendar $calendar): bool
    {
        try {
            return DateSpan::parse($value, $calendar)->first > 0;
        } catch (InvalidValue) {
            return false;
        }
    }
}
