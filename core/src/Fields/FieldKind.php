<?php

declare(strict_types=1);

namespace Brenvic\Core\Fields;

/**
 * What the values of an index field are: how they are read, checked and shown, how they are filed and found, and what they
 * are given with. Each kind is a class of its own (in Kinds); what is not said there is as it is here, where a value is a
 * text that is found by its words. Kinds have no state: two of the same class are the same.
 */
abstract class FieldKind
{
    private const MAX_LENGTH = 1000;

    /**
     * @param  string  $value  the code used in design files and the API
     * @param  string  $label  what people call it
     */
    public function __construct(public readonly string $value, private readonly string $label)
    {
    }

    public function label(): string
    {
        return $this->label;
    }

    /** The part of the interface (in web/parts/kinds) that values are given with and shown by. */
    public function widget(): string
    {
        return 'text';
    }

    /** What a value may look like, shown where none is given yet. */
    public function hint(): string
    {
        return '';
    }

    /**
     * What a librarian decides of a field of the kind, of: vocabulary, unit, currency, bounds, refers_to, pattern, max_length,
     * default.
     *
     * @return list<string>
     */
    public function options(): array
    {
        return ['default'];
    }

    // What kind of values they are.

    /** Values that have an order along a line: they take ranges and sort by their places on it. */
    public function isOrdered(): bool
    {
        return false;
    }

    public function isNumber(): bool
    {
        return false;
    }

    /** Days, in their order. A range lies where it begins. */
    public function isDate(): bool
    {
        return false;
    }

    /** Values from one place on the line to another, which are found by every place between. */
    public function isStretch(): bool
    {
        return false;
    }

    /** Values that may be known only in part, like a date of which only the year is known. */
    public function hasPrecision(): bool
    {
        return false;
    }

    /** Values that can be added up. */
    public function hasSum(): bool
    {
        return false;
    }

    /** Values that are counted by ranges and not one by one. */
    public function hasRanges(): bool
    {
        return false;
    }

    /** Values that are chosen from a vocabulary. */
    public function isChosen(): bool
    {
        return false;
    }

    /** Values that are codes, which people read by their labels. */
    public function isCoded(): bool
    {
        return false;
    }

    /** Whether any text at all is a value. */
    public function takesAnyText(): bool
    {
        return false;
    }

    /** Whether a document may have several. A range with gaps is two fields’ work. */
    public function mayBeMultiple(): bool
    {
        return true;
    }

    /** Whether the values may be listed with counts. */
    public function mayBeFaceted(): bool
    {
        return true;
    }

    /** Values whose single words can be looked up, not only the value as a whole. */
    public function hasWords(): bool
    {
        return true;
    }

    /** Whether anybody looks for a value as a whole, and wants it completed. */
    public function isSoughtWhole(): bool
    {
        return true;
    }

    /** Whether a search form asks for a value as it is, and not for a part of it. */
    public function isExact(): bool
    {
        return $this->isOrdered() || $this->isCoded();
    }

    // Reading, checking, showing.

    /**
     * Whether a field may be defined so.
     *
     * @throws InvalidDefinition
     */
    public function check(FieldDefinition $field): void
    {
    }

    /**
     * Reads what a person or a file gave.
     *
     * @param  string  $text  with something in it, and no white space around it
     * @return string the normal form
     *
     * @throws InvalidValue
     */
    abstract public function parse(FieldDefinition $field, string $text): string;

    /** A normal form made readable. */
    public function display(FieldDefinition $field, string $normal): string
    {
        return $normal;
    }

    /** A range made readable, with its unit once; just the value when both ends are one. */
    public function displayRange(FieldDefinition $field, string $from, string $to): string
    {
        return $from === $to ? $field->display($from) : "{$field->display($from)} to {$field->display($to)}";
    }

    /** @return array<string, string> ways in which a column may show the values, beside their own: code => in words */
    public function formats(): array
    {
        return [];
    }

    /** A normal form shown in one of the ways of `formats`; in its own where that is another’s. */
    public function formatted(FieldDefinition $field, string $normal, string $format): string
    {
        return $field->display($normal);
    }

    /** @return string|array<string, string> the datatype of the normal forms as CSVW has it (after XML Schema) */
    public function datatype(): string|array
    {
        return 'string';
    }

    // Filing.

    /**
     * What a value is counted and found as.
     *
     * @return list<string>
     */
    public function counted(FieldDefinition $field, string $normal): array
    {
        return [$normal];
    }

    /**
     * The values directly above one among those that are counted.
     *
     * @return list<string>
     */
    public function above(FieldDefinition $field, string $value): array
    {
        return [];
    }

    /** Where a value lies on the line, or begins, as an integer the index can slice. Null for kinds without an order. */
    public function ordinal(FieldDefinition $field, string $normal): ?int
    {
        return null;
    }

    /** The last place that a value has on the line. */
    public function lastOrdinal(FieldDefinition $field, string $normal): ?int
    {
        return $this->ordinal($field, $normal);
    }

    /** The normal form of the value at a place on the line. */
    public function ofOrdinal(int $ordinal): string
    {
        return FieldDefinition::numberOfOrdinal($ordinal);
    }

    /**
     * The order that is not that of the letters.
     *
     * @param  list<string>  $values
     * @return array<string, int> value => place; those that are not named come last
     */
    public function places(FieldDefinition $field, array $values): array
    {
        return $this->isOrdered()
            ? array_map(static fn (string $value): int => (int) $field->ordinal($value), array_combine($values, $values))
            : [];
    }

    // Finding.

    /**
     * What a person gave for a criterion, as the query keeps it.
     *
     * @throws InvalidValue
     */
    public function asked(FieldDefinition $field, string $value, Calendar $calendar): string
    {
        return $field->parse($value) ?? '';
    }

    /**
     * A value of a query made readable.
     *
     * @throws InvalidValue when it is none
     */
    public function displayAsked(FieldDefinition $field, string $value): string
    {
        return $this->isOrdered() ? $field->display($value) : $value;
    }

    /**
     * The normal form of a value that a query looks for as a whole.
     *
     * @throws InvalidValue
     */
    public function sought(FieldDefinition $field, string $plain): string
    {
        return $plain;
    }

    /**
     * The first and last place on the line that a value of a query stands for. What is looked for need not be allowed as a
     * value: bounds of the field do not apply.
     *
     * @return array{int, int}
     *
     * @throws InvalidValue
     */
    public function span(FieldDefinition $field, string $term, Calendar $calendar): array
    {
        $plain = new FieldDefinition($field->code, $field->label, $this, unit: $field->unit, system: true);
        $normal = $plain->parse($term);
        if ($normal === null) {
            throw new InvalidValue("Give a value for {$field->label}.");
        }

        return [(int) $this->ordinal($plain, $normal), (int) $this->lastOrdinal($plain, $normal)];
    }

    /**
     * The first and last place of a range: two values with a space between them.
     *
     * @return array{int, int}
     *
     * @throws InvalidValue
     */
    public function range(FieldDefinition $field, string $term, Calendar $calendar): array
    {
        $ends = preg_split('/\s+/', trim($term), -1, PREG_SPLIT_NO_EMPTY) ?: [];
        if (count($ends) !== 2) {
            throw new InvalidValue("within takes two values of {$field->label} with a space between them, like {$this->rangeExample()}.");
        }

        return [$this->span($field, $ends[0], $calendar)[0], $this->span($field, $ends[1], $calendar)[1]];
    }

    protected function rangeExample(): string
    {
        return '“0.5 1.5”';
    }

    /** Whether a value stands for a whole stretch by itself. */
    public function isSpan(string $value, Calendar $calendar): bool
    {
        return false;
    }

    // What several kinds read alike.

    /** @throws InvalidValue */
    protected function short(FieldDefinition $field, string $text): string
    {
        return $this->bounded($field, $text, min($field->maxLength ?? self::MAX_LENGTH, self::MAX_LENGTH));
    }

    /** @throws InvalidValue */
    protected function bounded(FieldDefinition $field, string $text, int $length): string
    {
        if (mb_strlen($text) > $length) {
            throw new InvalidValue("{$field->label} is longer than {$length} characters.");
        }

        return $text;
    }

    /**
     * Holds a text against the field’s pattern.
     *
     * @throws InvalidValue
     */
    protected function fitting(FieldDefinition $field, string $text): string
    {
        if ($field->pattern === '') {
            return $text;
        }
        $expression = '';
        foreach (mb_str_split($field->pattern) as $sign) {
            $expression .= match ($sign) {
                '9' => '[0-9]',
                'A' => '[A-Z]',
                'X', '?' => '[0-9A-Z]',
                default => preg_quote($sign, '/'),
            };
        }
        if (preg_match("/^{$expression}$/u", $text) !== 1) {
            $words = "{$field->pattern}, where 9 is a digit, A a letter".(str_contains($field->pattern, '?') ? ' and ? the check character' : '');
            throw new InvalidValue("“{$text}” does not have the form of {$field->label}: {$words}.");
        }

        return $text;
    }

    /**
     * Holds a text against its check character.
     *
     * @throws InvalidValue
     */
    protected function checked(string $text): string
    {
        if (! CheckCharacter::holds($text)) {
            throw new InvalidValue("The check character of “{$text}” does not fit: ".CheckCharacter::likelySlip($text));
        }

        return $text;
    }
}
