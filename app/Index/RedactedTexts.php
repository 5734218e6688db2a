<?php

declare(strict_types=1);

namespace App\Index;

use App\Files\PageStore;
use App\Models\Page;
use App\Models\Redaction;
use Brenvic\Core\Capture\PlainPages;
use Brenvic\Core\Redaction\Mark;
use Brenvic\Core\Redaction\RedactedPage;
use Illuminate\Support\Collection;
use Illuminate\Support\Facades\DB;

/** The texts of documents without what was removed from them. */
final class RedactedTexts
{
    public static function has(int $document): bool
    {
        return DB::table('redactions')->where('document_id', $document)->exists();
    }

    /** Whether anything is redacted at all: where nothing is, nothing has to be looked up. */
    public static function any(): bool
    {
        return DB::table('redactions')->exists();
    }

    /**
     * @param  list<int>  $ids  documents, of which those without redactions are left out
     * @return array<int, array<int, string>> document => page => text; no page of a document whose redactions have to be looked at
     */
    public static function of(array $ids): array
    {
        if (! self::any()) {
            return [];
        }
        $texts = [];
        foreach (
            Redaction::query()->whereIntegerInRaw('document_id', $ids)->orderBy('document_id')->get()->groupBy('document_id') as $id => $redactions
        ) {
            $texts[(int) $id] = [];
            if ($redactions->contains('is_lost', true)) {
                continue;
            }
            $byPage = $redactions->groupBy('page');
            foreach (Page::query()->where('document_id', $id)->orderBy('number')->cursor() as $row) {
                $marks = $byPage->get($row->number);
                $texts[(int) $id][$row->number] =
                    $marks === null ? $row->text : RedactedPage::of(PageStore::page($row), self::marks($marks))->page->text;
            }
        }

        return $texts;
    }

    /**
     * The whole text of some documents without what was removed, for the index.
     *
     * @param  list<int>  $ids
     * @param  array<int, bool>  $pieces  document => whether its pages are pieces of a text without pages
     * @return array<int, string> document => text
     */
    public static function joined(array $ids, array $pieces): array
    {
        $joined = [];
        foreach (self::of($ids) as $id => $pages) {
            $joined[$id] = PlainPages::joined(array_map(static fn (string $text): array => [$text, $pieces[$id] ?? false], $pages));
        }

        return $joined;
    }

    /**
     * @param  Collection<int, Redaction>  $redactions
     * @return list<Mark>
     */
    public static function marks(Collection $redactions): array
    {
        return array_values($redactions->map(static fn (Redaction $r): Mark => $r->mark())->all());
    }
}
