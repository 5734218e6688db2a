<?php

declare(strict_types=1);

namespace App\Import;

use App\Access\Change;
use App\Access\Changing;
use App\Catalog\Catalog;
use App\History\Act;
use App\History\History;
use App\Index\Indexer;
use App\Intake\DocumentActs;
use App\Intake\Filing;
use App\Models\Document;
use App\Models\ImportFile;
use App\Models\User;

/**
 * What a later version of a register changes: of each file only the fields whose cells say something else than before, and of
 * these only those that nobody has changed since.
 */
final readonly class RowChanges
{
    public function __construct(
        private Catalog $catalog,
        private Filing $filing,
        private Changing $changing,
        private Indexer $indexer,
    ) {
    }

    /** @return array{type: string|null, values: array<string, list<string>>} */
    public static function given(ReadRow $row): array
    {
        $values = $row->values;
        ksort($values);

        return ['type' => $row->type?->code, 'values' => $values];
    }

    /** Whether a row says something else than the last one did. */
    public static function isNew(ImportFile $file, ReadRow $row): bool
    {
        return $file->given !== self::given($row);
    }

    /** Changes the document of a file by its row. */
    public function apply(ImportFile $file, ReadRow $row, User $by): ChangedByRow
    {
        $document = Document::query()->find((int) $file->document_id);
        if ($document === null) {
            return new ChangedByRow(false, 'Its document was removed. Nothing was changed.');
        }
        $hindrance = $this->changing->hindrance($by, $document, Change::Values);
        if ($hindrance !== null) {
            return new ChangedByRow(false, $hindrance->words);
        }
        $own = $this->filing->present($document);
        $all = $own + (Filing::handedDownTo([$document->id])[$document->id] ?? []);
        // Of a file that came in without a register nothing is known but what its document has: only what is empty is filled.
        $was = $file->given['values'] ?? array_intersect_key($all, $row->values);
        $after = $own;
        $left = [];
        foreach (array_keys($was + $row->values) as $code) {
            $now = $row->values[$code] ?? [];
            if (($was[$code] ?? []) === $now || ($all[$code] ?? []) === $now) {
                continue;
            }
            if (($all[$code] ?? []) !== ($was[$code] ?? [])) {
                $left[$this->catalog->fields()[$code]->label ?? $code] = 'changed here since';

                continue;
            }
            $after[$code] = $now;
        }
        $after = array_filter($after, static fn (array $list): bool => $list !== []);
        $type = $this->catalog->types()->get((int) $document->document_type_id);
        $isSameType = $file->given === null || $file->given['type'] === $row->type?->code;
        if (! $isSameType && $type?->code !== $file->given['type']) {
            $left['Document type'] = 'changed here since';
            $isSameType = true;
        }
        $new = $isSameType ? $type : $row->type;
        $note = (new ReadRow($new, $after, [...$row->left, ...$left]))->note();
        $given = $file->given;
        $file->update(['given' => self::given($row)]);
        if ($after == $own && $new?->id === $type?->id) {
            return new ChangedByRow(false, $note);
        }
        $faults = $this->catalog->sheet($new)->read($after, $own)['faults'];
        if ($faults !== []) {
            $file->update(['given' => $given]);

            return new ChangedByRow(false, implode(' ', $faults).' Nothing was changed.');
        }
        $before = [
            'library' => (string) $this->catalog->libraries()->get($document->library_id)?->code,
            'type' => $type?->code,
            'title' => $document->title,
            'values' => $own,
            'given' => $given,
        ];
        $this->filing->put($document, $new, $after, ['lock_version' => $document->lock_version + 1]);
        History::record(Act::Changed, $by, $document, DocumentActs::difference($own, $after));
        $this->indexer->update([$document->id]);

        return new ChangedByRow(true, $note, $before, $document->lock_version);
    }
}
