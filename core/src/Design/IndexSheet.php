<?php

declare(strict_types=1);

namespace Brenvic\Core\Design;

use Brenvic\Core\Fields\FieldDefinition;
use Brenvic\Core\Fields\InvalidValue;

/** The fields of a document type or dossier kind in their order, and what of it is asked. Checks whole sheets. */
final readonly class IndexSheet
{
    /**
     * @param  list<FieldDefinition>  $fields
     * @param  list<string>  $required  codes
     * @param  list<string>  $readOnly  codes
     * @param  array<string, string>  $defaults  code => what a new sheet begins with
     * @param  array<string, string>  $below  code => the term from which on down the choice is
     */
    public function __construct(
        public array $fields,
        public array $required = [],
        public array $readOnly = [],
        public array $defaults = [],
        public array $below = [],
    ) {
    }

    /**
     * The sheet that a document type or dossier kind describes.
     *
     * @param  array<string, FieldDefinition>  $fields  by code
     */
    public static function of(?SheetPart $part, array $fields): self
    {
        $chosen = $required = $readOnly = $defaults = $below = [];
        foreach ($part->fields ?? [] as $entry) {
            $field = $fields[$entry->code] ?? null;
            if ($field === null) {
                continue;
            }
            $chosen[] = $field;
            $default = $entry->default === '' ? $field->default : $entry->default;
            if ($entry->isRequired) {
                $required[] = $field->code;
            }
            if ($entry->isReadOnly) {
                $readOnly[] = $field->code;
            }
            if ($default !== '') {
                $defaults[$field->code] = $default;
            }
            if ($entry->below !== null) {
                $below[$field->code] = $entry->below;
            }
        }

        return new self($chosen, $required, $readOnly, $defaults, $below);
    }

    /**
     * Reads a filled-in sheet. Fields that are read-only keep what they have; on a new sheet that is their default.
     *
     * @param  array<string, list<string>>  $input  what was typed, by field code
     * @param  array<string, list<string>>|null  $present  normal forms the document has; null for a new sheet
     * @return array{values: array<string, list<string>>, faults: array<string, string>} normal forms, and a sentence for each field at fault
     */
    public function read(array $input, ?array $present = null): array
    {
        $values = [];
        $faults = [];
        $known = [];
        foreach ($this->fields as $field) {
            $known[$field->code] = true;
            $given = $input[$field->code] ?? [];
            if (in_array($field->code, $this->readOnly, true)) {
                $given =
                    $present === null
                        ? (isset($this->defaults[$field->code])
                            ? [$this->defaults[$field->code]]
                            : [])
                        : $present[$field->code] ?? [];
            }
            $taken = [];
            foreach ($given as $text) {
                try {
                    $normal = $field->parse($text);
                    if ($normal !== null && ! in_array($normal, $taken, true)) {
                        $this->choosable($field, $normal, $present[$field->code] ?? []);
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

        return ['values' => $values, 'faults' => [...$this->apart($values), ...$faults]];
    }

    /**
     * Whether a term may be given now. What a document has already, it may keep.
     *
     * @param  list<string>  $present
     *
     * @throws InvalidValue
     */
    private function choosable(FieldDefinition $field, string $value, array $present): void
    {
        $vocabulary = $field->vocabulary;
        $term = $vocabulary->terms[$value] ?? null;
        if ($vocabulary === null || $term === null || in_array($value, $present, true)) {
            return;
        }
        if ($term->retired) {
            throw new InvalidValue(
                "“{$term->label}” is retired.".
                    ($term->replacedBy === null ? ' Choose another term.' : " Choose “{$vocabulary->label($term->replacedBy)}” instead."),
            );
        }
        $below = $this->below[$field->code] ?? null;
        if ($below !== null && ! in_array($below, $vocabulary->lineage($value), true)) {
            throw new InvalidValue("“{$term->label}” is not below “{$vocabulary->label($below)}”, where documents of this type belong.");
        }
    }

    /**
     * Terms that do not go with the value their choice depends on.
     *
     * @param  array<string, list<string>>  $values  normal forms
     * @return array<string, string> faults by field code
     */
    private function apart(array $values): array
    {
        $faults = [];
        $byCode = array_column($this->fields, null, 'code');
        foreach ($this->fields as $field) {
            $vocabulary = $field->vocabulary;
            $other = $byCode[$vocabulary->dependsOn ?? ''] ?? null;
            if ($vocabulary === null || $other === null) {
                continue;
            }
            $beside = $values[$other->code] ?? [];
            foreach ($values[$field->code] ?? [] as $value) {
                if (! $vocabulary->allows($value, $beside)) {
                    $faults[$field->code] =
                        "“{$field->display($value)}” does not go with ".
                        ($beside === []
                            ? "an empty {$other->label}."
                            : "{$other->label} “".implode(', ', array_map($other->display(...), $beside)).'”.');
                }
            }
        }

        return $faults;
    }
}
