<?php

declare(strict_types=1);

namespace App\Retrieve;

use App\Exchange\OdsFile;
use App\Models\Delivery;
use Brenvic\Core\Exchange\OdsSheet;
use Brenvic\Core\Exchange\SheetCell;
use Brenvic\Core\Fields\FieldDefinition;
use RuntimeException;

final class OdsFormat extends DeliveryFormat
{
    public function __construct()
    {
        parent::__construct('ods', 'Spreadsheet', 'The same, as an OpenDocument spreadsheet.', 'ods');
    }

    public function hasFiles(): bool
    {
        return false;
    }

    public function hasTable(): bool
    {
        return true;
    }

    public function pack(Delivery $delivery, DeliveryFolder $folder, Packing $packing): string
    {
        $columns = DeliveryTable::columns($delivery, $packing->fields);
        $target = "{$packing->place}/table.ods";
        $rows = fopen($packing->table, 'rb') ?: throw new RuntimeException('The table is gone.');
        $content = "{$target}.xml";
        $xml = fopen($content, 'wb') ?: throw new RuntimeException('The table cannot be written.');
        fwrite($xml, OdsSheet::head('Pull list'));
        while (($row = fgetcsv($rows, escape: '')) !== false) {
            fwrite(
                $xml,
                OdsSheet::row(
                    array_map(
                        static fn (?FieldDefinition $field, ?string $cell): SheetCell => SheetCell::of($field, (string) $cell, [
                            (string) $cell,
                        ]),
                        array_slice($columns, 0, count($row)),
                        $row,
                    ),
                ),
            );
        }
        fwrite($xml, OdsSheet::foot());
        fclose($xml);
        fclose($rows);
        OdsFile::pack($content, $target);

        return $target;
    }
}
