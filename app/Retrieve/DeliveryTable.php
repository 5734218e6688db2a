<?php

declare(strict_types=1);

namespace App\Retrieve;

use App\Models\Delivery;
use Brenvic\Core\Exchange\CsvRow;
use Brenvic\Core\Exchange\TableDescription;
use Brenvic\Core\Fields\FieldDefinition;

/** The table of index values in a delivery: its columns, and how its lines are written. */
final class DeliveryTable
{
    /** Its place within the bag. */
    public const PATH = 'metadata/index-values.csv';

    /** What it has of each document besides index values, by name. */
    public const OWN = [
        'reference' => 'Reference',
        'title' => 'Title',
        'library' => 'Library',
        'type' => 'Document type',
        'file' => 'File',
        'note' => 'Note',
        'remark' => 'Remark',
    ];

    /**
     * A line: as it is for archives and programs, harmless where a spreadsheet will open it.
     *
     * @param  list<string>  $cells
     */
    public static function line(Delivery $delivery, array $cells): string
    {
        return ($delivery->settings['spreadsheet'] ?? false) === true ? CsvRow::forSpreadsheet($cells) : CsvRow::of($cells);
    }

    /**
     * @param  array<string, FieldDefinition>  $fields  by code
     * @return list<string>
     */
    public static function head(Delivery $delivery, array $fields): array
    {
        $columns = array_keys(self::OWN);
        foreach ($fields as $field) {
            array_push($columns, $field->code, ...self::isLabelled($delivery, $field) ? [TableDescription::labelColumn($field)] : []);
        }

        return $columns;
    }

    /**
     * The field behind each column, for numbers to be numbers and dates to be dates.
     *
     * @param  array<string, FieldDefinition>  $fields  by code
     * @return list<FieldDefinition|null>
     */
    public static function columns(Delivery $delivery, array $fields): array
    {
        $columns = array_fill(0, count(self::OWN), null);
        foreach ($fields as $field) {
            array_push($columns, $field, ...self::isLabelled($delivery, $field) ? [null] : []);
        }

        return $columns;
    }

    /** Whether codes have their labels beside them. */
    public static function isLabelledAtAll(Delivery $delivery): bool
    {
        return ($delivery->settings['labels'] ?? false) === true;
    }

    public static function isLabelled(Delivery $delivery, FieldDefinition $field): bool
    {
        return self::isLabelledAtAll($delivery) && TableDescription::hasLabels($field);
    }
}
