<?php

declare(strict_types=1);

namespace App\Capture;

use App\Files\FileStore;
use App\Index\Indexer;
use App\Intake\Arrivals;
use App\Models\Document;
use Brenvic\Core\Capture\FileKind;
use Brenvic\Core\Capture\UnreadableFile;
use Illuminate\Support\Facades\DB;

/** Reads the text of a document's file into its pages and the index. Doing it twice changes nothing. */
final readonly class TextReading
{
    public function __construct(
        private Extractor $extractor,
        private FileStore $files,
        private PageStore $pages,
        private Indexer $indexer,
        private Arrivals $arrivals,
    ) {
    }

    /** @return list<int> the documents that changed: this one and its attachments; they are not in the index yet when `$index` is false */
    public function read(int $id, bool $index = true): array
    {
        $document = Document::query()->find($id);
        if ($document === null || $document->text_state !== Document::TEXT_PENDING) {
            return [];
        }
        try {
            $extracted = $this->extractor->extract($document->sha256, FileKind::from($document->file_kind));
        } catch (UnreadableFile $fault) {
            $extracted = $fault;
        }
        $stored = [];
        if ($extracted instanceof Extracted) {
            foreach ($extracted->attachments as $attachment) {
                $stored[] = [$attachment->name, $this->files->takeContents($attachment->contents), substr($attachment->contents, 0, 4096)];
            }
        }

        return DB::transaction(function () use ($document, $extracted, $stored, $index): array {
            $document = Document::query()->find($document->id);
            if ($document === null) {
                return [];
            }
            if ($extracted instanceof UnreadableFile) {
                $document->fill(['text_state' => Document::TEXT_NONE, 'text_reason' => $extracted->getMessage()]);
            } else {
                $this->pages->replace($document->id, $extracted->pages);
                $hasText = array_filter($extracted->pages, static fn ($page): bool => $page->text !== '') !== [];
                $document->fill([
                    'text_state' => $hasText ? Document::TEXT_READ : Document::TEXT_NONE,
                    'text_reason' => $hasText ? ($extracted->note === 'ocr' ? 'Pages without text were read by OCR.' : '') : 'No words were found in the file.',
                    'page_count' => count($extracted->pages),
                    'exchange' => $extracted->exchange,
                ]);
            }
            $document->save();
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
}
