<?php

declare(strict_types=1);

namespace Brenvic\Core\Search\Values;

use Brenvic\Core\Facets\FacetCounter;
use Brenvic\Core\Facets\FacetRange;
use Brenvic\Core\Facets\NumberRanges;
use Brenvic\Core\Fields\FieldDefinition;
use Brenvic\Core\Index\BitSlices;
use Brenvic\Core\Index\DocumentSet;
use Brenvic\Core\Index\IndexReader;
use Brenvic\Core\Index\Keys;
use Brenvic\Core\Index\Tokenizer;
use Brenvic\Core\Query\Modifier;
use Brenvic\Core\Query\Node;
use Brenvic\Core\Query\SearchClause;
use Brenvic\Core\Search\Asking\Criterion;
use Brenvic\Core\Search\Asking\SearchSchema;
use Brenvic\Core\Search\Words\TextSearch;

/**
 * Divides documents by the values of a field: one level of a view. A tree is divided by its top terms, and each of them
 * by the terms below it when it is opened; dates by years and then months; numbers by ranges. A document with several
 * values stands in several groups. Documents without a value come last.
 */
final readonly class Grouping
{
    public function __construct(private IndexReader $reader, private ?FieldDefinition $summed = null)
    {
    }

    /**
     * @param  string|null  $below  the value (of a tree or date) whose documents are divided; null for the whole field
     * @return list<Group>
     */
    public function of(DocumentSet $documents, FieldDefinition $field, ?string $below = null): array
    {
        $groups = $field->kind->hasRanges() ? $this->ranges($documents, $field) : $this->values($documents, $field, $below);
        if ($below === null) {
            $empty = $documents->minus(
                (new FieldSearch($this->reader, new SearchSchema([$field]), new TextSearch($this->reader, $documents)))->filled($field),
            );
            if (! $empty->isEmpty()) {
                $groups[] = $this->group('', new SearchClause($field->code, '==', ''), $empty, null);
            }
        }

        return $groups;
    }

    /** @return list<Group> */
    private function values(DocumentSet $documents, FieldDefinition $field, ?string $below): array
    {
        $terms = $this->reader->valueTerms($field->code);
        $counts = $field->faceted ? (new FacetCounter($this->reader))->byNumber($field->code, $documents) : $terms;
        $values = [];
        foreach (array_keys($counts) as $number) {
            $value = $terms[$number] ?? '';
            $above = $field->above($value);
            if ($below === null ? $above === [] : in_array($below, $above, true)) {
                $values[$value] = $number;
            }
        }
        $withBelow = [];
        foreach (array_keys($counts) as $number) {
            foreach ($field->above($terms[$number] ?? '') as $above) {
                $withBelow[$above] = true;
            }
        }
        $groups = [];
        foreach (self::inOrder($field, array_map(strval(...), array_keys($values))) as $value) {
            $of = $this->reader->value($field->code, $values[$value])->and($documents);
            if (! $of->isEmpty()) {
                $groups[] = $this->group(
                    $field->display($value),
                    self::node($field, $value),
                    $of,
                    isset($withBelow[$value]) ? $value : null,
                );
            }
        }

        return $below === null ? $groups : [...$this->direct($documents, $field, $below), ...$groups];
    }

    /**
     * The documents that have the value itself and nothing below it.
     *
     * @return list<Group>
     */
    private function direct(DocumentSet $documents, FieldDefinition $field, string $value): array
    {
        $number = $this->reader->valueNumber(Keys::own($field->code), $value);
        $of = $number === null ? DocumentSet::none() : $this->reader->value(Keys::own($field->code), $number)->and($documents);
        if ($of->isEmpty()) {
            return [];
        }
        $label = $field->kind->isDate() ? 'Only the year is known' : "{$field->display($value)} itself";

        return [
            $this->group(
                $label,
                $field->kind->isDate()
                    ? new SearchClause($field->code, 'encloses', "{$value}-01-01 {$value}-12-31")
                    : new SearchClause($field->code, '==', Criterion::escaped($value), [new Modifier('only')]),
                $of,
                null,
            ),
        ];
    }

    /**
     * @param  list<string>  $values
     * @return list<string>
     */
    private static function inOrder(FieldDefinition $field, array $values): array
    {
        if ($field->kind->isDate()) {
            rsort($values, SORT_STRING);

            return $values;
        }
        $place = $field->kind->places($field, $values);
        usort(
            $values,
            static fn (string $a, string $b): int => ($place[$a] ?? PHP_INT_MAX) <=> ($place[$b] ?? PHP_INT_MAX) ?:
            strnatcmp(Tokenizer::fold($field->display($a)), Tokenizer::fold($field->display($b))),
        );

        return $values;
    }

    private static function node(FieldDefinition $field, string $value): Node
    {
        return $field->kind->isOrdered()
            ? new SearchClause($field->code, '=', $value)
            : new SearchClause($field->code, '==', Criterion::escaped($value));
    }

    /** @return list<Group> */
    private function ranges(DocumentSet $documents, FieldDefinition $field): array
    {
        $slots = $this->reader->allSlices($field->code);

        return array_map(function (FacetRange $range) use ($documents, $field, $slots): Group {
            $of = DocumentSet::union(
                array_map(
                    static fn (BitSlices $slices): DocumentSet => $slices->between(
                        FieldDefinition::numberOrdinal((float) $range->from),
                        FieldDefinition::numberOrdinal((float) $range->to),
                    ),
                    $slots,
                ),
            )->and($documents);
            $label = $field->displayRange($range->from, $range->until);

            return $this->group($label, new SearchClause($field->code, 'within', "{$range->from} {$range->to}"), $of, null);
        }, NumberRanges::of($slots, $documents));
    }

    private function group(string $label, Node $node, DocumentSet $of, ?string $deeper): Group
    {
        return new Group($label, $node, $of->count(), $deeper, $this->summed === null ? null : $this->total($of, $this->summed));
    }

    /** @return array{sum: string, lowest: string, highest: string}|null the first and the last day; days have no sum */
    private function span(DocumentSet $documents, FieldDefinition $field): ?array
    {
        $ends = [];
        foreach ([$field->code, ...$field->kind->isStretch() ? [Keys::end($field->code)] : []] as $of) {
            foreach ($this->reader->allSlices($of) as $slices) {
                $ends = [...$ends, ...self::ends($slices, $slices->present->and($documents))];
            }
        }

        return $ends === []
            ? null
            : ['sum' => '', 'lowest' => $field->kind->ofOrdinal(min($ends)), 'highest' => $field->kind->ofOrdinal(max($ends))];
    }

    /** @return list<int> the lowest and highest ordinal of some documents */
    private static function ends(BitSlices $slices, DocumentSet $of): array
    {
        return $of->isEmpty() ? [] : [$slices->extreme($of, false), $slices->extreme($of, true)];
    }

    /** @return array{sum: string, lowest: string, highest: string}|null */
    private function total(DocumentSet $documents, FieldDefinition $field): ?array
    {
        if (! $field->kind->hasSum()) {
            return $this->span($documents, $field);
        }
        $zero = FieldDefinition::numberOrdinal(0);
        $count = 0;
        $sum = gmp_init(0);
        $ends = [];
        foreach ($this->reader->allSlices($field->code) as $slices) {
            $of = $slices->present->and($documents);
            if ($of->isEmpty()) {
                continue;
            }
            $count += $of->count();
            $sum = gmp_add($sum, $slices->sum($of));
            $ends = [...$ends, ...self::ends($slices, $of)];
        }

        return $ends === []
            ? null
            : [
                'sum' => $field->kind->ofOrdinal($zero + gmp_intval(gmp_sub($sum, gmp_mul($zero, $count)))),
                'lowest' => $field->kind->ofOrdinal(min($ends)),
                'highest' => $field->kind->ofOrdinal(max($ends)),
            ];
    }
}
