<?php

declare(strict_types=1);

namespace App\Capture;

use App\Files\OfficePages;
use App\Jobs\BackgroundJob;
use App\Jobs\Urgency;
use App\Models\Document;
use Brenvic\Core\Capture\FileKind;
use Carbon\CarbonInterface;

/** Draws the pages of an office file, once its text is there to be found. */
final class DrawOffice extends BackgroundJob
{
    /** As many that were left over are taken up at once: an office that gets the program has all its files drawn, in turns. */
    private const ROUND = 200;

    public function __construct(public readonly int $document)
    {
        $this->onQueue(Urgency::Idle->value);
    }

    public static function soon(Document $document): void
    {
        if (TextReading::isToBeDrawn($document) && OfficePages::areDrawn()) {
            self::dispatch($document->id)->afterCommit();
        }
    }

    public function handle(TextReading $reading): void
    {
        $reading->draw($this->document);
    }

    public static function unfinished(CarbonInterface $before): array
    {
        if (! OfficePages::areDrawn()) {
            return [];
        }
        $kinds = array_filter(FileKind::cases(), static fn (FileKind $kind): bool => $kind->isOffice());

        return self::ids(
            Document::query()
                ->whereIn('file_kind', array_column($kinds, 'value'))
                ->whereNull('drawn_pages')
                ->where('text_state', '!=', Document::TEXT_PENDING)
                ->where('updated_at', '<', $before)
                ->orderByDesc('id')
                ->limit(self::ROUND),
        );
    }

    public function about(): int
    {
        return $this->document;
    }

    protected function givenUp(string $reason): void
    {
        $document = Document::query()->find($this->document);
        $document?->update(['drawn_pages' => 0, 'text_reason' => trim("{$document->text_reason} Its pages could not be drawn: {$reason}.")]);
    }
}
