<?php

declare(strict_types=1);

namespace Brenvic\Core\Facets;

use Brenvic\Core\Fields\FieldDefinition;
use Brenvic\Core\Fields\FieldKind;
use Brenvic\Core\Index\Bits;
use Brenvic\Core\Index\DocumentSet;
use Brenvic\Core\Index\IndexReader;
use Brenvic\Core\Index\Keys;

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

    /** @param  list<string>  $chosen values that are listed however few documents have them */
    public function count(FieldDefinition $field, DocumentSet $set, int $most, array $chosen = []): FacetCounts
    {
        $counts = $this->byNumber($field->code, $set);
        arsort($counts);
        $terms = $this->reader->valueTerms($field->code);
        $isTree = $field->kind === FieldKind::Choice && $field->vocabulary?->isTree() === true;
        $isDate = $field->kind === FieldKind::Date;
        $values = [];
        $tops = 0;
        foreach ($counts as $number => $count) {
            $value = $terms[$number] ?? '';
            $parent = match (true) {
                $isTree => $field->vocabulary->terms[$value]->parent ?? null,
                $isDate => strlen($value) > 4 ? substr($value, 0, 4) : null,
                default => null,
            };
            // A tree is shown whole below its top values, so that opening a branch never hides a leaf.
            if ($parent === null && ++$tops > $most && ! $isDate && ! in_array($value, $chosen, true)) {
                continue;
            }
            $values[] = new FacetValue($value, $field->display($value), $parent, $count, in_array($value, $chosen, true));
        }
        foreach (array_diff($chosen, array_map(static fn (FacetValue $v): string => $v->value, $values)) as $value) {
            $values[] = new FacetValue($value, $field->display($value), null, 0, true);
        }

        return new FacetCounts($values, count($counts));
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
