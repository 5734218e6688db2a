<?php

declare(strict_types=1);

namespace App\Import;

use App\Catalog\Catalog;
use App\Intake\Filing;
use App\Intake\InvalidSheet;
use App\Models\DocumentType;
use App\Models\User;

/** Reads what a row says against the sheet of its document type. */
final readonly class RowReading
{
    public function __construct(private Catalog $catalog, private Filing $filing)
    {
    }

    /**
     * @param  DocumentType|null  $otherwise  the type where the row names none
     *
     * @throws InvalidSheet when it cannot be filed so
     */
    public function of(RowSheet $sheet, ?DocumentType $otherwise, ?User $by): ReadRow
    {
        $type = $sheet->type === '' ? $otherwise : $this->catalog->types()->firstWhere('code', $sheet->type);
        if ($type === null && $sheet->type !== '') {
            throw new InvalidSheet(['type' => "There is no document type “{$sheet->type}”."]);
        }
        if (! $sheet->isLenient) {
            return new ReadRow($type, $this->filing->checked($type, $sheet->values, null, $by), []);
        }
        $entries = $this->catalog->sheet($type);
        $fields = array_column($entries->fields, null, 'code');
        $labels = $this->catalog->fields();
        $left = [];
        foreach (array_keys(array_diff_key($sheet->values, $fields)) as $code) {
            $left[$labels[$code]->label ?? $code] = 'its type has no such field';
        }
        $values = array_intersect_key($sheet->values, $fields);
        try {
            $read = $this->filing->checked($type, $values, null, $by);
        } catch (InvalidSheet $fault) {
            $optional = array_diff_key(array_intersect_key($fault->faults, $values), array_flip($entries->required));
            foreach ($optional as $code => $why) {
                $left[$labels[$code]->label ?? $code] = $why;
            }
            // What is required and missing, or refused, is for a person.
            $read = $this->filing->checked($type, array_diff_key($values, $optional), null, $by);
        }

        return new ReadRow($type, $read, $left);
    }
}
