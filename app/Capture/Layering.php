<?php

declare(strict_types=1);

namespace App\Capture;

use App\Files\FileStore;
use App\Files\PageStore;
use App\Files\TextLayer;
use App\Models\Document;
use App\Models\Page;
use App\Models\Version;
use App\Support\ExternalProgram;
use Illuminate\Database\Eloquent\Builder;
use Illuminate\Support\Facades\DB;

/** Puts the words that are known of a scan’s pages into its PDF. */
final readonly class Layering
{
    /** The version under which words wait that were read of pages before they were put in order. */
    public const CARRIED = 0;

    public function __construct(private FileStore $files)
    {
    }

    /** The words of all its pages, once they are read. */
    public function lay(Document $document): void
    {
        $this->put($document, Page::query()->where('document_id', $document->id), true);
    }

    /** The words that were carried over from where its pages were before, if there are any. */
    public function layCarried(Document $document): void
    {
        $carried = Page::query()->from('version_pages')->where('document_id', $document->id)->where('version', self::CARRIED);
        if ($carried->exists()) {
            $this->put($document, $carried, false);
            DB::table('version_pages')->where('document_id', $document->id)->where('version', self::CARRIED)->delete();
        }
    }

    /** @param  Builder<Page>  $rows */
    private function put(Document $document, Builder $rows, bool $isAll): void
    {
        $before = $document->sha256;
        $taken = ExternalProgram::inFolder(function (string $folder) use ($document, $rows): ?array {
            $pages = [];
            foreach ($rows->clone()->orderBy('number')->lazy(100) as $page) {
                $pages[$page->number] = PageStore::page($page);
            }
            $made = TextLayer::onto($this->files->whole($document->sha256), $pages, $folder);

            return $made === null ? null : $this->files->take($made);
        });
        [$sha256, $bytes] = $taken ?? [$before, $document->bytes];
        if ($sha256 !== $before) {
            // The pages look as they looked.
            DB::insert(
                'INSERT INTO page_signs (sha256, number, is_blank, skew, turn, separator)
                    SELECT ?, number, is_blank, skew, turn, separator FROM page_signs AS s WHERE sha256 = ?
                    AND NOT EXISTS (SELECT 1 FROM page_signs WHERE sha256 = ? AND number = s.number)',
                [$sha256, $before, $sha256],
            );
        }
        DB::transaction(static function () use ($document, $before, $sha256, $bytes, $isAll): void {
            $as = ['sha256' => $sha256, 'bytes' => $bytes];
            // A version that came in the meantime is not this one.
            $isStill = Document::query()
                ->whereKey($document->id)
                ->where('version', $document->version)
                ->where('sha256', $before)
                ->update([...$as, 'wants_layer' => ! $isAll]);
            if ($isStill > 0) {
                Version::query()->where('document_id', $document->id)->where('number', $document->version)->update($as);
            }
        });
        if ($sha256 !== $before) {
            $this->files->remove($before);
        }
    }
}
