<?php

declare(strict_types=1);

namespace App\Jobs;

use App\Models\Document;
use App\Redaction\RedactedTexts;
use App\Redaction\Redactions;
use App\Redaction\Redactor;
use Illuminate\Contracts\Queue\ShouldQueue;
use Illuminate\Foundation\Queue\Queueable;

/** Makes the redacted copy of a document in the background. */
final class MakeRedacted implements ShouldQueue
{
    use Queueable;

    public int $tries = 2;

    public int $timeout = 1_800;

    public function __construct(public readonly int $document)
    {
    }

    public function handle(Redactions $redactions, Redactor $redactor): void
    {
        $document = Document::query()->find($this->document);
        if ($document !== null && RedactedTexts::has($document->id) && $redactions->copy($document) === null) {
            $redactor->make($document);
        }
    }
}
