<?php

declare(strict_types=1);

namespace Brenvic\Core\Design;

use Brenvic\Core\Facets\FacetCounter;
use Brenvic\Core\Facets\FacetRange;
use Brenvic\Core\Facets\NumberRanges;
use Brenvic\Core\Fields\FieldDefinition;
use Brenvic\Core\Index\DocumentSet;
use Brenvic\Core\Index\IndexReader;

/**
 * What the documents of a view say about its columns and levels: columns with one value on every row, columns that are
 * mostly empty, and the fields that would divide the documents best.
 *
 * How well a field divides is the entropy of its values in bits (C. E. Shannon, “A mathematical theory of
 * communication”, 1948), documents without a value counting as one value more. Fields with nearly as many values as there
 * are documents divide nothing that could be read, and are left out.
 */
final readonly class ViewAdvice
{
    /** Above this share of empty rows a column is called mostly empty. */
    private const MOSTLY = 0.8;

    /** On average a group should have at least so many documents. */
    private const LEAST_GROUP = 2;

    private const BEST = 6;

    public function __construct(private IndexReader $reader)
    {
    }

    /**
     * @param  iterable<FieldDefinition>  $fields
     * @return list<FieldAdvice> the best dividing first; fields that no document has are left out
     */
    public function of(DocumentSet $documents, iterable $fields): array
    {
        $advice = [];
        foreach ($fields as $field) {
            $of = $this->ofField($documents, $field);
            if ($of !== null) {
                $advice[] = $of;
            }
        }
        usort($advice, static fn (FieldAdvice $a, FieldAdvice $b): int => $b->bits <=> $a->bits ?: strcmp($a->field, $b->field));

        return $advice;
    }

    /**
     * Those of some advice that divide best.
     *
     * @param  list<FieldAdvice>  $advice
     * @return list<FieldAdvice>
     */
    public static function dividing(array $advice, int $documents): array
    {
        $fit = array_filter($advice, static fn (FieldAdvice $a): bool => $a->distinct > 1 && $a->distinct * self::LEAST_GROUP <= $documents);

        return array_slice(array_values($fit), 0, self::BEST);
    }

    public static function isMostlyEmpty(FieldAdvice $advice, int $documents): bool
    {
        return $documents > 0 && $advice->filled < (1 - self::MOSTLY) * $documents;
    }

    private function ofField(DocumentSet $documents, FieldDefinition $field): ?FieldAdvice
    {
        $all = $documents->count();
        if ($field->kind->hasRanges() || ($field->kind->isOrdered() && ! $field->faceted)) {
            return $this->onLine($documents, $field);
        }
        $terms = $this->reader->valueTerms($field->code);
        $counts = [];
        foreach (
            $field->faceted
                ? (new FacetCounter($this->reader))->byNumber($field->code, $documents)
                : $this->byPosting($field, $documents, array_keys($terms)) as $number => $count
        ) {
            $counts[$terms[$number] ?? ''] = $count;
        }
        // A tree is divided by its top terms, a date by its years: what is below would be the next level.
        $counts = array_filter($counts, static fn (int|string $value): bool => $field->above((string) $value) === [], ARRAY_FILTER_USE_KEY);
        if ($counts === []) {
            return null;
        }
        $filled = min($all, array_sum($counts));
        $only = count($counts) === 1 && current($counts) === $all ? $field->display((string) key($counts)) : null;

        return new FieldAdvice($field->code, $filled, count($counts), self::entropy([...array_values($counts), $all - $filled]), $only);
    }

    /** Numbers are divided by ranges; dates that are no facet are not divided. */
    private function onLine(DocumentSet $documents, FieldDefinition $field): ?FieldAdvice
    {
        $slots = $this->reader->allSlices($field->code);
        $filled = $slots[0]->present->countCommon($documents);
        if ($filled === 0) {
            return null;
        }
        $ranges = $field->kind->hasRanges() ? NumberRanges::of($slots, $documents) : [];
        $counts = array_map(static fn (FacetRange $range): int => $range->count, $ranges);
        $only =
            count($ranges) === 1 && $ranges[0]->from === $ranges[0]->to && $filled === $documents->count()
                ? $field->display($ranges[0]->from)
                : null;

        return new FieldAdvice(
            $field->code,
            $filled,
            count($ranges),
            $counts === [] ? 0.0 : self::entropy([...$counts, $documents->count() - $filled]),
            $only,
        );
    }

    /**
     * @param  non-empty-list<int>  $counts
     * @return float bits
     */
    private static function entropy(array $counts): float
    {
        $sum = array_sum($counts);
        $bits = 0.0;
        foreach ($counts as $count) {
            if ($count > 0) {
                $bits -= ($count / $sum) * log($count / $sum, 2);
            }
        }

        return $bits;
    }

    /**
     * @param  list<int>  $numbers
     * @return array<int, int>
     */
    private function byPosting(FieldDefinition $field, DocumentSet $documents, array $numbers): array
    {
        $counts = [];
        foreach ($numbers as $number) {
            $count = $this->reader->value($field->code, $number)->countCommon($documents);
            if ($count > 0) {
                $counts[$number] = $count;
            }
        }

        return $counts;
    }
}
