<?php

declare(strict_types=1);

namespace Brenvic\Core\Fields;

/** How a column of a view shows the values of its field: a form for dates, numbers and persons, and a mask. */
final readonly class ColumnFormat
{
    /** What stands in the place of a value that is not shown. */

    /**
     * @param  string  $format  plain, year, month or iso (dates), whole (numbers), surname or initials (persons)
     * @param  string  $mask  none, all, or last4: all but the last four characters
     */
    public function __construct(
        public string $format = 'plain',
        public string $mask = 'none',
    ) {
    }

    /** @param  string  $normal  a value of the field in its normal form */
    public function shown(FieldDefinition $field, string $normal): string
    {
        $shown = match (true) {
            $field->kind === FieldKind::Date => $this->date(PartialDate::parse($normal)),
            $field->kind->isNumber() && $this->format === 'whole' => $field->display((string) round((float) $normal)),
            $field->kind === FieldKind::Person => $this->person($normal),
            default => $field->display($normal),
        };

        return match ($this->mask) {
            'all' => Cover::SIGN,
            'last4' => mb_strlen($shown) > 4 ? Cover::SIGN.mb_substr($shown, -4) : Cover::SIGN,
            default => $shown,
        };
    }

    private function date(PartialDate $date): string
    {
        return match ($this->format) {
            'year' => sprintf('%04d', $date->year),
            'month' => PartialDate::parse(substr($date->iso(), 0, 7))->display(),
            'iso' => $date->iso(),
            default => $date->display(),
        };
    }

    private function person(string $name): string
    {
        $words = explode(' ', $name);
        $last = array_pop($words);

        return match ($this->format) {
            'surname' => $last,
            'initials' => implode(' ', [...array_map(static fn (string $word): string => mb_substr($word, 0, 1).'.', $words), $last]),
            default => $name,
        };
    }
}
