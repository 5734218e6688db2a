<?php

declare(strict_types=1);

namespace Brenvic\Core\Search\Asking;

use Brenvic\Core\Fields\FieldKind;

/** The relations people choose for a criterion on a field; CQL's relations are what they become. */
enum Relation: string
{
    case Is = 'is';
    case IsNot = 'is_not';
    case IsJust = 'is_just';
    case Contains = 'contains';
    case BeginsWith = 'begins_with';
    case Between = 'between';
    case AtLeast = 'at_least';
    case AtMost = 'at_most';
    case Above = 'above';
    case Below = 'below';
    case IsEmpty = 'is_empty';
    case IsFilled = 'is_filled';

    public function words(FieldKind $kind): string
    {
        return match ($this) {
            self::Is => 'is',
            self::IsNot => 'is not',
            self::IsJust => 'is exactly',
            self::Contains => 'contains',
            self::BeginsWith => 'begins with',
            self::Between => 'between',
            self::AtLeast => 'from',
            self::AtMost => 'up to',
            self::Above => $kind->isDate() ? 'after' : 'above',
            self::Below => $kind->isDate() ? 'before' : 'below',
            self::IsEmpty => 'is empty',
            self::IsFilled => 'is filled in',
        };
    }
}
