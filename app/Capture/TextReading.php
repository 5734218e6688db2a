<?php

declare(strict_types=1);

namespace App\Capture;

use App\Annotations\Annotations;
use App\Files\FileStore;
use App\Index\Indexer;
use App\Intake\Arrivals;
use App\Models\Document;
use App\Models\Version;
use App\Redaction\Redactions;
use Brenvic\Core\Capture\FileKind;
use Brenvic\Core\Capture\UnreadableFile;
use Illuminate\Support\Facades\DB;

/** Reads the text of a document's file into its pages and the index. Doing it twice changes nothing. */
final readonly class TextReading
{
    private const LONGEST_TITLE = 300;

    /** Pages. */
    private const LONG = 100;

    public function __construct(
        private Extractor $extractor,
        private FileStore $files,
        private PageStore $pages,
        private Indexer $indexer,
        private Arrivals $arrivals,
        private Redactions $redactions,
        private Annotations $annotations,
    ) {
    }

    /** Whether a document has so many pages that reading it is bulk. */
    public function isLong(Document $document): bool
    {
        return $document->text_state === Document::TEXT_PENDING && $document->file_kind === FileKind::Pdf->value
            && $this->extractor->pageCount($this->files->path($document->sha256)) > self::LONG;
    }

    /** @return list<int> the documents that changed: this one and its attachments; they are not in the index yet when `$index` is false */
    public function read(int $id, bool $index = true): array
    {
        $document = Document::query()->find($id);
        if ($document === null || $document->text_state !== Document::TEXT_PENDING) {
            return [];
        }
        $extracted = $this->extracted($document->sha256, $document->file_kind);
        $stored = [];
        if ($extracted instanceof Extracted) {
            foreach ($extracted->attachments as $attachment) {
                $stored[] = [$attachment->name, $this->files->takeContents($attachment->contents), substr($attachment->contents, 0, 4096)];
            }
        }

        return DB::transaction(function () use ($document, $extracted, $stored, $index): array {
            $read = $document;
            $document = Document::query()->find($read->id);
            if ($document === null || $document->version !== $read->version) {
                return [];
            }
            if ($extracted instanceof Extracted) {
                $this->pages->replace($document->id, $extracted->pages);
                $document->exchange = $extracted->exchange;
                // Who gave it a title of their own keeps it.
                if ($extracted->title !== '' && $document->title === Arrivals::titleOf($document->file_name)) {
                    $document->title = mb_substr($extracted->title, 0, self::LONGEST_TITLE);
                }
            }
            $document->fill(self::outcome($extracted))->save();
            if ($document->version > 1) {
                $this->redactions->carry($document);
                $this->annotations->carry($document);
            }
            $ids = [$document->id];
            foreach ($stored as [$name, [$sha256, $bytes], $head]) {
                $ids[] = $this->arrivals->attach($document, $name, $sha256, $bytes, $head)->id;
            }
            if ($index && $document->state === Document::FILED) {
                $this->indexer->update($ids);
            }

            return $ids;
        });
    }

    /** Reads earlier versions of a document whose text had not been read when the next one came. */
    public function readEarlier(int $id): void
    {
        foreach (Version::query()->where('document_id', $id)->where('text_state', Document::TEXT_PENDING)->get() as $version) {
            $extracted = $this->extracted($version->sha256, $version->file_kind);
            DB::transaction(function () use ($version, $extracted): void {
                $document = Document::query()->find($version->document_id);
                if ($document === null || $document->version === $version->number) {
                    return;
                }
                if ($extracted instanceof Extracted) {
                    $this->pages->replace($document->id, $extracted->pages, $version->number);
                }
                $version->fill(self::outcome($extracted))->save();
                $this->indexer->update([$document->id]);
            });
        }
    }

    private function extracted(string $sha256, string $kind): Extracted|UnreadableFile
    {
        try {
            return $this->extractor->extract($sha256, FileKind::from($kind));
        } catch (UnreadableFile $fault) {
            return $fault;
        }
    }

    /** @return array{text_state: string, text_reason: string, page_count?: int} */
    private static function outcome(Extracted|UnreadableFile $extracted): array
    {
        if ($extracted instanceof UnreadableFile) {
            return ['text_state' => Document::TEXT_NONE, 'text_reason' => $extracted->getMessage()];
        }
        $hasText = array_filter($extracted->pages, static fn ($page): bool => $page->text !== '') !== [];

        return [
            'text_state' => $hasText ? Document::TEXT_READ : Document::TEXT_NONE,
            'text_reason' => $hasText ? $extracted->note : 'No words were found in the file.',
            'page_count' => count($extracted->pages),
        ];
    }
}
