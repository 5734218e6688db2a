<?php

declare(strict_types=1);

namespace App\Remote;

use Brenvic\Core\Capture\FileKind;
use Brenvic\Core\Exchange\Sru\RemoteQuery;
use Brenvic\Core\Exchange\Sru\SruRecord;
use Brenvic\Core\Fields\FieldDefinition;
use Brenvic\Core\Fields\InvalidValue;
use Brenvic\Core\Search\Asking\SearchSchema;

/**
 * The elements of records elsewhere as values of the fields here. Of several fields that share an element, those that
 * take only what is theirs have a value; else the first that could hold it, or just the first.
 */
final readonly class RemoteValues
{
    /** @var array<string, non-empty-list<FieldDefinition>> by element */
    private array $fields;

    public function __construct(SearchSchema $schema)
    {
        $fields = [];
        foreach ($schema->fields as $field) {
            $element = RemoteQuery::element($schema, $field->code);
            if ($element !== null) {
                $fields[$element][] = $field;
            }
        }
        $this->fields = $fields;
    }

    /** @return array<string, list<string>> by field code, as they are shown */
    public function of(SruRecord $record): array
    {
        $values = [];
        foreach (array_intersect_key($record->elements, $this->fields) as $element => $given) {
            foreach ($given as $value) {
                foreach (self::owners($this->fields[$element], $value) as $code => $shown) {
                    $values[$code][] = $shown;
                }
            }
        }

        return $values;
    }

    /**
     * @param  non-empty-list<FieldDefinition>  $fields
     * @return array<string, string> field code => the value as that field shows it
     */
    private static function owners(array $fields, string $value): array
    {
        $able = $strict = [];
        foreach ($fields as $field) {
            $shown = self::shown($field, $value);
            if ($shown !== null) {
                $able[$field->code] = $shown;
                if (! $field->kind->takesAnyText()) {
                    $strict[$field->code] = $shown;
                }
            }
        }

        return match (true) {
            $strict !== [] => $strict,
            $able !== [] => array_slice($able, 0, 1),
            default => [$fields[0]->code => $value],
        };
    }

    /** A value as a field shows it; null when the field could not hold it. */
    private static function shown(FieldDefinition $field, string $value): ?string
    {
        try {
            $normal = $field->parse($field->code === 'file_type' ? FileKind::ofMediaType($value)->value ?? $value : $value);

            return $normal === null ? null : $field->display($normal);
        } catch (InvalidValue) {
            return null;
        }
    }
}
