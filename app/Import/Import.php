<?php

declare(strict_types=1);

namespace App\Import;

use App\Access\Rights;
use App\Capture\ReadText;
use App\Capture\TextReading;
use App\Dossiers\DossierFiling;
use App\Files\FileStore;
use App\Files\FileTitle;
use App\Files\NewFile;
use App\History\Act;
use App\History\History;
use App\Index\Indexer;
use App\Intake\Arrivals;
use App\Intake\Filing;
use App\Intake\InvalidSheet;
use App\Models\Document;
use App\Models\Dossier;
use App\Models\ImportFile;
use App\Models\User;
use App\Support\Refused;
use Brenvic\Core\Capture\FileKind;
use Illuminate\Support\Facades\DB;
use Throwable;

/**
 * Brings files in from a folder. Each batch of files becomes documents, import rows and index entries in one
 * transaction: whatever moment it is stopped at, a file is either wholly in or not at all, and a second run goes on
 * where the first ended.
 */
final class Import
{
    private const BATCH = 50;

    /** Kinds whose text is read at once; the slow ones wait for the background worker. */
    private const QUICK = [FileKind::Text, FileKind::Markdown, FileKind::Table, FileKind::Html, FileKind::Word, FileKind::Mail];

    private const LONGEST_TITLE = 300;

    public function __construct(
        private readonly FileStore $files,
        private readonly Arrivals $arrivals,
        private readonly Filing $filing,
        private readonly Indexer $indexer,
        private readonly TextReading $reading,
        private readonly RowReading $rows,
        private readonly RowChanges $changes,
        private readonly RowDossiers $rowDossiers,
        private readonly DossierFiling $dossiers,
        private readonly Rights $rights,
    ) {
    }

    /**
     * @param  iterable<string, string>  $sources  name within the import (a relative path) => file
     * @param  array<string, RowSheet>  $sheets  by name
     * @param  callable(ImportResult): void  $report  called once a file
     */
    public function run(iterable $sources, ImportInto $into, array $sheets, callable $report): void
    {
        $batch = [];
        foreach ($sources as $name => $file) {
            $batch[$name] = $file;
            if (count($batch) === self::BATCH) {
                $this->batch($batch, $into, $sheets, $report);
                $batch = [];
            }
        }
        $this->batch($batch, $into, $sheets, $report);
    }

    /**
     * @param  array<string, string>  $batch
     * @param  array<string, RowSheet>  $sheets
     * @param  callable(ImportResult): void  $report
     */
    private function batch(array $batch, ImportInto $into, array $sheets, callable $report): void
    {
        $results = [];
        $new = [];
        foreach ($batch as $name => $file) {
            try {
                if (filesize($file) > config('brenvic.limits.file_bytes')) {
                    $results[] = new ImportResult($name, 'refused', 'The file is larger than the limit.');

                    continue;
                }
                [$sha256, $bytes] = $this->files->take($file);
                $sheet = $sheets[$name] ?? new RowSheet();
                $new[$name] = [$sha256, $bytes, $sheet, $this->rows->of($sheet, $into->type, $into->by)];
            } catch (InvalidSheet $fault) {
                $results[] = new ImportResult($name, 'refused', implode(' ', $fault->faults));
            } catch (Throwable $fault) {
                $results[] = new ImportResult($name, 'refused', $fault->getMessage());
            }
        }
        try {
            array_push($results, ...DB::transaction(fn (): array => $this->write($new, $into)));
        } catch (Refused $fault) {
            $this->rowDossiers->forget();
            foreach (array_keys($new) as $name) {
                $results[] = new ImportResult((string) $name, 'refused', $fault->getMessage());
            }
        }
        foreach ($results as $result) {
            $report($result);
        }
    }

    /**
     * @param  array<string, array{string, int, RowSheet, ReadRow}>  $new
     * @return list<ImportResult>
     *
     * @throws Refused
     */
    private function write(array $new, ImportInto $into): array
    {
        $results = $ids = $dossiers = [];
        $known = ImportFile::query()
            ->where('library_id', $into->library->id)
            ->whereIn('source', array_map(strval(...), array_keys($new)))
            ->get()
            ->keyBy(static fn (ImportFile $row): string => "{$row->source}\n{$row->sha256}");
        foreach ($new as $name => [$sha256, $bytes, $sheet, $row]) {
            $name = (string) $name;
            $there = $known->get("{$name}\n{$sha256}");
            if ($there !== null) {
                $results[] = $this->again($there, $sheet, $row, $into);

                continue;
            }
            $head = $bytes === 0 ? '' : $this->files->head($sha256);
            $document = $this->arrivals->create($into->library->id, new NewFile($sha256, $bytes, Arrivals::safeName($name)), $head, [
                'path' => mb_scrub($name),
                'state' => Document::FILED,
                'filed_at' => now(),
                'created_by' => $into->by?->id,
            ]);
            $this->filing->put($document, $row->type, $this->own($document, $sheet, $row->values, $into, $dossiers));
            if ($sheet->title !== '' && $document->title === FileTitle::of($document->file_name)) {
                $document->update(['title' => mb_substr($sheet->title, 0, self::LONGEST_TITLE)]);
            }
            ImportFile::query()->create([
                'library_id' => $into->library->id,
                'source' => $name,
                'sha256' => $sha256,
                'document_id' => $document->id,
                'given' => $sheet->isLenient ? RowChanges::given($row) : null,
            ]);
            if ($into->by !== null) {
                History::record(Act::Filed, $into->by, $document);
            }
            $kind = FileKind::from($document->file_kind);
            if (in_array($kind, self::QUICK, true)) {
                array_push($ids, ...$this->reading->read($document->id, index: false));
                $document->refresh();
            } else {
                ReadText::whenIdle($document);
                $ids[] = $document->id;
            }
            $isWithout = $document->text_state === Document::TEXT_NONE;
            $results[] = new ImportResult(
                $name,
                $isWithout ? 'without text' : 'imported',
                trim("{$row->note()} {$document->text_reason}"),
                $document->ref,
                $kind,
                $document->id,
                $document->lock_version,
            );
        }
        $inDossiers = [];
        foreach ($dossiers as [$dossier, $documents]) {
            $this->dossiers->putUnindexed($dossier, $documents, null, $into->by);
            array_push($inDossiers, ...array_map(static fn (Document $d): int => $d->id, $documents));
        }
        $this->filing->retitle($inDossiers);
        $this->indexer->update($ids);
        $this->seal($into->by, $ids);

        return $results;
    }

    /** A file that is in already, whose row may say something new. */
    private function again(ImportFile $there, RowSheet $sheet, ReadRow $row, ImportInto $into): ImportResult
    {
        if (! $sheet->isLenient || $into->by === null || ! RowChanges::isNew($there, $row)) {
            $lock = Document::query()->whereKey($there->document_id)->value('lock_version');

            return new ImportResult(
                $there->source,
                'known',
                'Already imported.',
                document: $there->document_id,
                lock: is_numeric($lock) ? (int) $lock : null,
            );
        }
        $changed = $this->changes->apply($there, $row, $into->by);

        return new ImportResult(
            $there->source,
            $changed->isChanged ? 'changed' : 'known',
            $changed->note,
            document: $there->document_id,
            lock: $changed->lock,
            before: $changed->before,
        );
    }

    /**
     * The values that a document has of its own: without those that its dossiers hand down.
     *
     * @param  array<string, list<string>>  $values
     * @param  array<int, array{Dossier, list<Document>}>  $dossiers  what goes into each, by its id
     * @return array<string, list<string>>
     */
    private function own(Document $document, RowSheet $sheet, array $values, ImportInto $into, array &$dossiers): array
    {
        foreach ($sheet->dossiers as $kind => $given) {
            $found = $this->rowDossiers->of($kind, $given, $into->library, $into->by);
            if ($found === null) {
                continue;
            }
            $dossiers[$found['dossier']->id] ??= [$found['dossier'], []];
            $dossiers[$found['dossier']->id][1][] = $document;
            foreach ($found['values'] as $code => $list) {
                if (($values[$code] ?? null) === $list) {
                    unset($values[$code]);
                }
            }
        }

        return $values;
    }

    /**
     * @param  list<int>  $ids
     *
     * @throws Refused when an access rule keeps one of them from who files it
     */
    private function seal(?User $by, array $ids): void
    {
        if ($by === null) {
            return;
        }
        $kept = $this->rights->keptFrom($by, 'file');
        foreach ($ids as $id) {
            if ($kept->has($id)) {
                $title = Document::query()->whereKey($id)->value('title');
                throw new Refused("An access rule does not let you file this: “{$title}”.");
            }
        }
    }
}
