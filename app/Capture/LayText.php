<?php

declare(strict_types=1);

namespace App\Capture;

use App\Files\FileStore;
use App\Files\PageStore;
use App\Files\TextLayer;
use App\Jobs\BackgroundJob;
use App\Models\Document;
use App\Models\Page;
use App\Models\Version;
use App\Support\ExternalProgram;
use Carbon\CarbonInterface;
use Illuminate\Support\Facades\DB;

/** Puts the words that were read of a scan into its PDF, where that is wanted. */
final class LayText extends BackgroundJob
{
    public function __construct(public readonly int $document)
    {
    }

    public function handle(FileStore $files): void
    {
        $document = Document::query()->find($this->document);
        if ($document === null || ! $document->wants_layer || $document->text_state === Document::TEXT_PENDING) {
            return;
        }
        $before = $document->sha256;
        $taken = ExternalProgram::inFolder(static function (string $folder) use ($document, $files): ?array {
            $pages = [];
            foreach (Page::query()->where('document_id', $document->id)->orderBy('number')->lazy(100) as $page) {
                $pages[$page->number] = PageStore::page($page);
            }
            $made = TextLayer::onto($files->whole($document->sha256), $pages, $folder);

            return $made === null ? null : $files->take($made);
        });
        [$sha256, $bytes] = $taken ?? [$before, $document->bytes];
        DB::transaction(function () use ($document, $before, $sha256, $bytes): void {
            $as = ['sha256' => $sha256, 'bytes' => $bytes];
            // A version that came in the meantime is not this one.
            $isStill = Document::query()
                ->whereKey($document->id)
                ->where('version', $document->version)
                ->where('sha256', $before)
                ->update([...$as, 'wants_layer' => false]);
            if ($isStill > 0) {
                Version::query()->where('document_id', $document->id)->where('number', $document->version)->update($as);
            }
        });
        if ($sha256 !== $before) {
            $files->remove($before);
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
