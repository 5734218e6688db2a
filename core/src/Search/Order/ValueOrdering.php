<?php

declare(strict_types=1);

namespace Brenvic\Core\Search\Order;

use Brenvic\Core\Fields\FieldDefinition;
use Brenvic\Core\Index\DocumentSet;
use Brenvic\Core\Index\IndexReader;
use Brenvic\Core\Index\Keys;
use Brenvic\Core\Index\Tokenizer;

/**
 * By the values of a field: a vocabulary in its own order, everything else by name. Of several values of a document the
 * one that comes first in the order asked for counts.
 */
final class ValueOrdering implements Ordering
{
    /** @var array<int, int>|null value number => rank */
    private ?array $ranks = null;

    private readonly string $space;

    public function __construct(
        private readonly IndexReader $reader,
        private readonly FieldDefinition $field,
        private readonly bool $descending,
    ) {
        $this->space = $field->isTree() ? Keys::own($field->code) : $field->code;
    }

    public function keys(array $documents): array
    {
        $ranks = $this->ranks();

        return array_map(
            fn (array $values): int => $this->descending
                ? max(array_map(static fn (int $value): int => $ranks[$value] ?? 0, $values))
                : min(array_map(static fn (int $value): int => $ranks[$value] ?? 0, $values)),
            $this->reader->valuesOf($this->space, $documents),
        );
    }

    public function around(DocumentSet $set, int $offset, int $limit): array
    {
        $ranks = $this->ranks();
        $this->descending ? arsort($ranks) : asort($ranks);
        $rest = $set;
        $before = $reached = 0;
        $chosen = DocumentSet::none();
        foreach (array_keys($ranks) as $value) {
            $group = $rest->and($this->reader->value($this->space, $value));
            $here = $group->count();
            if ($here === 0) {
                continue;
            }
            $rest = $rest->minus($group);
            if ($reached + $here <= $offset) {
                $before += $here;
            } else {
                $chosen = $chosen->or($group);
            }
            $reached += $here;
            if ($reached >= $offset + $limit) {
                return [$chosen, $before];
            }
        }

        return [$chosen->or($rest), $before];
    }

    public function descending(): bool
    {
        return $this->descending;
    }

    /** @return array<int, int> */
    private function ranks(): array
    {
        if ($this->ranks !== null) {
            return $this->ranks;
        }
        $terms = $this->reader->valueTerms($this->space);
        $place = $this->field->kind->places($this->field, array_values($terms));
        if ($place !== []) {
            uasort(
                $terms,
                static fn (string $a, string $b): int => ($place[$a] ?? PHP_INT_MAX) <=> ($place[$b] ?? PHP_INT_MAX) ?: strcmp($a, $b),
            );
        } else {
            $folded = array_map(Tokenizer::fold(...), $terms);
            asort($folded, SORT_STRING);
            $terms = $folded;
        }

        return $this->ranks = array_flip(array_keys($terms));
    }
}
