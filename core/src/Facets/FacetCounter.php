<?php

declare(strict_types=1);

namespace Brenvic\Core\Facets;

use Brenvic\Core\Fields\FieldDefinition;
use Brenvic\Core\Fields\FieldKind;
use Brenvic\Core\Index\Bits;
use Brenvic\Core\Index\DocumentSet;
use Brenvic\Core\Index\IndexReader;
use Brenvic\Core\Index\Keys;
use Brenvic\Core\Index\Tokenizer;

/**
 * Counts the values of a field in a set. A field's values lie in byte columns, a block of 255 values each: a column
 * masked with the set and counted by `count_chars` gives all counts of its block at once. Small sets are read document
 * by document from the same columns.
 */
final readonly class FacetCounter
{
    private const FEW = 2_000;

    public function __construct(private IndexReader $reader)
    {
    }

    /**
     * @param  DocumentSet  $set  the result without what the search chose of this field
     * @param  list<string>  $chosen  values that are listed however few documents have them
     * @param  array<string, int>  $excluded  value => what leaving it out costs
     * @param  DocumentSet  $whole  what standing out is measured against; it holds `$set`
     */
    public function count(FieldDefinition $field, DocumentSet $set, FacetRequest $request, array $chosen, array $excluded, DocumentSet $whole): FacetCounts
    {
        if ($field->kind === FieldKind::Number) {
            return new FacetCounts([], 0, NumberRanges::of($this->reader->allSlices($field->code), $set));
        }
        $terms = $this->reader->valueTerms($field->code);
        $counts = [];
        foreach ($this->byNumber($field->code, $set) as $number => $count) {
            $counts[$terms[$number] ?? ''] = $count;
        }
        $distinct = count($counts);
        $standing = [];
        if ($request->order === FacetOrder::StandingOut) {
            $standing = $this->standingOut($field, $counts, $set->count(), $whole, array_flip($terms));
            $counts = array_intersect_key($counts, $standing);
        }
        if ($request->search !== '') {
            $wanted = Tokenizer::fold($request->search);
            $counts = array_filter($counts, static fn (int|string $value): bool => str_contains(Tokenizer::fold($field->display((string) $value)), $wanted), ARRAY_FILTER_USE_KEY);
        }
        $values = [];
        $tops = 0;
        // A tree is shown whole below its top values, so that opening a branch never hides a leaf.
        $isOpen = $field->kind === FieldKind::Date || ($field->isTree() && $request->search === '' && $standing === []);
        foreach (self::ordered($field, $counts, $standing, $request->order) as $value) {
            $value = (string) $value;
            $parent = $this->parent($field, $value);
            $isKept = isset($excluded[$value]) || in_array($value, $chosen, true);
            if (! $isKept && ! ($isOpen && ($parent !== null || $field->kind === FieldKind::Date)) && ++$tops > $request->most) {
                continue;
            }
            $values[] = new FacetValue($value, $field->display($value), $parent, $excluded[$value] ?? $counts[$value], in_array($value, $chosen, true), isset($excluded[$value]), $standing[$value] ?? null);
        }
        $listed = array_map(static fn (FacetValue $v): string => $v->value, $values);
        foreach (array_diff([...$chosen, ...array_map(strval(...), array_keys($excluded))], $listed) as $value) {
            $values[] = new FacetValue($value, $field->display($value), $this->parent($field, $value), $excluded[$value] ?? $counts[$value] ?? 0, in_array($value, $chosen, true), isset($excluded[$value]));
        }

        return new FacetCounts($values, $distinct);
    }

    private function parent(FieldDefinition $field, string $value): ?string
    {
        return match (true) {
            $field->isTree() => $field->vocabulary->terms[$value]->parent ?? null,
            $field->kind === FieldKind::Date => strlen($value) > 4 ? substr($value, 0, 4) : null,
            default => null,
        };
    }

    /**
     * @param  array<int|string, int>  $counts
     * @param  array<int|string, int>  $numbers  value => number
     * @return array<int|string, StandingOut>
     */
    private function standingOut(FieldDefinition $field, array $counts, int $result, DocumentSet $whole, array $numbers): array
    {
        $inAll = $this->byNumber($field->code, $whole);
        $all = $whole->count();
        $standing = [];
        foreach ($counts as $value => $count) {
            $of = StandingOut::of($count, $result, $inAll[$numbers[$value]] ?? 0, $all);
            if ($of !== null) {
                $standing[$value] = $of;
            }
        }

        return $standing;
    }

    /**
     * Values in the order asked for. Ties go by the value itself, never by its number, which depends on what else is
     * in the index.
     *
     * @param  array<int|string, int>  $counts
     * @param  array<int|string, StandingOut>  $standing
     * @return list<int|string>
     */
    private static function ordered(FieldDefinition $field, array $counts, array $standing, FacetOrder $order): array
    {
        $values = array_map(strval(...), array_keys($counts));
        switch ($order) {
            case FacetOrder::Count:
                $by = array_values($counts);
                array_multisort($by, SORT_DESC, $values, SORT_ASC, SORT_STRING);
                break;
            case FacetOrder::Name:
                $place = $field->kind === FieldKind::Choice ? array_flip(array_map(strval(...), array_keys($field->vocabulary->terms ?? []))) : [];
                $by = array_map(static fn (string $value): string => sprintf('%09d', $place[$value] ?? 999_999_999).Tokenizer::fold($field->display($value)), $values);
                array_multisort($by, SORT_ASC, SORT_STRING, $values, SORT_ASC, SORT_STRING);
                break;
            case FacetOrder::StandingOut:
                $by = array_map(static fn (string $value): float => $standing[$value]->likelihood, $values);
                array_multisort($by, SORT_DESC, $values, SORT_ASC, SORT_STRING);
                break;
        }

        return $values;
    }

    /** @return array<int, int> value number => documents, without zeros */
    public function byNumber(string $code, DocumentSet $set): array
    {
        $blocks = intdiv($this->reader->valueCount($code) + Keys::BLOCK - 1, Keys::BLOCK);
        $few = $set->count() <= self::FEW;
        $counts = [];
        foreach ($set->segments as $segment => $bits) {
            if (Bits::isEmpty($bits)) {
                continue;
            }
            $offsets = $few ? Bits::offsets($bits) : [];
            for ($block = 0; $block < $blocks; $block++) {
                for ($slot = 0; ($column = $this->reader->column($code, $block, $slot, $segment)) !== null; $slot++) {
                    $bytes = $few ? self::countFew($column, $offsets) : count_chars($column & $set->mask($segment), 1);
                    foreach ($bytes as $byte => $count) {
                        if ($byte !== 0) {
                            $number = $block * Keys::BLOCK + $byte;
                            $counts[$number] = ($counts[$number] ?? 0) + $count;
                        }
                    }
                }
            }
        }

        return $counts;
    }

    /**
     * @param  list<int>  $offsets
     * @return array<int, int> byte => documents
     */
    private static function countFew(string $column, array $offsets): array
    {
        $counts = [];
        foreach ($offsets as $offset) {
            $byte = ord($column[$offset]);
            $counts[$byte] = ($counts[$byte] ?? 0) + 1;
        }

        return $counts;
    }
}
