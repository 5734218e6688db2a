<?php

declare(strict_types=1);

namespace Brenvic\Core\Reading;

use Brenvic\Core\Capture\TextPage;
use Brenvic\Core\Fields\FieldDefinition;

/** Reads a document by a rule, up to a limit. */
final class Reader
{
    /** A document is read no further, in bytes of its text. */
    public const MOST = 2_000_000;

    /** Places of a document that are told at most. */
    private const PLACES = 500;

    /**
     * What a rule proposes where nobody waits to be told of its faults: nothing, if it takes too long. Its trial says so.
     *
     * @param  iterable<int, TextPage>  $pages  by their number
     * @return list<Found> each value once; one if the field takes one
     */
    public static function proposed(ReadingRule $rule, FieldDefinition $field, iterable $pages): array
    {
        try {
            return self::read($rule, $field, $pages)->proposed($field->multiple);
        } catch (TooManySteps) {
            return [];
        }
    }

    /**
     * @param  iterable<int, TextPage>  $pages  by their number
     *
     * @throws TooManySteps
     */
    public static function read(ReadingRule $rule, FieldDefinition $field, iterable $pages): Reading
    {
        $found = [];
        $left = self::MOST;
        foreach ($pages as $number => $page) {
            $isCut = strlen($page->text) > $left;
            if ($isCut) {
                $page = new TextPage($page->width, $page->height, mb_strcut($page->text, 0, $left), $page->words);
            }
            $left -= strlen($page->text);
            foreach ($rule->in($page, $field) as [$offset, $length, $value]) {
                $found[] = new Found($number, $offset, $length, $value);
            }
            if ($isCut || count($found) >= self::PLACES) {
                return new Reading(array_slice($found, 0, self::PLACES), true);
            }
        }

        return new Reading($found, false);
    }
}
