<?php

declare(strict_types=1);

namespace App\Intake;

use App\Capture\ReadText;
use App\Capture\TextReading;
use App\Catalog\Catalog;
use App\Files\FileStore;
use App\Files\NewFile;
use App\Index\Indexer;
use App\Models\Document;
use App\Models\DocumentType;
use App\Models\ImportFile;
use App\Models\Library;
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

    public function __construct(
        private readonly FileStore $files,
        private readonly Arrivals $arrivals,
        private readonly Filing $filing,
        private readonly Indexer $indexer,
        private readonly TextReading $reading,
        private readonly Catalog $catalog,
    ) {
    }

    /**
     * @param  iterable<string, string>  $sources  name within the import (a relative path) => file
     * @param  array<string, array{type: string, values: array<string, list<string>>}>  $sheets  name => type code and values as given
     * @param  callable(ImportResult): void  $report  called once a file
     */
    public function run(iterable $sources, Library $library, ?DocumentType $type, array $sheets, callable $report): void
    {
        $batch = [];
        foreach ($sources as $name => $file) {
            $batch[$name] = $file;
            if (count($batch) === self::BATCH) {
                $this->batch($batch, $library, $type, $sheets, $report);
                $batch = [];
            }
        }
        $this->batch($batch, $library, $type, $sheets, $report);
    }

    /**
     * @param  array<string, string>  $batch
     * @param  array<string, array{type: string, values: array<string, list<string>>}>  $sheets
     * @param  callable(ImportResult): void  $report
     */
    private function batch(array $batch, Library $library, ?DocumentType $type, array $sheets, callable $report): void
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
                $given = $sheets[$name] ?? null;
                $ofType = $given === null || $given['type'] === '' ? $type : $this->catalog->types()->firstWhere('code', $given['type']);
                if ($ofType === null && ($given['type'] ?? '') !== '') {
                    throw new InvalidSheet(['type' => "There is no document type “{$given['type']}”."]);
                }
                $new[$name] = [$sha256, $bytes, $ofType, $this->filing->checked($ofType, $given['values'] ?? [])];
            } catch (InvalidSheet $fault) {
                $results[] = new ImportResult($name, 'refused', implode(' ', $fault->faults));
            } catch (Throwable $fault) {
                $results[] = new ImportResult($name, 'refused', $fault->getMessage());
            }
        }
        array_push($results, ...DB::transaction(fn (): array => $this->write($new, $library)));
        foreach ($results as $result) {
            $report($result);
        }
    }

    /**
     * @param  array<string, array{string, int, DocumentType|null, array<string, list<string>>}>  $new
     * @return list<ImportResult>
     */
    private function write(array $new, Library $library): array
    {
        $results = [];
        $ids = [];
        $known = ImportFile::query()
            ->where('library_id', $library->id)
            ->whereIn('source', array_map(strval(...), array_keys($new)))
            ->get()
            ->keyBy(static fn (ImportFile $row): string => "{$row->source}\n{$row->sha256}");
        foreach ($new as $name => [$sha256, $bytes, $type, $values]) {
            $name = (string) $name;
            if ($known->has("{$name}\n{$sha256}")) {
                $results[] = new ImportResult($name, 'known', 'Already imported.');

                continue;
            }
            $head = $bytes === 0 ? '' : $this->files->head($sha256);
            $fileName = Arrivals::safeName($name);
            $document = $this->arrivals->create($library->id, new NewFile($sha256, $bytes, $fileName), $head, [
                'path' => mb_scrub($name),
                'state' => Document::FILED,
                'filed_at' => now(),
            ]);
            $this->filing->put($document, $type, $values);
            ImportFile::query()->create([
                'library_id' => $library->id,
                'source' => $name,
                'sha256' => $sha256,
                'document_id' => $document->id,
            ]);
            $kind = FileKind::from($document->file_kind);
            if (in_array($kind, self::QUICK, true)) {
                array_push($ids, ...$this->reading->read($document->id, index: false));
                $document->refresh();
            } else {
                ReadText::whenIdle($document);
                $ids[] = $document->id;
            }
            $results[] = new ImportResult(
                $name,
                $document->text_state === Document::TEXT_NONE ? 'without text' : 'imported',
                $document->text_reason,
                $document->ref,
                $kind,
            );
        }
        $this->indexer->update($ids);

        return $results;
    }
}
