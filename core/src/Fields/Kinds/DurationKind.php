<?php

declare(strict_types=1);

namespace Brenvic\Core\Fields\Kinds;

use Brenvic\Core\Fields\Duration;
use Brenvic\Core\Fields\FieldDefinition;
use Brenvic\Core\Fields\FieldKind;

/** How long something takes or lasts. The normal form is an ISO 8601 duration. It lies on the line by its length in seconds. */
final class DurationKind extends FieldKind
{
    public function __construct()
    {
        parent::__construct('duration', 'Duration');
    }

    public function hint(): string
    {
        return '2 h 30 min, 3 days or 1 year 6 months';
    }

    public function isOrdered(): bool
    {
        return true;
    }

    public function hasSum(): bool
    {
        return true;
    }

    public function hasWords(): bool
    {
        return false;
    }

    public function parse(FieldDefinition $field, string $text): string
    {
        return Duration::parse($text)->iso();
    }

    public function display(FieldDefinition $field, string $normal): string
    {
        return Duration::parse($normal)->display();
    }

    public function datatype(): string
    {
        return 'duration';
    }

    public function ordinal(FieldDefinition $field, string $normal): int
    {
        return FieldDefinition::numberOrdinal(Duration::parse($normal)->length());
    }

    public function ofOrdinal(int $ordinal): string
    {
        return Duration::ofLength((int) FieldDefinition::numberOfOrdinal($ordinal))->iso();
    }

    protected function rangeExample(): string
    {
        return '“PT30M PT2H”';
    }
}
