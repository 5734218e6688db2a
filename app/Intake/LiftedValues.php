<?php

declare(strict_types=1);

namespace App\Intake;

use App\Files\PageStore;
use App\Models\Document;
use App\Models\Page;
use Illuminate\Support\Facades\DB;

/** Where on the pages values were lifted from, for who asks later whether they are right. */
final class LiftedValues
{
    /** Values of a field that are noted. */
    private const MOST = 20;

    /**
     * Notes where values of a document’s sheet were lifted from. Only words that stand on its own pages can be noted.
     *
     * @param  array<string, int>  $fields  ids by code
     * @param  array<string, list<array{value: string, page: int, text: string}>>  $lifted  by field code
     */
    public static function note(Document $document, array $fields, array $lifted): void
    {
        $pages = [];
        foreach (array_intersect_key($lifted, $fields) as $code => $places) {
            DB::table('lifted_values')->where('document_id', $document->id)->where('field_id', $fields[$code])->delete();
            foreach (array_slice($places, 0, self::MOST) as $place) {
                $pages[$place['page']] ??= Page::query()->where('document_id', $document->id)->where('number', $place['page'])->first();
                $boxes = $pages[$place['page']] === null ? [] : self::boxes($pages[$place['page']], $place['text']);
                if ($boxes !== []) {
                    DB::table('lifted_values')->insert([
                        'document_id' => $document->id,
                        'field_id' => $fields[$code],
                        'value' => $place['value'],
                        'version' => $document->version,
                        'page' => $place['page'],
                        'boxes' => json_encode($boxes, JSON_THROW_ON_ERROR),
                    ]);
                }
            }
        }
    }

    /**
     * @param  array<string, list<string>>  $present  normal forms by field code, of which places are told
     * @return array<string, list<array{value: string, page: int, boxes: list<array{float, float, float, float}>}>>
     */
    public static function of(Document $document, array $present): array
    {
        $found = [];
        $rows = DB::table('lifted_values')
            ->join('fields', 'fields.id', '=', 'field_id')
            ->where('document_id', $document->id)
            ->where('version', $document->version)
            ->orderBy('lifted_values.id')
            ->get(['code', 'value', 'page', 'boxes']);
        foreach ($rows as $row) {
            if (in_array((string) $row->value, $present[$row->code] ?? [], true)) {
                $found[(string) $row->code][] = [
                    'value' => (string) $row->value,
                    'page' => (int) $row->page,
                    'boxes' => json_decode((string) $row->boxes, true),
                ];
            }
        }

        return $found;
    }

    /** @return list<array{float, float, float, float}> of the words that say a text on a page, where they first do */
    private static function boxes(Page $row, string $text): array
    {
        $page = PageStore::page($row);
        $sought = preg_split('/\s+/u', trim($text), -1, PREG_SPLIT_NO_EMPTY) ?: [];
        $words = array_map(static fn ($word): string => substr($page->text, $word->offset, $word->length), $page->words);
        for ($at = 0; $sought !== [] && $at <= count($words) - count($sought); $at++) {
            $isFound = true;
            foreach ($sought as $i => $one) {
                // At both ends a sign of the sentence may hang on.
                $isFound = $isFound && ($words[$at + $i] === $one || trim($words[$at + $i], '.,;:()“”"\'') === trim($one, '.,;:()“”"\''));
            }
            if ($isFound) {
                return array_map(
                    static fn ($word): array => [$word->left, $word->top, $word->right, $word->bottom],
                    array_slice($page->words, $at, count($sought)),
                );
            }
        }

        return [];
    }
}
