<?php

declare(strict_types=1);

namespace Brenvic\Core\Facets;

use Brenvic\Core\Fields\FieldDefinition;
use Brenvic\Core\Index\ColumnMask;
use Brenvic\Core\Index\DocumentSet;
use Brenvic\Core\Index\IndexReader;
use Brenvic\Core\Index\Keys;
use Brenvic\Core\Index\Posting;
use Brenvic\Core\Index\Tokenizer;

/**
 * Counts the values of a field in a set, segment by segment in the way that is cheapest there:
 *
 * - the bit string of each value ANDed with the set, when there are few values;
 * - the byte column of each block of 255 values masked with the set and counted by `count_chars`;
 * - document by document from the same columns, when the set has few;
 * - from the records of the documents, all facets at once, when they are few and the columns would have to be fetched.
 *
 * What the whole of an asker's documents counts is remembered, for most facets of a first look are just that.
 */
final readonly class FacetCounter
{
    /** Documents of a segment that are looked at one by one at most. */
    private const FEW = 2_000;

    /** Fewer documents than this are counted without a place for every byte. */
    private const SPARSE = 256;

    /** Documents a segment whose records are read sooner than its columns are fetched. */
    private const FROM_RECORDS = 125;

    /** A column takes as long to count as so many bit strings of values. */
    private const COLUMN_COSTS = 20;

    /** Documents that are listed in a posting cost as much as one bit string. */
    private const LISTED_COST = 120;

    /** A tree of more values than this is listed only as far as it has been opened. */
    private const WHOLE_TREE = 400;

    public function __construct(private IndexReader $reader)
    {
    }

    /**
     * @param  list<string>  $chosen  values that are listed however few documents have them
     * @param  array<string, int>  $excluded  value => what leaving it out costs
     */
    public function count(FieldDefinition $field, FacetScope $scope, FacetRequest $request, array $chosen, array $excluded): FacetCounts
    {
        [$set, $whole, $asker] = [$scope->set, $scope->whole, $scope->asker];
        if ($field->kind->hasRanges()) {
            return new FacetCounts(
                [],
                0,
                $this->isFromRecords($field->code, $set)
                    ? NumberRanges::ofNumbers($this->reader->counted($set)[1][$field->code] ?? [])
                    : NumberRanges::of($this->reader->allSlices($field->code), $set),
            );
        }
        $terms = $this->reader->valueTerms($field->code);
        $counts = [];
        foreach ($this->byNumber($field->code, $set, $set === $whole ? $asker : '') as $number => $count) {
            $counts[$terms[$number] ?? ''] = $count;
        }
        $distinct = count($counts);
        $standing = [];
        if ($request->order === FacetOrder::StandingOut) {
            $standing = self::standingOut(
                $counts,
                $set->count(),
                $whole->count(),
                $this->byNumber($field->code, $whole, $asker),
                array_flip($terms),
            );
            $counts = array_intersect_key($counts, $standing);
        }
        if ($request->search !== '') {
            $wanted = Tokenizer::fold($request->search);
            $counts = array_filter(
                $counts,
                static fn (int|string $value): bool => str_contains(Tokenizer::fold($field->display((string) $value)), $wanted),
                ARRAY_FILTER_USE_KEY,
            );
        }
        $kept = array_flip($chosen) + $excluded;
        $values = [];
        $tops = 0;
        // A tree is shown whole below its top values, so that opening a branch never hides a leaf.
        $isOpen = $field->kind->isDate() || ($field->isTree() && $request->search === '' && $standing === []);
        if (! $isOpen && $request->order === FacetOrder::Count && count($counts) > $request->most) {
            $counts = self::highest($counts, $request->most, $kept);
        }
        $parts = $isOpen ? self::parts($field, $counts, $request, array_map(strval(...), array_keys($kept))) : null;
        foreach (self::ordered($field, $parts === null ? $counts : $parts['listed'], $standing, $request->order) as $value) {
            $value = (string) $value;
            $parents = $field->above($value);
            $isBelow = $isOpen && ($parents !== [] || $field->kind->isDate());
            // What is kept takes a place like any other, so that choosing a value that is listed changes no list.
            if (! $isBelow && ++$tops > $request->most && ! isset($kept[$value])) {
                continue;
            }
            $values[] = new FacetValue(
                $value,
                $field->display($value),
                $parents,
                $excluded[$value] ?? $counts[$value],
                in_array($value, $chosen, true),
                isset($excluded[$value]),
                $standing[$value] ?? null,
                isset($parts['above'][$value]),
            );
        }
        $listed = array_map(static fn (FacetValue $v): string => $v->value, $values);
        foreach (array_diff([...$chosen, ...array_map(strval(...), array_keys($excluded))], $listed) as $value) {
            $values[] = new FacetValue(
                $value,
                $field->display($value),
                $field->above($value),
                $excluded[$value] ?? ($counts[$value] ?? 0),
                in_array($value, $chosen, true),
                isset($excluded[$value]),
            );
        }

        return new FacetCounts($values, $distinct);
    }

    /**
     * What of a tree is listed: all of it, or of a large one the top, what is below opened values, and the branches of those
     * that are kept.
     *
     * @param  array<int|string, int>  $counts
     * @param  list<string>  $kept
     * @return array{listed: array<int|string, int>, above: array<string, true>} the counts, and the values that others are below
     */
    private static function parts(FieldDefinition $field, array $counts, FacetRequest $request, array $kept): array
    {
        $parents = $above = [];
        foreach (array_keys($counts) as $value) {
            foreach ($parents[$value] = $field->above((string) $value) as $parent) {
                $above[$parent] = true;
            }
        }
        if (count($counts) <= self::WHOLE_TREE || ! $field->isTree()) {
            return ['listed' => $counts, 'above' => $above];
        }
        $opened = array_flip(
            array_merge(
                $request->opened,
                ...array_map(static fn (string $value): array => $field->vocabulary?->lineage($value) ?? [], $kept),
            ),
        );
        $listed = array_filter(
            $counts,
            static function (int|string $value) use ($parents, $opened): bool {
                return $parents[$value] === [] || array_intersect_key(array_flip($parents[$value]), $opened) !== [];
            },
            ARRAY_FILTER_USE_KEY,
        );

        return ['listed' => $listed, 'above' => $above];
    }

    /**
     * The counts among which the highest `$most` are, and those to keep. Sorting all of them takes far longer.
     *
     * @param  array<int|string, int>  $counts
     * @param  array<int|string, int>  $kept  values as keys
     * @return array<int|string, int>
     */
    private static function highest(array $counts, int $most, array $kept): array
    {
        $sorted = $counts;
        rsort($sorted);
        $least = $sorted[max(0, $most - 1)];

        return array_filter($counts, static fn (int $count): bool => $count >= $least) + array_intersect_key($counts, $kept);
    }

    /**
     * @param  array<int|string, int>  $counts
     * @param  array<int, int>  $inAll  counts of the whole, by number
     * @param  array<int|string, int>  $numbers  value => number
     * @return array<int|string, StandingOut>
     */
    private static function standingOut(array $counts, int $result, int $all, array $inAll, array $numbers): array
    {
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
                $place = $field->kind->isDate() ? [] : $field->kind->places($field, $values);
                $by = array_map(
                    static fn (string $value): string => sprintf('%09d', $place[$value] ?? 999_999_999).
                        Tokenizer::fold($field->display($value)),
                    $values,
                );
                array_multisort($by, SORT_ASC, SORT_STRING, $values, SORT_ASC, SORT_STRING);
                break;
            case FacetOrder::StandingOut:
                $by = array_map(static fn (string $value): float => $standing[$value]->likelihood, $values);
                array_multisort($by, SORT_DESC, $values, SORT_ASC, SORT_STRING);
                break;
        }

        return $values;
    }

    /**
     * @param  string  $remember  a name for the set under which its counts are kept as long as the index does not change
     * @return array<int, int> value number => documents, without zeros
     */
    public function byNumber(string $code, DocumentSet $set, string $remember = ''): array
    {
        $beside = $this->reader->beside($code);
        if ($beside !== null) {
            return $beside->counts($set);
        }
        if ($remember !== '') {
            /** @var array<int, int> */
            return $this->reader->remembered("facet/{$code}/{$remember}", fn (): array => $this->byNumber($code, $set));
        }
        if ($this->isFromRecords($code, $set)) {
            return $this->reader->counted($set)[0][$code] ?? [];
        }
        $numbers = array_keys($this->reader->valueTerms($code));
        $blocks = $numbers === [] ? 0 : intdiv(max($numbers) - 1, Keys::BLOCK) + 1;
        $counts = [];
        foreach ($set->segments as $segment => $bits) {
            $size = $set->countIn($segment);
            if ($size === 0) {
                continue;
            }
            $found = match (true) {
                $size <= self::FEW => $this->oneByOne($code, $segment, $set->offsets($segment), $blocks),
                default => ($blocks === 1 ? $this->byValue($code, $segment, $bits, $numbers) : null) ??
                    $this->byColumn($code, $segment, $set->mask($segment), $blocks),
            };
            foreach ($found as $number => $count) {
                $counts[$number] = ($counts[$number] ?? 0) + $count;
            }
        }
        unset($counts[0]);

        return $counts;
    }

    private function isFromRecords(string $code, DocumentSet $set): bool
    {
        return $set->count() <= self::FROM_RECORDS * count($set->segments) && ! $this->reader->isAtHand($code);
    }

    /**
     * @param  list<int>  $numbers  of the field's values
     * @return array<int, int>|null null when the columns are cheaper
     */
    private function byValue(string $code, int $segment, string $bits, array $numbers): ?array
    {
        $postings = [];
        $cost = 0;
        foreach ($numbers as $number) {
            $stored = $this->reader->stored(Keys::value($code, $number))[$segment] ?? null;
            if ($stored !== null) {
                $postings[$number] = $stored;
                $cost += Posting::isFew($stored) ? Posting::countFew($stored) / self::LISTED_COST : 1;
            }
        }
        if ($cost > self::COLUMN_COSTS) {
            return null;
        }
        $counts = [];
        foreach ($postings as $number => $stored) {
            $count = Posting::countIn([$stored], $bits);
            if ($count > 0) {
                $counts[$number] = $count;
            }
        }

        return $counts;
    }

    /** @return array<int, int> */
    private function byColumn(string $code, int $segment, ColumnMask $mask, int $blocks): array
    {
        $counts = [];
        for ($block = 0; $block < $blocks; $block++) {
            for ($slot = 0; ($column = $this->reader->column($code, $block, $slot, $segment)) !== null; $slot++) {
                foreach ($mask->count($column) as $byte => $count) {
                    $number = $block * Keys::BLOCK + $byte;
                    $counts[$number] = ($counts[$number] ?? 0) + $count;
                }
            }
        }

        return $counts;
    }

    /**
     * @param  list<int>  $offsets
     * @return array<int, int> under 0 what has no value
     */
    private function oneByOne(string $code, int $segment, array $offsets, int $blocks): array
    {
        $counts = [];
        $elsewhere = [];
        for ($n = 0; $blocks > 1 && ($column = $this->reader->blocks($code, $n, $segment)) !== null; $n++) {
            $elsewhere[] = $column;
        }
        if ($elsewhere !== []) {
            // Only documents that have all their values in the first block are left for the loops below.
            [$offsets, $counts] = $this->inBlocks($code, $segment, $offsets, $elsewhere);
        }
        // A place for every byte: asking each time whether there is one takes longer, if there are many documents.
        $bytes = count($offsets) < self::SPARSE ? [] : array_fill(0, Keys::BLOCK + 1, 0);
        for ($slot = 0; ($column = $this->reader->column($code, 0, $slot, $segment)) !== null; $slot++) {
            if ($bytes === []) {
                foreach ($offsets as $offset) {
                    $byte = ord($column[$offset]);
                    $counts[$byte] = ($counts[$byte] ?? 0) + 1;
                }
            } else {
                foreach ($offsets as $offset) {
                    $bytes[ord($column[$offset])]++;
                }
            }
        }
        foreach (array_filter($bytes) as $byte => $count) {
            $counts[$byte] = ($counts[$byte] ?? 0) + $count;
        }

        return $counts;
    }

    /**
     * @param  list<int>  $offsets
     * @param  non-empty-list<string>  $elsewhere  the block of the first, second … value of each document
     * @return array{list<int>, array<int, int>} the documents that have no value outside of the first block, and the counts of the others
     */
    private function inBlocks(string $code, int $segment, array $offsets, array $elsewhere): array
    {
        $counts = $rest = $several = $columns = [];
        [$first, $second] = [$elsewhere[0], $elsewhere[1] ?? null];
        foreach ($offsets as $offset) {
            $block = ord($first[$offset]);
            if ($block === 0) {
                $rest[] = $offset;

                continue;
            }
            $column = $columns[$block] ??= (string) $this->reader->column($code, $block - 1, 0, $segment);
            $number = ($block - 1) * Keys::BLOCK + ord($column[$offset]);
            $counts[$number] = ($counts[$number] ?? 0) + 1;
            if ($second !== null && $second[$offset] !== "\0") {
                $several[] = $offset;
            }
        }
        foreach ($several as $offset) {
            $slots = [ord($first[$offset]) => 0];
            for ($n = 1; isset($elsewhere[$n]) && ($block = ord($elsewhere[$n][$offset])) > 0; $n++) {
                $slots[$block] = ($slots[$block] ?? -1) + 1;
                $number =
                    ($block - 1) * Keys::BLOCK +
                    ord(((string) $this->reader->column($code, $block - 1, $slots[$block], $segment))[$offset]);
                $counts[$number] = ($counts[$number] ?? 0) + 1;
            }
        }

        return [$rest, $counts];
    }
}
