<?php

declare(strict_types=1);

namespace Brenvic\Core\Reading;

use Brenvic\Core\Capture\TextPage;
use Brenvic\Core\Fields\FieldDefinition;
use Brenvic\Core\Lift\Place;
use Brenvic\Core\Lift\Places;

/**
 * Whatever fits the kind of the field: dates, amounts, numbers with its unit, identifiers with valid check characters, terms of its
 * vocabulary with their synonyms, names of people (two to four words in capitals), web addresses. It does not know what is meant: a
 * date of birth is a date, too.
 */
final class KindRule implements ReadingRule
{
    /** Places of a page that are told at most. */
    private const MOST = 200;

    public function in(TextPage $page, FieldDefinition $field): array
    {
        $places = Places::shared($field);
        $found = array_map(static fn (Place $place): array => [$place->offset, $place->length, $place->value], $places->in($page->text, self::MOST));
        usort($found, static fn (array $a, array $b): int => $a[0] <=> $b[0]);

        return $found;
    }
}
