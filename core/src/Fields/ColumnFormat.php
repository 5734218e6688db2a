<?php

declare(strict_types=1);

namespace Brenvic\Core\Fields;

/** How a column of a view shows the values of its field: a form for dates, numbers and persons, and a mask. */
final readonly class ColumnFormat
{
    /**
     * @param  string  $format  plain, or one of those of the field’s kind
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
        $shown = $field->kind->formatted($field, $normal, $this->format);

        return match ($this->mask) {
            'all' => Cover::SIGN,
            'last4' => mb_strlen($shown) > 4 ? Cover::SIGN.mb_substr($shown, -4) : Cover::SIGN,
            default => $shown,
        };
    }
}
