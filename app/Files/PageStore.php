<?php

declare(strict_types=1);

namespace App\Files;

use App\Models\Page;
use Brenvic\Core\Capture\TextPage;
use Brenvic\Core\Capture\WordBox;
use Illuminate\Database\Eloquent\Builder;
use Illuminate\Support\Facades\DB;

/**
 * The text layers of documents. The boxes of a page's words are kept as six numbers a word (offset, length, and left,
 * top, right, bottom in sixteenths of the page's unit), packed and compressed.
 */
final class PageStore
{
    private const NUMBERS = 6;

    private const FINE = 16;

    /**
     * @param  list<TextPage>  $pages
     * @param  int|null  $version  an earlier version; null for the present one
     */
    public function replace(int $document, array $pages, ?int $version = null): void
    {
        $table = $version === null ? 'pages' : 'version_pages';
        DB::table($table)
            ->where('document_id', $document)
            ->when($version !== null, fn ($q) => $q->where('version', $version))
            ->delete();
        self::insert($table, $document, $pages, 1, $version);
    }

    /**
     * Adds pages of the present version behind those that are there.
     *
     * @param  list<TextPage>  $pages
     * @param  int  $first  the number of the first of them
     */
    public function append(int $document, array $pages, int $first): void
    {
        self::insert('pages', $document, $pages, $first, null);
    }

    /** @param  list<TextPage>  $pages */
    private static function insert(string $table, int $document, array $pages, int $first, ?int $version): void
    {
        $insert = DB::connection()
            ->getPdo()
            ->prepare(
                "INSERT INTO {$table} (document_id, number, width, height, text, boxes".
                    ($version === null ? ', confidence' : ', version').
                    ') VALUES (?, ?, ?, ?, ?, ?, ?)',
            );
        foreach ($pages as $i => $page) {
            $boxes = self::packed($page->words);
            $insert->bindValue(1, $document, \PDO::PARAM_INT);
            $insert->bindValue(2, $first + $i, \PDO::PARAM_INT);
            $insert->bindValue(3, $page->width);
            $insert->bindValue(4, $page->height);
            $insert->bindValue(5, $page->text);
            $insert->bindValue(6, $boxes, $boxes === null ? \PDO::PARAM_NULL : \PDO::PARAM_LOB);
            $insert->bindValue(7, $version ?? $page->confidence);
            $insert->execute();
        }
    }

    /**
     * How sure OCR is of the words of a document, in per cent, longer pages counting more; null where it read none.
     */
    public static function confidence(int $document): ?float
    {
        $of = DB::table('pages')->where('document_id', $document)->whereNotNull('confidence');
        $sure = $of->selectRaw('SUM(confidence * (LENGTH(text) + 1)) / SUM(LENGTH(text) + 1) AS sure')->value('sure');

        return $sure === null ? null : round((float) $sure, 1);
    }

    /**
     * The pages of some documents as they are now.
     *
     * @param  list<int>  $documents
     * @param  int|null  $most  only those up to this number
     * @return array<int, array<int, TextPage>> document => number => page
     */
    public static function of(array $documents, ?int $most = null): array
    {
        $pages = [];
        $rows = Page::query()->whereIntegerInRaw('document_id', $documents)->orderBy('document_id')->orderBy('number');
        foreach ($rows->when($most !== null, static fn (Builder $of) => $of->where('number', '<=', $most))->cursor() as $row) {
            $pages[(int) $row->document_id][$row->number] = self::page($row);
        }

        return $pages;
    }

    public static function page(Page $page): TextPage
    {
        $words = [];
        if ($page->boxes !== null) {
            /** @var array<int, int> $numbers */
            $numbers = unpack('V*', (string) gzuncompress($page->boxes)) ?: [];
            foreach (array_chunk($numbers, self::NUMBERS) as [$offset, $length, $left, $top, $right, $bottom]) {
                $words[] = new WordBox($offset, $length, $left / self::FINE, $top / self::FINE, $right / self::FINE, $bottom / self::FINE);
            }
        }

        return new TextPage($page->width, $page->height, $page->text, $words);
    }

    /** @param  list<WordBox>  $words */
    private static function packed(array $words): ?string
    {
        if ($words === []) {
            return null;
        }
        $numbers = [];
        foreach ($words as $word) {
            array_push($numbers, $word->offset, $word->length);
            foreach ([$word->left, $word->top, $word->right, $word->bottom] as $edge) {
                $numbers[] = max(0, (int) round($edge * self::FINE));
            }
        }

        return (string) gzcompress(pack('V*', ...$numbers), 6);
    }
}
