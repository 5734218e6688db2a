<?php

declare(strict_types=1);

namespace App\Capture;

use App\Annotations\Annotations;
use App\Copies\TextPrints;
use App\Files\FileStore;
use App\Files\FileTitle;
use App\Files\OfficePages;
use App\Files\PageStore;
use App\History\Act;
use App\History\History;
use App\Index\Indexer;
use App\Intake\Arrivals;
use App\Intake\StoredReadings;
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

    /** Pages of a PDF that is read in pieces. */
    private const LONG = 100;

    /** Pages of a piece. */
    private const PIECE = 50;

    /** Pages of a scan that is read in pieces: what is put in order meanwhile need not be read to its end. */
    private const LONG_SCAN = 6;

    /** Seconds that OCR takes in a piece; then others have their turn. */
    private const TURN = 20.0;

    public function __construct(
        private Extractor $extractor,
        private FileStore $files,
        private PageStore $pages,
        private Indexer $indexer,
        private Arrivals $arrivals,
        private Redactions $redactions,
        private Annotations $annotations,
        private Layering $layering,
        private StoredReadings $stored,
    ) {
    }

    /** Pages that were read before they were put in order are not read a second time: their words are in the file from now on. */
    public function begin(Document $document): void
    {
        if ($document->wants_layer && $document->text_state === Document::TEXT_PENDING) {
            $this->layering->layCarried($document);
            $document->refresh();
        }
    }

    /** Whether a document has so many pages that reading it is bulk. */
    public function isLong(Document $document): bool
    {
        return $document->text_state === Document::TEXT_PENDING &&
            $document->file_kind === FileKind::Pdf->value &&
            $this->extractor->pageCount($this->files->path($document->sha256)) > ($document->wants_layer ? self::LONG_SCAN : self::LONG);
    }

    /** @return list<int> the documents that changed: this one and its attachments; they are not in the index yet when `$index` is false */
    public function read(int $id, bool $index = true): array
    {
        $document = Document::query()->find($id);
        if ($document === null || $document->text_state !== Document::TEXT_PENDING) {
            return [];
        }
        // What is marked on the version before is carried over to pages, which must not change again: they are drawn now.
        $extracted = $this->extracted($document->sha256, $document->file_kind, $document->version > 1);
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
                if ($extracted->title !== '' && $document->title === FileTitle::of($document->file_name)) {
                    $document->title = mb_substr($extracted->title, 0, self::LONGEST_TITLE);
                }
            }
            $this->finish(
                $document,
                self::outcome($extracted),
                $extracted instanceof Extracted ? $extracted->left : $extracted->getMessage(),
            );
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

    /**
     * Reads the next pages of a long PDF. What is read stays read when it is stopped.
     *
     * @return bool whether there are more to read
     */
    public function readPiece(int $id): bool
    {
        $document = Document::query()->find($id);
        if ($document === null || $document->text_state !== Document::TEXT_PENDING) {
            return false;
        }
        $all = min($this->extractor->pageCount($this->files->path($document->sha256)), (int) config('brenvic.limits.pages'));
        $have = DB::table('pages')->where('document_id', $id)->count();
        $reason = '';
        try {
            ['pages' => $pages, 'ocr' => $isOcr] =
                $have < $all
                    ? $this->extractor->pages($document->sha256, $have + 1, min(self::PIECE, $all - $have), self::TURN)
                    : ['pages' => [], 'ocr' => false];
        } catch (UnreadableFile $fault) {
            // Further on it cannot be read: what was read until there is kept.
            $pages = [];
            $isOcr = false;
            $all = $have;
            $reason = $have === 0 ? $fault->getMessage() : "Only the first {$have} pages could be read; words further on are not found.";
        }

        return DB::transaction(function () use ($document, $pages, $isOcr, $have, $all, $reason): bool {
            $read = $document;
            $document = Document::query()->find($read->id);
            // Another came between, or did the same: what is there now decides.
            if (
                $document === null ||
                $document->version !== $read->version ||
                $document->text_state !== Document::TEXT_PENDING ||
                DB::table('pages')->where('document_id', $document->id)->count() !== $have
            ) {
                return $document !== null && $document->text_state === Document::TEXT_PENDING;
            }
            $this->pages->append($document->id, $pages, $have + 1);
            $note = $isOcr || str_contains($document->text_reason, Extractor::OCR) ? Extractor::OCR : '';
            $now = $have + count($pages);
            if ($now < $all) {
                $document->update(['text_reason' => trim("{$now} of {$all} pages are read so far. {$note}")]);

                return true;
            }
            $hasText = DB::table('pages')->where('document_id', $document->id)->where('text', '!=', '')->exists();
            $left = $reason === '' ? $this->extractor->leftOf($document->sha256, $now) : $reason;
            $this->finish(
                $document,
                [
                    'text_state' => $hasText ? Document::TEXT_READ : Document::TEXT_NONE,
                    'text_reason' => $hasText || $reason !== '' ? trim("{$note} {$left}") : 'No words were found in the file.',
                    'page_count' => $now,
                ],
                $left,
            );
            if ($document->state === Document::FILED) {
                $this->indexer->update([$document->id]);
            }

            return false;
        });
    }

    /**
     * Says how the reading of a document ended.
     *
     * @param  array{text_state: string, text_reason: string, page_count?: int, drawn_pages?: int|null}  $outcome
     * @param  string  $left  what was not read
     */
    private function finish(Document $document, array $outcome, string $left): void
    {
        // The words of a scan that was put in order are in its file now, and say no more how sure OCR was of them.
        $confidence = PageStore::confidence($document->id) ?? ($document->wants_layer ? $document->ocr_confidence : null);
        $document->fill([...$outcome, 'ocr_confidence' => $confidence])->save();
        TextPrints::note($document->id);
        $this->stored->fill($document);
        LayText::soon($document);
        DrawOffice::soon($document);
        if ($left !== '') {
            History::record(Act::ReadInPart, null, $document, ['version' => $document->version, 'reason' => $left]);
        }
        if ($document->version > 1) {
            $this->redactions->carry($document);
            $this->annotations->carry($document);
        }
    }

    /** Reads earlier versions of a document whose text had not been read when the next one came. */
    public function readEarlier(int $id): void
    {
        foreach (Version::query()->where('document_id', $id)->where('text_state', Document::TEXT_PENDING)->get() as $version) {
            $extracted = $this->extracted($version->sha256, $version->file_kind, true);
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

    /**
     * Draws the pages of an office file that was read as a text, and reads it by them. What somebody marked or lifted on the text
     * stays where it stands, and the text with it.
     */
    public function draw(int $id): void
    {
        $document = Document::query()->find($id);
        if ($document === null || ! self::isToBeDrawn($document)) {
            return;
        }
        $drawn = $fault = null;
        try {
            $drawn = self::isMarked($id) ? null : $this->extractor->drawn($document->sha256, FileKind::from($document->file_kind));
        } catch (UnreadableFile) {
            $fault = 'Its pages could not be drawn.';
        }
        DB::transaction(function () use ($document, $drawn, $fault): void {
            $read = $document;
            $document = Document::query()->find($read->id);
            if ($document === null || $document->sha256 !== $read->sha256 || ! self::isToBeDrawn($document)) {
                return;
            }
            if ($drawn === null || self::isMarked($document->id)) {
                $document->update(['drawn_pages' => 0, 'text_reason' => trim("{$document->text_reason} {$fault}")]);

                return;
            }
            $this->pages->replace($document->id, $drawn->pages);
            $document->update(self::outcome($drawn));
            TextPrints::note($document->id);
            if ($document->state === Document::FILED) {
                $this->indexer->update([$document->id]);
            }
        });
    }

    public static function isToBeDrawn(Document $document): bool
    {
        return $document->drawn_pages === null &&
            $document->text_state !== Document::TEXT_PENDING &&
            FileKind::from($document->file_kind)->isOffice();
    }

    private static function isMarked(int $id): bool
    {
        foreach (['annotations', 'redactions', 'lifted_values'] as $table) {
            if (DB::table($table)->where('document_id', $id)->exists()) {
                return true;
            }
        }

        return false;
    }

    /** @param  bool  $isDrawn  whether an office file is to be read by its pages, where they can be drawn */
    private function extracted(string $sha256, string $kind, bool $isDrawn): Extracted|UnreadableFile
    {
        $kind = FileKind::from($kind);
        if ($isDrawn && $kind->isOffice() && OfficePages::areDrawn()) {
            try {
                return $this->extractor->drawn($sha256, $kind);
            } catch (UnreadableFile) {
                // Its text may be read all the same.
            }
        }
        try {
            return $this->extractor->extract($sha256, $kind);
        } catch (UnreadableFile $fault) {
            return $fault;
        }
    }

    /** @return array{text_state: string, text_reason: string, page_count?: int, drawn_pages?: int|null} */
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
            'drawn_pages' => $extracted->drawn,
        ];
    }
}
