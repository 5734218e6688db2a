<?php

declare(strict_types=1);

namespace Brenvic\Core\Fields\Kinds;

use Brenvic\Core\Fields\DateRange;
use Brenvic\Core\Fields\FieldDefinition;

/** A stretch of days. The normal form is an ISO 8601 interval (`2019-03/2019-05`). */
final class DateRangeKind extends DateKind
{
    public function __construct()
    {
        parent::__construct('date_range', 'Date range');
    }

    public function hint(): string
    {
        return 'Mar 2024 to 14 May 2024';
    }

    public function isStretch(): bool
    {
        return true;
    }

    public function hasPrecision(): bool
    {
        return false;
    }

    public function mayBeMultiple(): bool
    {
        return false;
    }

    public function mayBeFaceted(): bool
    {
        return false;
    }

    public function parse(FieldDefinition $field, string $text): string
    {
        return DateRange::parse($text)->iso();
    }

    public function display(FieldDefinition $field, string $normal): string
    {
        return DateRange::parse($normal)->display($field->form->dates);
    }

    public function displayRange(FieldDefinition $field, string $from, string $to): string
    {
        return DateRange::parse("{$from}/{$to}")->display($field->form->dates);
    }

    public function formats(): array
    {
        return [];
    }

    public function formatted(FieldDefinition $field, string $normal, string $format): string
    {
        return $field->display($normal);
    }

    public function counted(FieldDefinition $field, string $normal): array
    {
        return DateRange::parse($normal)->years();
    }

    public function ordinal(FieldDefinition $field, string $normal): int
    {
        return DateRange::parse($normal)->firstDay();
    }

    public function lastOrdinal(FieldDefinition $field, string $normal): int
    {
        return DateRange::parse($normal)->lastDay();
    }
}
