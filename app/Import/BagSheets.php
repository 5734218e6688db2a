<?php

declare(strict_types=1);

namespace App\Import;

use App\Catalog\Catalog;
use App\Tables\TableFile;
use Brenvic\Core\Fields\FieldDefinition;

/**
 * What a bag says of its files in the table of index values that a delivery has (`metadata/index-values.csv`). What is not known in
 * this office, a field or a type, is left out and named.
 */
final readonly class BagSheets
{
    private const TABLE = 'metadata/index-values.csv';

    private const TITLE = 'title';

    private const TYPE = 'type';

    private const FILE = 'file';

    /** What the table has beside these and fields. */
    private const OWN = ['reference', 'library', 'note', 'remark'];

    public function __construct(private Catalog $catalog)
    {
    }

    /**
     * @return array{sheets: array<string, RowSheet>, unknown: list<string>} by name of the file within `data/`; and the columns that no
     *                                                                       field here is called
     */
    public function of(BagFolder $bag): array
    {
        if (! in_array(self::TABLE, $bag->paths(), true)) {
            return ['sheets' => [], 'unknown' => []];
        }
        $fields = $this->catalog->fields();
        $head = null;
        $sheets = [];
        foreach ((new TableFile($bag->at(self::TABLE)))->rows() as $row) {
            if ($head === null) {
                $head = array_map(trim(...), $row);

                continue;
            }
            $cells = [];
            foreach ($head as $i => $name) {
                $cells[$name] = $row[$i] ?? '';
            }
            $file = preg_replace('#^data/#', '', trim($cells[self::FILE] ?? ''));
            if ($file !== '' && $file !== null) {
                $sheets[$file] = $this->sheet($cells, $fields);
            }
        }
        $known = [self::TITLE, self::TYPE, self::FILE, ...self::OWN, ...array_keys($fields)];

        return [
            'sheets' => $sheets,
            'unknown' => array_values(array_filter(array_diff($head ?? [], $known), static fn (string $of): bool => $of !== '')),
        ];
    }

    /**
     * @param  array<string, string>  $cells
     * @param  array<string, FieldDefinition>  $fields
     */
    private function sheet(array $cells, array $fields): RowSheet
    {
        $values = [];
        foreach (array_intersect_key($cells, $fields) as $code => $cell) {
            if (trim($cell) !== '') {
                $values[$code] = $fields[$code]->multiple ? explode('|', $cell) : [$cell];
            }
        }
        $named = mb_strtolower(trim($cells[self::TYPE] ?? ''));
        $type =
            $named === ''
                ? null
                : $this->catalog->types()->first(static fn ($of): bool => mb_strtolower($of->name) === $named || $of->code === $named);

        return new RowSheet($type->code ?? '', $values, isLenient: true, title: trim($cells[self::TITLE] ?? ''));
    }
}
