<?php

declare(strict_types=1);

namespace Brenvic\Core\Design;

use Brenvic\Core\Fields\FieldDefinition;
use Brenvic\Core\Fields\InvalidValue;

/** The fields of a document type in their order, and what of it is required. Checks whole sheets. */
final readonly class IndexSheet
{
    /**
     * @param  list<FieldDefinition>  $fields
     * @param  list<string>  $required  codes
     */
    public function __construct(
        public array $fields,
        public array $required = [],
    ) {
    }

    /**
     * Reads a filled-in sheet.
     *
     * @param  array<string, list<string>>  $input  what was typed, by field code
     * @return array{values: array<string, list<string>>, faults: array<string, string>} normal forms, and a sentence for each field at fault
     */
    public function read(array $input): array
    {
        $values = [];
        $faults = [];
        $known = [];
        foreach ($this->fields as $field) {
            $known[$field->code] = true;
            $taken = [];
            foreach ($input[$field->code] ?? [] as $text) {
                try {
                    $normal = $field->parse($text);
                    if ($normal !== null && ! in_array($normal, $taken, true)) {
                        $taken[] = $normal;
                    }
                } catch (InvalidValue $fault) {
                    $faults[$field->code] = $fault->getMessage();
                }
            }
            if (count($taken) > 1 && ! $field->multiple) {
                $faults[$field->code] = "{$field->label} takes one value.";
            }
            if ($taken === [] && ! isset($faults[$field->code]) && in_array($field->code, $this->required, true)) {
                $faults[$field->code] = "{$field->label} is required.";
            }
            if ($taken !== []) {
                $values[$field->code] = $taken;
            }
        }
        foreach (array_diff_key($input, $known) as $code => $given) {
            if (trim(implode('', $given)) !== '') {
                $faults[$code] = "“{$code}” is not a field of this document type.";
            }
        }

        return ['values' => $values, 'faults' => $faults];
    }
}
