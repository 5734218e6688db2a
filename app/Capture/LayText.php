<?php

declare(strict_types=1);

namespace App\Capture;

use App\Jobs\BackgroundJob;
use App\Models\Document;
use Carbon\CarbonInterface;

/** Puts the words that were read of a scan into its PDF, where that is wanted. */
final class LayText extends BackgroundJob
{
    public function __construct(public readonly int $document)
    {
    }

    public function handle(Layering $layering): void
    {
        $document = Document::query()->find($this->document);
        if ($document !== null && $document->wants_layer && $document->text_state !== Document::TEXT_PENDING) {
            $layering->lay($document);
        }
    }

    public static function unfinished(CarbonInterface $before): array
    {
        return self::ids(
            Document::query()->where('wants_layer', true)->where('text_state', '!=', Document::TEXT_PENDING)->where('updated_at', '<', $before),
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
