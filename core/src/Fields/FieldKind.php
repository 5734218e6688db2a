<?php

declare(strict_types=1);

namespace Brenvic\Core\Fields;

/** What the values of an index field are. The value is the code used in design files and the API. */
enum FieldKind: string
{
    case Text = 'text';
    case LongText = 'long_text';
    case Choice = 'choice';
    case Number = 'number';
    case Date = 'date';
    case YesNo = 'yes_no';
    case Identifier = 'identifier';
    case Person = 'person';

    public function label(): string
    {
        return match ($this) {
            self::Text => 'Text',
            self::LongText => 'Long text',
            self::Choice => 'Choice',
            self::Number => 'Number',
            self::Date => 'Date',
            self::YesNo => 'Yes or no',
            self::Identifier => 'Identifier',
            self::Person => 'Person',
        };
    }

    /** Values that have an order along a line: they take ranges and sort as numbers. */
    public function isOrdered(): bool
    {
        return $this === self::Number || $this === self::Date;
    }

    /** Values whose single words can be looked up, not only the value as a whole. */
    public function hasWords(): bool
    {
        return match ($this) {
            self::Text, self::LongText, self::Person, self::Identifier, self::Choice => true,
            self::Number, self::Date, self::YesNo => false,
        };
    }

    /** Whether the values may be listed with counts. */
    public function mayBeFaceted(): bool
    {
        return $this !== self::LongText;
    }
}
