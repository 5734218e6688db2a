<?php

declare(strict_types=1);

namespace Brenvic\Core\Search;

/** The relations people choose for a criterion on a field; CQL's relations are what they become. */
enum Relation: string
{
    case Is = 'is';
    case IsNot = 'is_not';
    case Contains = 'contains';
    case Between = 'between';
    case AtLeast = 'at_least';
    case AtMost = 'at_most';
    case IsEmpty = 'is_empty';
    case IsFilled = 'is_filled';

    public function words(): string
    {
        return match ($this) {
            self::Is => 'is',
            self::IsNot => 'is not',
            self::Contains => 'contains',
            self::Between => 'between',
            self::AtLeast => 'from',
            self::AtMost => 'up to',
            self::IsEmpty => 'is empty',
            self::IsFilled => 'is filled in',
        };
    }
}
