<?php

declare(strict_types=1);

namespace Brenvic\Core\Search;

use Brenvic\Core\Fields\FieldDefinition;
use Brenvic\Core\Fields\FieldKind;
use Brenvic\Core\Index\DocumentSet;
use Brenvic\Core\Index\IndexReader;
use Brenvic\Core\Index\Tokenizer;

/** By the values of a field: a vocabulary in its own order, everything else by name. Of several values the first counts. */
final class ValueOrdering implements Ordering
{
    /** @var array<int, int>|null value number => rank */
    private ?array $ranks = null;

    public function __construct(
        private readonly IndexReader $reader,
        private readonly FieldDefinition $field,
        private readonly bool $descending,
    ) {
    }

    public function keys(array $documents): array
    {
        $ranks = $this->ranks();
        $keys = [];
        foreach ($this->reader->records($documents) as $document => $record) {
            foreach ($record->values[$this->field->code] ?? [] as $value) {
                $rank = $ranks[$value] ?? 0;
                $keys[$document] = isset($keys[$document]) ? min($keys[$document], $rank) : $rank;
            }
        }

        return $keys;
    }

    public function around(DocumentSet $set, int $offset, int $limit): array
    {
        $ranks = $this->ranks();
        asort($ranks);
        $order = array_keys($ranks);
        $rest = $set;
        $taken = [];
        // Of several values the lowest counts, so groups are always cut from the lowest up.
        foreach ($order as $value) {
            $group = $rest->and($this->reader->value($this->field->code, $value));
            $rest = $rest->minus($group);
            $taken[] = $group;
        }
        if ($this->descending) {
            $taken = array_reverse($taken);
        }
        $taken[] = $rest;
        $before = 0;
        $chosen = DocumentSet::none();
        $reached = 0;
        foreach ($taken as $group) {
            $here = $group->count();
            if ($reached + $here <= $offset) {
                $before += $here;
            } elseif ($reached < $offset + $limit) {
                $chosen = $chosen->or($group);
            } else {
                break;
            }
            $reached += $here;
        }

        return [$chosen, $before];
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
        $terms = $this->reader->valueTerms($this->field->code);
        if ($this->field->kind === FieldKind::Choice && $this->field->vocabulary !== null) {
            $place = array_flip(array_map(strval(...), array_keys($this->field->vocabulary->terms)));
            uasort($terms, static fn (string $a, string $b): int => ($place[$a] ?? PHP_INT_MAX) <=> ($place[$b] ?? PHP_INT_MAX));
        } else {
            $folded = array_map(Tokenizer::fold(...), $terms);
            asort($folded, SORT_STRING);
            $terms = $folded;
        }

        return $this->ranks = array_flip(array_keys($terms));
    }
}
