<?php

declare(strict_types=1);

namespace App\Copies;

use App\Files\PageStore;
use App\Models\Document;
use Brenvic\Core\Index\DocumentSet;
use Brenvic\Core\Learning\LayoutMarks;
use Illuminate\Support\Facades\DB;

/** Keeps of each document by what papers of its form are known, and finds those of a form. */
final class Layouts
{
    /** Of each mark so many documents are looked at, the latest. */
    private const LATEST = 150;

    /** What has less than this part of the weight of all marks of a paper is of another form. */
    private const LEAST = 0.2;

    /** Notes it of the first page as it is now. What was noted before is forgotten by whoever notes it anew. */
    public static function note(int $document): void
    {
        $page = PageStore::of([$document], 1)[$document][1] ?? null;
        $kind = (string) DB::table('documents')->where('id', $document)->value('file_kind');
        $marks = $page === null ? [] : LayoutMarks::of($page, $kind);
        DB::table('documents')->where('id', $document)->update(['layout_marks' => pack('V*', ...$marks)]);
        DB::table('layout_marks')->insert(array_map(static fn (int $mark): array => ['mark' => $mark, 'document_id' => $document], $marks));
    }

    public static function forget(int $document): void
    {
        DB::table('layout_marks')->whereIntegerInRaw('mark', self::marks($document))->where('document_id', $document)->delete();
    }

    /**
     * Who has the marks of a document.
     *
     * @param  DocumentSet  $among  those that may be named
     * @return list<array{float, list<int>}> for each mark how much it says, and the latest documents that have it
     */
    public static function sharers(Document $document, DocumentSet $among): array
    {
        $last = (int) DB::table('documents')->max('id');
        $sharers = [];
        foreach (self::marks($document->id) as $mark) {
            $ids = DB::table('layout_marks')
                ->where('mark', $mark)
                ->where('document_id', '!=', $document->id)
                ->orderByDesc('document_id')
                ->limit(self::LATEST)
                ->pluck('document_id')
                ->all();
            // How many have it is told by how close together the latest are: all of them are not counted.
            $share = count($ids) < self::LATEST ? (count($ids) + 1) / max(1, $last) : count($ids) / max(1, $last - (int) end($ids) + 1);
            $sharers[] = [log(1 + 1 / $share), array_values(array_filter(array_map(intval(...), $ids), $among->has(...)))];
        }

        return $sharers;
    }

    /**
     * Documents that look like one.
     *
     * @param  list<array{float, list<int>}>  $sharers  who has its marks
     * @return array<int, float> how much they have in common with it, up to 1, by document; the likest first, of equal ones the latest
     */
    public static function alike(array $sharers, int $most): array
    {
        $whole = array_sum(array_column($sharers, 0));
        $common = [];
        foreach ($sharers as [$weight, $ids]) {
            foreach ($ids as $id) {
                $common[$id] = ($common[$id] ?? 0.0) + $weight;
            }
        }
        $common = array_filter($common, static fn (float $of): bool => $of >= self::LEAST * $whole);
        uksort($common, static fn (int $a, int $b): int => $common[$b] <=> $common[$a] ?: $b <=> $a);

        return array_map(static fn (float $of): float => $of / $whole, array_slice($common, 0, $most, true));
    }

    /** @return list<int> */
    public static function marks(int $document): array
    {
        return self::marksOf([$document])[$document] ?? [];
    }

    /**
     * @param  list<int>  $documents
     * @return array<int, list<int>> marks by document
     */
    public static function marksOf(array $documents): array
    {
        $marks = [];
        foreach (DB::table('documents')->whereIntegerInRaw('id', $documents)->pluck('layout_marks', 'id') as $id => $packed) {
            $marks[(int) $id] = (string) $packed === '' ? [] : array_values((array) unpack('V*', (string) $packed));
        }

        return $marks;
    }
}
