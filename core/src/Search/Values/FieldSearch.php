<?php

declare(strict_types=1);

namespace Brenvic\Core\Search\Values;

use Brenvic\Core\Fields\FieldDefinition;
use Brenvic\Core\Fields\PartialDate;
use Brenvic\Core\Index\BitSlices;
use Brenvic\Core\Index\DocumentSet;
use Brenvic\Core\Index\IndexReader;
use Brenvic\Core\Index\Keys;
use Brenvic\Core\Index\NameCode;
use Brenvic\Core\Index\Part;
use Brenvic\Core\Index\Tokenizer;
use Brenvic\Core\Search\Asking\ClauseModifiers;
use Brenvic\Core\Search\Asking\Criterion;
use Brenvic\Core\Search\Asking\SearchError;
use Brenvic\Core\Search\Asking\SearchFault;
use Brenvic\Core\Search\Asking\SearchSchema;
use Brenvic\Core\Search\Words\TextSearch;

/** Finds documents by the values of one field. */
final readonly class FieldSearch
{
    private ValueTest $values;

    public function __construct(private IndexReader $reader, SearchSchema $schema, private TextSearch $text)
    {
        $this->values = new ValueTest($schema);
    }

    /** @throws SearchError */
    public function find(FieldDefinition $field, string $relation, string $term, ClauseModifiers $modifiers): DocumentSet
    {
        if ($field->kind->isOrdered()) {
            return $this->onLine($field, $relation, $term);
        }

        return match ($relation) {
            '==', 'exact' => $modifiers->whole === false
                ? $this->words($field, 'adj', $term, $modifiers)
                : $this->whole($field, $term, $modifiers),
            '=', 'scr' => match ($modifiers->whole) {
                true => $this->whole($field, $term, $modifiers),
                false => $this->words($field, 'adj', $term, $modifiers),
                null => $this->wholeOrWords($field, $term, $modifiers),
            },
            'any', 'all', 'adj' => $this->words($field, $relation, $term, $modifiers),
            default => throw new SearchError(
                "“{$relation}” does not apply to {$field->label}: its values have no order. Use =, ==, <>, any, all or adj.",
                fault: SearchFault::RelationForIndex,
            ),
        };
    }

    /** The documents that have any value in a field. */
    public function filled(FieldDefinition $field): DocumentSet
    {
        return match (true) {
            $field->kind->isOrdered() => $this->reader->slices($field->code)->present,
            in_array($field->code, SearchSchema::OWN_NAMES, true) => $this->reader->words([Part::ofField($field->code)], [Keys::ANY]),
            default => $this->reader->value($field->code, Keys::ANY),
        };
    }

    private function wholeOrWords(FieldDefinition $field, string $term, ClauseModifiers $modifiers): DocumentSet
    {
        if (ValueTest::namesTerm($field, '=', $term, $modifiers)) {
            return $this->whole($field, $term, $modifiers);
        }
        $words = $this->words($field, 'adj', $term, $modifiers);
        // A mask without others within is found by the words, wherever it stands; the dictionary need not be looked through.
        $isPart = ! $field->kind->isCoded() && $field->kind->hasWords() && $modifiers->masked && Criterion::isPart($term);

        return $isPart ? $words : $words->or($this->whole($field, $term, $modifiers));
    }

    private function words(FieldDefinition $field, string $relation, string $term, ClauseModifiers $modifiers): DocumentSet
    {
        return $field->kind->hasWords()
            ? $this->text->find([Part::ofField($field->code)], $relation, $term, $modifiers)
            : DocumentSet::none();
    }

    private function onLine(FieldDefinition $field, string $relation, string $term): DocumentSet
    {
        if ($relation === 'any' || $relation === 'all') {
            $sets = array_map(
                fn (string $value): DocumentSet => $this->onLine($field, '=', $value),
                preg_split('/\s+/', $term, -1, PREG_SPLIT_NO_EMPTY) ?: [],
            );

            return $relation === 'any'
                ? DocumentSet::union($sets)
                : array_reduce($sets, static fn (?DocumentSet $all, DocumentSet $set): DocumentSet => $all?->and($set) ?? $set) ??
                        DocumentSet::none();
        }
        [$from, $to] = $this->values->reach($field, $relation, $term);
        if ($field->kind->isStretch()) {
            return $this->stretches($field, $relation, $term);
        }
        $set =
            $from !== null && $to !== null && $from > $to
                ? DocumentSet::none()
                : DocumentSet::union(
                    array_map(
                        static fn (BitSlices $slices): DocumentSet => $slices->between($from, $to),
                        $this->reader->allSlices($field->code),
                    ),
                );

        return $relation === 'encloses' && $field->kind->hasPrecision()
            ? $set->or($this->enclosing($field, ...$this->values->range($field, $term)))
            : $set;
    }

    /** The documents whose stretch of time shares a day with what is looked for; with `encloses`, has all of it. */
    private function stretches(FieldDefinition $field, string $relation, string $term): DocumentSet
    {
        if ($relation === 'encloses') {
            [$low, $high] = $this->values->range($field, $term);
            [$from, $to] = [$high, $low];
        } else {
            [$from, $to] = $this->values->reach($field, $relation, $term);
        }

        return $this->reader
            ->slices($field->code)
            ->between(null, $to)
            ->and($this->reader->slices(Keys::end($field->code))->between($from, null));
    }

    /** The documents whose date is known only to a month or a year that holds all of some days. */
    private function enclosing(FieldDefinition $field, int $low, int $high): DocumentSet
    {
        $first = PartialDate::ofDay($low)->iso();
        $last = PartialDate::ofDay($high)->iso();
        $sets = [];
        foreach ([4, 7] as $length) {
            $number =
                substr($first, 0, $length) === substr($last, 0, $length)
                    ? $this->reader->valueNumber(Keys::own($field->code), substr($first, 0, $length))
                    : null;
            $sets[] = $number === null ? DocumentSet::none() : $this->reader->value(Keys::own($field->code), $number);
        }

        return DocumentSet::union($sets);
    }

    /** The documents whose value is the term as a whole, case and accents aside; the term may be masked. */
    private function whole(FieldDefinition $field, string $term, ClauseModifiers $modifiers): DocumentSet
    {
        if (in_array($field->code, SearchSchema::OWN_NAMES, true)) {
            return $this->named($field, $term, $modifiers);
        }
        $space = $modifiers->only && $field->isTree() ? Keys::own($field->code) : $field->code;
        if (! ValueTest::isMasked($term, $modifiers)) {
            $number = $this->reader->valueNumber($space, $this->values->normal($field, Criterion::unescaped($term)));
            if ($number !== null) {
                return $this->reader->value($space, $number);
            }
        }

        return $this->reader->values($space, $this->fitting($field, $space, $term, $modifiers));
    }

    /**
     * The values that a term fits as a whole.
     *
     * @return list<int> their numbers
     */
    private function fitting(FieldDefinition $field, string $space, string $term, ClauseModifiers $modifiers): array
    {
        $expression = ValueTest::expression($term, $modifiers->masked);
        $prefix = $modifiers->masked ? self::prefix($term) : null;
        $isShown = $field->kind->isCoded();
        $terms = $prefix === null || $isShown ? $this->reader->valueTerms($space) : $this->reader->valueTermsBeginningWith($space, $prefix);
        // Most values are plain, and are looked through at once; only the others are folded one by one.
        $plain = $isShown ? [] : (preg_grep('/^[^\x80-\xFF\']*+$/Ds', $terms) ?: []);
        $numbers = array_keys(preg_grep("{$expression}i", $plain) ?: []);
        foreach (array_diff_key($terms, $plain) as $number => $value) {
            if (
                preg_match($expression, Tokenizer::fold($value)) === 1 ||
                ($isShown && preg_match($expression, Tokenizer::fold($field->display($value))) === 1)
            ) {
                $numbers[] = $number;
            }
        }

        return $numbers;
    }

    /** What values begin with that a term fits whose only mask is a `*` at its end, folded; null for any other term. */
    private static function prefix(string $term): ?string
    {
        $beginning = Criterion::beginning($term);

        return $beginning === null ? null : Tokenizer::fold(Criterion::unescaped($beginning));
    }

    /**
     * The same in a field of which nearly every document has a value of its own. Such values are in no dictionary: they are
     * found by their words, and by the number that their beginning is sorted by. What is between words does not matter.
     */
    private function named(FieldDefinition $field, string $term, ClauseModifiers $modifiers): DocumentSet
    {
        $parts = [Part::ofField($field->code)];
        if (! ValueTest::isMasked($term, $modifiers)) {
            return $this->text->find($parts, '==', $term, $modifiers);
        }
        $prefix = self::prefix($term);
        if ($prefix !== null) {
            [$ranges, $isExact] = NameCode::beginning($field->code, Criterion::unescaped(substr($term, 0, -1)));
            $set = self::common(
                array_map(
                    fn (string $level, array $ends): DocumentSet => $this->reader->slices($level)->between(...$ends),
                    array_keys($ranges),
                    $ranges,
                ),
            );

            return match (true) {
                $set === null => $this->filled($field),
                $isExact => $set,
                default => $set->and($this->text->find($parts, '=', "^{$term}", $modifiers)),
            };
        }
        // A mask may reach over several words: what stands before and behind it is looked for by itself.
        $pieces = preg_split('/((?:[^*\\\\]++|\\\\.)++)/su', $term, -1, PREG_SPLIT_NO_EMPTY | PREG_SPLIT_DELIM_CAPTURE) ?: [];
        $sets = [];
        foreach ($pieces as $i => $piece) {
            if (trim($piece, '*') !== '') {
                $sets[] = $this->text->find(
                    $parts,
                    '=',
                    ($i === 0 ? '^' : '*').$piece.(isset($pieces[$i + 1]) ? '*' : '^'),
                    $modifiers,
                );
            }
        }

        return self::common($sets) ?? $this->filled($field);
    }

    /** @param  list<DocumentSet>  $sets */
    private static function common(array $sets): ?DocumentSet
    {
        $common = null;
        foreach ($sets as $set) {
            $common = $common?->and($set) ?? $set;
        }

        return $common;
    }
}
