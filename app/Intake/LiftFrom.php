<?php

declare(strict_types=1);

namespace App\Intake;

use App\Files\PageStore;
use App\Models\Document;
use App\Models\Page;
use Brenvic\Core\Fields\FieldDefinition;
use Brenvic\Core\Lift\Place;
use Brenvic\Core\Lift\Places;

/** What the pages of a document say that a field could have. */
final class LiftFrom
{
    /** Pages that are looked through: what says what a document is stands on the first ones, or on the last. */
    private const PAGES = 12;

    /** Places told at once: as many as there are keys for. */
    private const MOST = 9;

    /**
     * @return list<array{page: int, text: string, value: string, label: string, boxes: list<array{float, float, float, float}>}>
     *         in the order of the pages, each value once
     */
    public static function places(Document $document, FieldDefinition $field): array
    {
        $pages = Page::query()->where('document_id', $document->id)->orderBy('number')->limit(self::PAGES)->get();
        $found = new Places($field);
        $places = [];
        foreach ($pages as $page) {
            foreach ($found->in($page->text, self::MOST) as $place) {
                if (count($places) < self::MOST) {
                    $places[$place->value] ??= [
                        'page' => $page->number,
                        'text' => (string) preg_replace('/\s+/u', ' ', substr($page->text, $place->offset, $place->length)),
                        'value' => $place->value,
                        'label' => $field->display($place->value),
                        'boxes' => self::boxes($page, $place),
                    ];
                }
            }
        }

        return array_values($places);
    }

    /** @return list<array{float, float, float, float}> where its words stand on the page; none on pages without a picture */
    private static function boxes(Page $page, Place $place): array
    {
        $boxes = [];
        foreach (PageStore::page($page)->words as $word) {
            if ($word->offset < $place->offset + $place->length && $word->offset + $word->length > $place->offset) {
                $boxes[] = [$word->left, $word->top, $word->right, $word->bottom];
            }
        }

        return $boxes;
    }
}
