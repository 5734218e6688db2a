<?php

declare(strict_types=1);

namespace App\Redaction;

use App\Index\RedactedTexts;
use App\Jobs\BackgroundJob;
use App\Models\Document;
use Carbon\CarbonInterface;
use Illuminate\Support\Facades\DB;

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

    // A copy is missing where something is removed and neither a copy nor a fault is kept.
    public static function unfinished(CarbonInterface $before): array
    {
        return self::ids(
            DB::table('documents')
                ->whereNull('deleted_at')
                ->whereIn('id', DB::table('redactions')->where('made_at', '<', $before)->select('document_id'))
                ->whereNotIn('id', DB::table('renditions')->where('form', 'redacted')->select('document_id')),
        );
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
