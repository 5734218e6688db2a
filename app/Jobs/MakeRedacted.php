<?php

declare(strict_types=1);

namespace App\Jobs;

use App\Models\Document;
use App\Redaction\RedactedTexts;
use App\Redaction\Redactions;
use App\Redaction\Redactor;

/** Makes the redacted copy of a document in the background. */
final class MakeRedacted extends BackgroundJob
{
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

    public function about(): int
    {
        return $this->document;
    }

    protected function givenUp(string $reason): void
    {
        $document = Document::query()->find($this->document);
        $redactions = app(Redactions::class);
        if ($document !== null && RedactedTexts::has($document->id) && $redactions->copy($document) === null) {
            $redactions->keep($document, $redactions->stamp($document), null, '', "The redacted copy could not be made: {$reason}.");
        }
    }
}
