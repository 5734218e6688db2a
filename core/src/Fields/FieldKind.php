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
    case Amount = 'amount';
    case Date = 'date';
    case DateRange = 'date_range';
    case YesNo = 'yes_no';
    case Identifier = 'identifier';
    case Person = 'person';
    case Reference = 'reference';

    public function label(): string
    {
        return match ($this) {
            self::Text => 'Text',
            self::LongText => 'Long text',
            self::Choice => 'Choice',
            self::Number => 'Number',
            self::Amount => 'Amount',
            self::Date => 'Date',
            self::DateRange => 'Date range',
            self::YesNo => 'Yes or no',
            self::Identifier => 'Identifier',
            self::Person => 'Person',
            self::Reference => 'Reference',
        };
    }

    /** Values that have an order along a line: they take ranges and sort as numbers. */
    public function isOrdered(): bool
    {
        return $this->isNumber() || $this->isDate();
    }

    public function isNumber(): bool
    {
        return $this === self::Number || $this === self::Amount;
    }

    /** Days, in their order. A range lies where it begins. */
    public function isDate(): bool
    {
        return $this === self::Date || $this === self::DateRange;
    }

    /** Whether a document may have several. A range with gaps is two fields’ work. */
    public function mayBeMultiple(): bool
    {
        return $this !== self::DateRange && $this !== self::LongText;
    }

    /** Values whose single words can be looked up, not only the value as a whole. */
    public function hasWords(): bool
    {
        return match ($this) {
            self::Text, self::LongText, self::Person, self::Identifier, self::Choice, self::Reference => true,
            self::Number, self::Amount, self::Date, self::DateRange, self::YesNo => false,
        };
    }

    /** Whether the values may be listed with counts. */
    public function mayBeFaceted(): bool
    {
        return $this !== self::LongText && $this !== self::DateRange;
    }
}
