<?php

declare(strict_types=1);

namespace Brenvic\Core\Exchange;

use Brenvic\Core\Fields\FieldDefinition;

/** The description of a CSV file (W3C Metadata Vocabulary for Tabular Data, CSVW): what each column is. */
final class TableDescription
{
    private const AS_THEY_ARE = 'All values are given as they are kept, also those that begin with =, +, - or @. '.
        'A spreadsheet may take these for formulas: open the table as text.';

    /** Whether the values of a field are codes that people read by their labels. */
    public static function hasLabels(FieldDefinition $field): bool
    {
        return $field->kind->isCoded();
    }

    public static function labelColumn(FieldDefinition $field): string
    {
        return "{$field->code}_label";
    }

    /**
     * @param  array<string, string>  $own  columns that are no fields: name => title
     * @param  iterable<FieldDefinition>  $fields
     * @param  bool  $labels  whether fields with codes have a column with their labels beside them
     */
    public static function json(string $file, array $own, iterable $fields, bool $labels = false): string
    {
        $columns = [];
        foreach ($own as $name => $title) {
            $columns[] = ['name' => $name, 'titles' => $title, 'datatype' => 'string'];
        }
        foreach ($fields as $field) {
            $columns[] = array_filter(
                [
                    'name' => $field->code,
                    'titles' => $field->label,
                    'dc:description' => $field->help,
                    'datatype' => $field->kind->datatype(),
                    'separator' => $field->multiple ? '|' : null,
                    'propertyUrl' => $field->dublinCore === null ? null : "http://purl.org/dc/elements/1.1/{$field->dublinCore}",
                ],
                static fn (mixed $v): bool => $v !== null && $v !== '',
            );
            if ($labels && self::hasLabels($field)) {
                $columns[] = [
                    'name' => self::labelColumn($field),
                    'titles' => "{$field->label}, in words",
                    'datatype' => 'string',
                    ...$field->multiple ? ['separator' => '|'] : [],
                ];
            }
        }

        return json_encode(
            [
                '@context' => 'http://www.w3.org/ns/csvw',
                'url' => $file,
                'dc:description' => self::AS_THEY_ARE,
                'dialect' => ['header' => true, 'encoding' => 'utf-8'],
                'tableSchema' => ['columns' => $columns, 'primaryKey' => array_key_first($own)],
            ],
            JSON_PRETTY_PRINT | JSON_UNESCAPED_UNICODE | JSON_UNESCAPED_SLASHES | JSON_THROW_ON_ERROR,
        )."\n";
    }
}
