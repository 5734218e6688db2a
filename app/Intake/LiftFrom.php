<?php

declare(strict_types=1);

namespace App\Intake;

use App\Models\Document;
use Brenvic\Core\Fields\FieldDefinition;
use Brenvic\Core\Lift\Places;
use Illuminate\Support\Facades\DB;

/** What the pages of a document say that a field could have. */
final class LiftFrom
{
    /** Pages that are looked through: what says what a document is stands on the first ones, or on the last. */
    private const PAGES = 12;

    /** Places told at once: as many as there are keys for. */
    private const MOST = 9;

    /** @return list<array{page: int, text: string, value: string, label: string}> in the order of the pages, each value once */
    public static function places(Document $document, FieldDefinition $field): array
    {
        $pages = DB::table('pages')->where('document_id', $document->id)->orderBy('number')->limit(self::PAGES)->get(['number', 'text']);
        $found = new Places($field);
        $places = [];
        foreach ($pages as $page) {
            foreach ($found->in((string) $page->text, self::MOST) as $place) {
                if (count($places) < self::MOST) {
                    $places[$place->value] ??= [
                        'page' => (int) $page->number,
                        'text' => (string) preg_replace('/\s+/u', ' ', substr((string) $page->text, $place->offset, $place->length)),
                        'value' => $place->value,
                        'label' => $field->display($place->value),
                    ];
                }
            }
        }

        return array_values($places);
    }
}
