<?php

declare(strict_types=1);

namespace App\Capture;

use App\History\Act;
use App\History\History;
use App\Jobs\BackgroundJob;
use App\Jobs\Urgency;
use App\Models\Document;
use App\Models\Version;
use Carbon\CarbonInterface;

/** Reads the text of one document in the background. */
final class ReadText extends BackgroundJob
{
    /** Files of one person that are read before those of others that came later; the rest is bulk. */
    private const SHARE = 20;

    /** Megabytes from which on a file is bulk whoever brought it: it may have thousands of pages. */
    private const LARGE = 20_000_000;

    public function __construct(public readonly int $document)
    {
    }

    /** Has a document read that a person brought: soon, unless it is large or many of theirs wait already. */
    public static function soon(Document $document): void
    {
        $waiting = Document::query()
            ->where('created_by', $document->created_by)
            ->where('state', Document::WAITING)
            ->where('text_state', Document::TEXT_PENDING)
            ->limit(self::SHARE + 1)
            ->get(['id']);
        $isBulk = count($waiting) > self::SHARE || $document->bytes > self::LARGE;
        self::dispatch($document->id)->onQueue(($isBulk ? Urgency::Bulk : Urgency::Started)->value)->afterCommit();
    }

    /** Has a document read when nothing else is to be done. */
    public static function whenIdle(Document $document): void
    {
        self::dispatch($document->id)->onQueue(Urgency::Bulk->value)->afterCommit();
    }

    public function handle(TextReading $reading): void
    {
        $document = Document::query()->find($this->document);
        $document === null || $reading->begin($document);
        if ($document !== null && $reading->isLong($document)) {
            // Thousands of pages are for the worker that does bulk, a piece at a time, so that others have their turn between.
            if ($this->queue === Urgency::Bulk->value && ! $reading->readPiece($document->id)) {
                $reading->readEarlier($document->id);

                return;
            }
            self::whenIdle($document);

            return;
        }
        $reading->read($this->document);
        $reading->readEarlier($this->document);
    }

    public static function unfinished(CarbonInterface $before): array
    {
        return self::ids(Document::query()->where('text_state', Document::TEXT_PENDING)->where('updated_at', '<', $before));
    }

    public function about(): int
    {
        return $this->document;
    }

    protected function givenUp(string $reason): void
    {
        $given = ['text_state' => Document::TEXT_NONE, 'text_reason' => "The text could not be read: {$reason}."];
        $document = Document::query()->find($this->document);
        if (
            $document !== null &&
            Document::query()->whereKey($this->document)->where('text_state', Document::TEXT_PENDING)->update($given) > 0
        ) {
            History::record(Act::ReadInPart, null, $document, ['version' => $document->version, 'reason' => $given['text_reason']]);
        }
        Version::query()->where('document_id', $this->document)->where('text_state', Document::TEXT_PENDING)->update($given);
    }
}
