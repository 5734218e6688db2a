<?php

declare(strict_types=1);

namespace Brenvic\Core\Design;

use Brenvic\Core\Fields\FieldDefinition;
use Brenvic\Core\Fields\Vocabulary;
use Brenvic\Core\Index\DocumentSet;
use Brenvic\Core\Query\BooleanNode;
use Brenvic\Core\Query\BooleanOperator;
use Brenvic\Core\Query\Node;
use Closure;

/**
 * Which documents have a term that could be chosen beside the value it depends on, and could no longer be: because that
 * value gives way to another, or because the terms say otherwise under what they may be chosen.
 */
final readonly class DependentValues
{
    /**
     * @param  StoredValues  $values  the terms in use
     * @param  Closure(Node): DocumentSet  $finder  finds documents with the design as it is
     */
    public function __construct(private Design $old, private Design $new, private StoredValues $values, private Closure $finder)
    {
    }

    /**
     * @param  DesignChange  $change  of a vocabulary
     * @return list<array{FieldDefinition, FieldDefinition, DocumentSet}> the dependent field, the field it depends on, and the documents
     */
    public function of(DesignChange $change): array
    {
        $found = [];
        foreach ($this->old->fields() as $field) {
            $is = $this->new->field($field->code)?->vocabulary;
            $on = $is?->dependsOn === null ? null : $this->old->field($is->dependsOn);
            if ($field->vocabulary === null || $is === null || $on?->vocabulary === null || ! $this->concerns($change, $is->code, $on)) {
                continue;
            }
            $was = $this->refused($field, $field->vocabulary, [], []);
            $moved = $this->refused($field, $is, $this->moved($field), $this->moved($on));
            $found[] = [$field, $on, $moved->minus($was)];
        }

        return $found;
    }

    /** A change of both is told with the dependent vocabulary, once. */
    private function concerns(DesignChange $change, string $dependent, FieldDefinition $on): bool
    {
        if ($change->code === $dependent) {
            return true;
        }
        $part = [$this->old->part(DesignKind::Vocabulary, $dependent), $this->new->part(DesignKind::Vocabulary, $dependent)];

        return $change->code === $on->vocabulary?->code &&
            Design::same(...$part) &&
            TermMove::between($change->before, $change->after) !== [];
    }

    /**
     * The documents that have a term beside none of the values under which it may be chosen.
     *
     * @param  array<string, DocumentSet>  $terms  the documents of terms that do not have those they have now, by code
     * @param  array<string, DocumentSet>  $values  the same of the field it depends on
     */
    private function refused(FieldDefinition $field, Vocabulary $vocabulary, array $terms, array $values): DocumentSet
    {
        $refused = DocumentSet::none();
        if ($vocabulary->dependsOn === null) {
            return $refused;
        }
        // Terms that may be chosen under the same values are found together.
        $alike = [];
        foreach (array_keys($this->values->distinct($field->code) + $terms) as $code) {
            $under = $vocabulary->terms[$code]->under ?? [];
            sort($under);
            $alike[implode("\0", $under)][] = (string) $code;
        }
        unset($alike['']);
        foreach ($alike as $under => $codes) {
            $allowed = $this->having($vocabulary->dependsOn, explode("\0", (string) $under), $values);
            $refused = $refused->or($this->having($field->code, $codes, $terms)->minus($allowed));
        }

        return $refused;
    }

    /**
     * @param  list<string>  $codes
     * @param  array<string, DocumentSet>  $moved
     */
    private function having(string $field, array $codes, array $moved): DocumentSet
    {
        $kept = array_filter($codes, static fn (string $code): bool => ! isset($moved[$code]));
        $node = BooleanNode::join(BooleanOperator::Or, array_map(
            static fn (string $code): Node => TermMove::having($field, $code),
            array_values($kept),
        ));
        $having = $node === null ? DocumentSet::none() : ($this->finder)($node);
        foreach (array_intersect_key($moved, array_fill_keys($codes, true)) as $set) {
            $having = $having->or($set);
        }

        return $having;
    }

    /** @return array<string, DocumentSet> the documents of the terms that the draft moves any from or to, once they are moved */
    private function moved(FieldDefinition $field): array
    {
        $code = $field->vocabulary->code ?? '';
        $moves = TermMove::between(
            $this->old->part(DesignKind::Vocabulary, $code),
            $this->new->part(DesignKind::Vocabulary, $code),
        );
        $sets = [];
        foreach ($moves as $move) {
            foreach ([$move->from, $move->to] as $term) {
                $sets[$term] ??= ($this->finder)(TermMove::having($field->code, $term));
            }
            // A term that is retired gives up what an earlier move has just given it, too.
            $moving = $sets[$move->from];
            if ($move->criterion !== '') {
                $moving = $moving->and(($this->finder)($move->node($field->code)));
            }
            $sets[$move->from] = $sets[$move->from]->minus($moving);
            $sets[$move->to] = $sets[$move->to]->or($moving);
        }

        return $sets;
    }
}
