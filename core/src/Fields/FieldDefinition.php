<?php

declare(strict_types=1);

namespace Brenvic\Core\Fields;

/**
 * An index field: a named, typed property of documents, defined once and used by many document types.
 *
 * A value has one *normal form*, a string: dates as ISO 8601 in the known precision, numbers as plain decimals,
 * stretches of days as ISO 8601 intervals (`2019-03/2019-05`), amounts with two decimals, yes/no as `1`/`0`, choices as
 * the term's code, everything else as trimmed text. Normal forms are what is stored,
 * exchanged and indexed; `display` makes them readable.
 */
final readonly class FieldDefinition
{
    /** Of numbers; the index keeps as many. */
    private const DECIMALS = 4;

    private const MAX_LENGTH = 1000;

    private const MAX_LONG_LENGTH = 50_000;

    /**
     * @param  string|null  $dublinCore  the element of Dublin Core (in small letters) that the field is exchanged and searched as
     * @param  bool  $system  a field that Brenvic fills itself, which may bear a reserved name
     * @param  string  $unit  of a number; of an amount its currency (ISO 4217)
     * @param  int|null  $maxLength  in characters, of text
     * @param  string  $default  what a new sheet begins with
     * @param  string  $refersTo  of a reference: `document` or `dossier`
     * @param  list<string>  $formerly  codes of fields that were merged into this one
     * @param  string  $pattern  for identifiers and text: `9` stands for a digit, `A` for a capital letter, `X` for either, `?` for
     *                           the check character; all else for itself
     *
     * @throws InvalidDefinition
     */
    public function __construct(
        public string $code,
        public string $label,
        public FieldKind $kind,
        public bool $multiple = false,
        public bool $faceted = false,
        public bool $sensitive = false,
        public ?Vocabulary $vocabulary = null,
        public string $unit = '',
        public string $pattern = '',
        public ?float $minimum = null,
        public ?float $maximum = null,
        public string $help = '',
        public ?string $dublinCore = null,
        public ?int $maxLength = null,
        public string $default = '',
        public string $refersTo = 'document',
        public array $formerly = [],
        bool $system = false,
    ) {
        if (preg_match('/^[a-z][a-z0-9_]{0,39}$/', $code) !== 1) {
            throw new InvalidDefinition(
                'code',
                'A code starts with a small letter and holds only small letters, digits and _ (at most 40).',
            );
        }
        if (! $system && in_array($code, ReservedNames::ALL, true)) {
            throw new InvalidDefinition('code', "“{$code}” is a name that every search already has. Choose another code.");
        }
        if (trim($label) === '') {
            throw new InvalidDefinition('label', 'Give the field a label.');
        }
        if ($kind === FieldKind::Choice && $vocabulary === null) {
            throw new InvalidDefinition('vocabulary', 'A choice field needs the vocabulary its values come from.');
        }
        if ($faceted && ! $kind->mayBeFaceted()) {
            throw new InvalidDefinition('faceted', "{$kind->label()} cannot be listed as a facet.");
        }
        if ($multiple && ! $kind->mayBeMultiple()) {
            throw new InvalidDefinition('multiple', "{$kind->label()} takes one value.");
        }
        if ($kind === FieldKind::Amount && preg_match('/^[A-Z]{3}$/', $unit) !== 1) {
            throw new InvalidDefinition('unit', 'An amount needs its currency as three capital letters (ISO 4217), like GBP.');
        }
        if (in_array($code, $formerly, true)) {
            throw new InvalidDefinition('formerly', 'A field cannot be merged into itself.');
        }
        if ($minimum !== null && $maximum !== null && $minimum > $maximum) {
            throw new InvalidDefinition('maximum', 'The highest value allowed is below the lowest.');
        }
        if (substr_count($pattern, '?') > 1 || (str_contains($pattern, '?') && ! str_ends_with($pattern, '?'))) {
            throw new InvalidDefinition('pattern', 'The check character (?) stands once, at the end of the pattern.');
        }
        if ($default !== '' && ! $system) {
            try {
                $this->parse($default);
            } catch (InvalidValue $fault) {
                throw new InvalidDefinition('default', "The default cannot be given: {$fault->getMessage()}");
            }
        }
    }

    public function isTree(): bool
    {
        return $this->kind === FieldKind::Choice && $this->vocabulary?->isTree === true;
    }

    /**
     * Reads what a person or a file gave.
     *
     * @return string|null the normal form; null when there is nothing but white space
     *
     * @throws InvalidValue
     */
    public function parse(string $input): ?string
    {
        if (! mb_check_encoding($input, 'UTF-8')) {
            throw new InvalidValue("{$this->label} holds characters that cannot be read (not UTF-8).");
        }
        $text = trim((string) preg_replace('/[\x00-\x08\x0B\x0C\x0E-\x1F\x7F]+/', ' ', $input));
        if ($text === '') {
            return null;
        }

        return match ($this->kind) {
            FieldKind::Text, FieldKind::Person => $this->fitting($this->short((string) preg_replace('/\s+/u', ' ', $text))),
            FieldKind::LongText => $this->bounded($text, $this->maxLength ?? self::MAX_LONG_LENGTH),
            FieldKind::Choice => $this->choice($text),
            FieldKind::Number => $this->number($text),
            FieldKind::Amount => $this->amount($text),
            FieldKind::Date => PartialDate::parse($text)->iso(),
            FieldKind::DateRange => DateRange::parse($text)->iso(),
            FieldKind::YesNo => $this->yesNo($text),
            FieldKind::Identifier => $this->checked($this->fitting(strtoupper($this->short($text)))),
            FieldKind::Reference => $this->checked(strtoupper($this->short($text))),
        };
    }

    /** The same field with other terms to choose from, whatever its name. */
    public function choosing(Vocabulary $vocabulary): self
    {
        return new self(
            $this->code,
            $this->label,
            $this->kind,
            $this->multiple,
            $this->faceted,
            $this->sensitive,
            $vocabulary,
            $this->unit,
            $this->pattern,
            help: $this->help,
            default: $this->default,
            dublinCore: $this->dublinCore,
            system: true,
        );
    }

    /** The normal form made readable. */
    public function display(string $normal): string
    {
        return match ($this->kind) {
            FieldKind::Choice => $this->vocabulary?->label($normal) ?? $normal,
            FieldKind::Date => PartialDate::parse($normal)->display(),
            FieldKind::DateRange => DateRange::parse($normal)->display(),
            FieldKind::YesNo => $normal === '1' ? 'Yes' : 'No',
            FieldKind::Number, FieldKind::Amount => $this->displayNumber($normal),
            default => $normal,
        };
    }

    /**
     * The values directly above one among those that are indexed: the terms above it in a tree, the year of a month.
     *
     * @return list<string>
     */
    public function above(string $value): array
    {
        return match (true) {
            $this->isTree() => ($this->vocabulary->terms[$value] ?? null)?->parents() ?? [],
            $this->kind->isDate() => strlen($value) > 4 ? [substr($value, 0, 4)] : [],
            default => [],
        };
    }

    /** A range made readable, with its unit once; just the value when both ends are one. */
    public function displayRange(string $from, string $to): string
    {
        if ($this->kind === FieldKind::DateRange) {
            return DateRange::parse("{$from}/{$to}")->display();
        }

        return $from === $to
            ? $this->display($from)
            : ($this->kind->isNumber() ? self::spaced($from) : $this->display($from))." to {$this->display($to)}";
    }

    /**
     * Where the value lies on its line, as an integer the index can slice: days for dates, ten-thousandths above
     * −10^12 for numbers. Null for kinds without an order.
     */
    public function ordinal(string $normal): ?int
    {
        return match ($this->kind) {
            FieldKind::Date => PartialDate::parse($normal)->firstDay(),
            FieldKind::DateRange => DateRange::parse($normal)->firstDay(),
            FieldKind::Number, FieldKind::Amount => self::numberOrdinal((float) $normal),
            default => null,
        };
    }

    public static function numberOrdinal(float $number): int
    {
        // The sum in whole numbers: as a float it would lose the last digits.
        return (int) round(max(-1e12, min(1e12, $number)) * 1e4) + 10 ** 16;
    }

    /** The number, in normal form, that an ordinal stands for. */
    public static function numberOfOrdinal(int $ordinal): string
    {
        $rounded = rtrim(rtrim(sprintf('%.4F', ($ordinal - 10 ** 16) / 1e4), '0'), '.');

        return $rounded === '-0' ? '0' : $rounded;
    }

    private function short(string $text): string
    {
        return $this->bounded($text, min($this->maxLength ?? self::MAX_LENGTH, self::MAX_LENGTH));
    }

    private function bounded(string $text, int $length): string
    {
        if (mb_strlen($text) > $length) {
            throw new InvalidValue("{$this->label} is longer than {$length} characters.");
        }

        return $text;
    }

    private function amount(string $text): string
    {
        $signs = ['GBP' => '£', 'EUR' => '€', 'USD' => '$'];
        $plain = trim(str_ireplace(array_filter([$this->unit, $signs[$this->unit] ?? '']), '', $text));

        return number_format(
            (float) $this->bounds($text, NumberText::read($plain === '' ? $text : $plain, 2, '1250 or 1250.75')),
            2,
            '.',
            '',
        );
    }

    private function choice(string $text): string
    {
        $code = $this->vocabulary?->resolve($text);
        if ($code === null) {
            $near = $this->vocabulary?->nearest($text);
            throw new InvalidValue(
                "“{$text}” is not in the list for {$this->label}.".
                    ($near === null ? ' Choose one of its terms.' : " Did you mean “{$near}”?"),
            );
        }

        return $code;
    }

    private function number(string $text): string
    {
        $plain = $text;
        if ($this->unit !== '' && str_ends_with(mb_strtolower($plain), mb_strtolower($this->unit))) {
            $plain = mb_substr($plain, 0, -mb_strlen($this->unit));
        }

        return $this->bounds(
            $text,
            NumberText::read($plain, self::DECIMALS, '1250 or 0.75'.($this->unit === '' ? '' : ", in {$this->unit}")),
        );
    }

    private function bounds(string $text, string $number): string
    {
        if (abs((float) $number) > 1e12) {
            throw new InvalidValue("“{$text}” is larger than a number field can hold.");
        }
        if ($this->minimum !== null && (float) $number < $this->minimum) {
            throw new InvalidValue("{$this->label} is at least {$this->minimum}; “{$text}” is below it.");
        }
        if ($this->maximum !== null && (float) $number > $this->maximum) {
            throw new InvalidValue("{$this->label} is at most {$this->maximum}; “{$text}” is above it.");
        }

        return $number;
    }

    private function displayNumber(string $normal): string
    {
        return self::spaced($normal).($this->unit === '' ? '' : "\u{00A0}{$this->unit}");
    }

    private static function spaced(string $number): string
    {
        $dot = strpos($number, '.');

        return number_format((float) $number, $dot === false ? 0 : strlen($number) - $dot - 1, '.', "\u{2009}");
    }

    private function yesNo(string $text): string
    {
        return match (mb_strtolower($text)) {
            '1', 'y', 'yes', 'true', 'on' => '1',
            '0', 'n', 'no', 'false', 'off' => '0',
            default => throw new InvalidValue("{$this->label} is yes or no; “{$text}” is neither."),
        };
    }

    /** Holds a text against the field's pattern. */
    private function fitting(string $text): string
    {
        if ($this->pattern === '') {
            return $text;
        }
        $expression = '';
        foreach (mb_str_split($this->pattern) as $sign) {
            $expression .= match ($sign) {
                '9' => '[0-9]',
                'A' => '[A-Z]',
                'X', '?' => '[0-9A-Z]',
                default => preg_quote($sign, '/'),
            };
        }
        if (preg_match("/^{$expression}$/u", $text) !== 1) {
            throw new InvalidValue("“{$text}” does not have the form of {$this->label}: {$this->patternInWords()}.");
        }

        return $text;
    }

    /** Holds a text against its check character. References always have one. */
    private function checked(string $text): string
    {
        if (($this->kind === FieldKind::Reference || str_ends_with($this->pattern, '?')) && ! CheckCharacter::holds($text)) {
            throw new InvalidValue("The check character of “{$text}” does not fit: ".CheckCharacter::likelySlip($text));
        }

        return $text;
    }

    private function patternInWords(): string
    {
        return "{$this->pattern}, where 9 is a digit, A a letter".(str_contains($this->pattern, '?') ? ' and ? the check character' : '');
    }
}
