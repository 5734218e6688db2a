<?php

declare(strict_types=1);

namespace App\Capture;

use App\Jobs\BackgroundJob;
use App\Jobs\Urgency;
use App\Models\Document;
use Carbon\CarbonInterface;

/** Puts the words that were read of a scan into its PDF, where that is wanted. */
final class LayText extends BackgroundJob
{
    public function __construct(public readonly int $document)
    {
    }

    /**
     * While a document waits its pages may be turned, and what was read of them the wrong way up must not stay in them: so it is
     * done once it is filed, and read.
     */
    public static function soon(Document $document): void
    {
        if (self::isDue($document)) {
            self::dispatch($document->id)->onQueue(Urgency::Started->value)->afterCommit();
        }
    }

    private static function isDue(Document $document): bool
    {
        return $document->wants_layer && $document->state === Document::FILED && $document->text_state !== Document::TEXT_PENDING;
    }

    public function handle(Layering $layering): void
    {
        $document = Document::query()->find($this->document);
        if ($document !== null && self::isDue($document)) {
            $layering->lay($document);
        }
    }

    public static function unfinished(CarbonInterface $before): array
    {
        return self::ids(
            Document::query()
                ->where('wants_layer', true)
                ->where('state', Document::FILED)
                ->where('text_state', '!=', Document::TEXT_PENDING)
                ->where('updated_at', '<', $before),
        );
    }

    public function about(): int
    {
        return $this->document;
    }

    protected function givenUp(string $reason): void
    {
        $document = Document::query()->find($this->document);
        $document?->update([
            'wants_layer' => false,
            'text_reason' => trim("{$document->text_reason} Its words could not be put into the PDF: {$reason}."),
        ]);
    }
}
