<?php

declare(strict_types=1);

namespace App\Jobs;

use App\Capture\TextReading;
use App\Models\Document;
use Illuminate\Contracts\Queue\ShouldQueue;
use Illuminate\Foundation\Queue\Queueable;
use Throwable;

/** Reads the text of one document in the background. */
final class ReadText implements ShouldQueue
{
    use Queueable;

    public int $tries = 3;

    public int $timeout = 580;

    public function __construct(public readonly int $document)
    {
    }

    public function handle(TextReading $reading): void
    {
        $reading->read($this->document);
        $reading->readEarlier($this->document);
    }

    public function failed(?Throwable $fault): void
    {
        Document::query()->whereKey($this->document)->where('text_state', Document::TEXT_PENDING)
            ->update(['text_state' => Document::TEXT_NONE, 'text_reason' => 'Reading the text failed three times and was given up.']);
    }
}
