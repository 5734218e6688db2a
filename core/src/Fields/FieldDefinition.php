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
    /**
     * @param  string|null  $dublinCore  the element of Dublin Core (in small letters) that the field is exchanged and searched as
     * @param  WrittenForm  $form  in which `display` writes its values
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
        public WrittenForm $form = new WrittenForm(),
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
        $kind->check($this);
        if ($faceted && ! $kind->mayBeFaceted()) {
            throw new InvalidDefinition('faceted', "{$kind->label()} cannot be listed as a facet.");
        }
        if ($multiple && ! $kind->mayBeMultiple()) {
            throw new InvalidDefinition('multiple', "{$kind->label()} takes one value.");
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
        return $this->kind->isChosen() && $this->vocabulary?->isTree === true;
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

        return $this->kind->parse($this, $text);
    }

    /** The same field with other terms to choose from, whatever its name. */
    public function choosing(Vocabulary $vocabulary): self
    {
        return $this->with($vocabulary, $this->form);
    }

    /** The same field with its values written as a person has them. */
    public function written(WrittenForm $form): self
    {
        return $this->form->key() === $form->key() ? $this : $this->with($this->vocabulary, $form);
    }

    /** The same field without being counted as a facet. */
    public function uncounted(): self
    {
        return $this->with($this->vocabulary, $this->form, false);
    }

    private function with(?Vocabulary $vocabulary, WrittenForm $form, ?bool $faceted = null): self
    {
        return new self(
            $this->code,
            $this->label,
            $this->kind,
            $this->multiple,
            $faceted ?? $this->faceted,
            $this->sensitive,
            $vocabulary,
            $this->unit,
            $this->pattern,
            $this->minimum,
            $this->maximum,
            $this->help,
            $this->dublinCore,
            $this->maxLength,
            $this->default,
            $this->refersTo,
            $this->formerly,
            $form,
            system: true,
        );
    }

    /** The normal form made readable. */
    public function display(string $normal): string
    {
        return $this->kind->display($this, $normal);
    }

    /**
     * The values directly above one among those that are indexed: the terms above it in a tree, the year of a month.
     *
     * @return list<string>
     */
    public function above(string $value): array
    {
        return $this->kind->above($this, $value);
    }

    /** A range made readable, with its unit once; just the value when both ends are one. */
    public function displayRange(string $from, string $to): string
    {
        return $this->kind->displayRange($this, $from, $to);
    }

    /**
     * Where the value lies on its line, as an integer the index can slice: days for dates, ten-thousandths above
     * −10^12 for numbers. Null for kinds without an order.
     */
    public function ordinal(string $normal): ?int
    {
        return $this->kind->ordinal($this, $normal);
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
}
