<?php

declare(strict_types=1);

namespace Brenvic\Core\Design;

use Brenvic\Core\Fields\FieldDefinition;
use Brenvic\Core\Fields\InvalidValue;
use Brenvic\Core\Fields\VocabularyTerm;
use Brenvic\Core\Index\DocumentSet;
use Brenvic\Core\Query\BooleanNode;
use Brenvic\Core\Query\BooleanOperator;
use Brenvic\Core\Query\LedgerLine;
use Brenvic\Core\Query\Node;
use Brenvic\Core\Query\Parser;
use Brenvic\Core\Query\SearchClause;
use Brenvic\Core\Search\Criterion;
use Closure;

/**
 * What changes of a design would do to the documents that exist, counted and not guessed: values are tried on the new
 * definitions, one try for each different value; everything else is a search, made with the design before and after.
 */
final readonly class Effect
{
    private const EXAMPLES = 8;

    /**
     * @param  Closure(Node): DocumentSet  $before  finds documents with the design as it is
     * @param  Closure(Node): DocumentSet  $after  finds documents with the design as it would be
     */
    public function __construct(
        private Design $old,
        private Design $new,
        private StoredValues $values,
        private Closure $before,
        private Closure $after,
    ) {
    }

    /** @return list<EffectCount> without those that touch no document */
    public function of(DesignChange $change): array
    {
        $counts = match ($change->kind) {
            DesignKind::Field => $this->ofField($change, $change->code),
            DesignKind::Vocabulary => $this->ofVocabulary($change),
            DesignKind::Type => $this->ofType($change),
            DesignKind::View => $this->ofView($change),
            DesignKind::Library => $this->ofLibrary($change),
            DesignKind::Repository => [],
        };

        return array_values(array_filter($counts, static fn (EffectCount $count): bool => $count->documents > 0));
    }

    /** @return list<EffectCount> */
    private function ofField(DesignChange $change, string $code): array
    {
        $was = $this->old->field($code);
        $is = $this->new->field($code);
        if ($was === null) {
            return [];
        }
        $label = $was->label;
        $filled = new SearchClause($code, '<>', '');
        if ($is === null) {
            return [$this->counted(EffectKind::Orphaned, $change, $filled, "have a value in {$label}", false)];
        }
        $counts = [...$this->tried($change, $was, $is)];
        if ($was->multiple && ! $is->multiple) {
            $counts[] = new EffectCount(EffectKind::Invalid, $change, $this->values->several($code), "have more than one value in {$label}");
        }
        if ($was->sensitive !== $is->sensitive) {
            $counts[] = $this->counted($is->sensitive ? EffectKind::Hidden : EffectKind::Revealed, $change, $filled, $is->sensitive ? "have a {$label} that readers will not see any more" : "have a {$label} that readers will see", false);
        }

        return $counts;
    }

    /** @return list<EffectCount> */
    private function tried(DesignChange $change, FieldDefinition $was, FieldDefinition $is): array
    {
        $lost = $invalid = [];
        $converted = 0;
        foreach ($this->values->distinct($was->code) as $value => $documents) {
            $value = (string) $value;
            try {
                $shown = self::shown($was, $value);
                // A code that is still a term of the vocabulary stays what it is, whatever it is called.
                $normal = $is->parse($was->kind === $is->kind ? $value : $shown);
                $converted += $was->kind !== $is->kind && $normal !== null ? $documents : 0;
            } catch (InvalidValue $fault) {
                $entry = ['value' => $shown, 'documents' => $documents, 'reason' => $fault->getMessage()];
                $was->kind !== $is->kind || $was->vocabulary !== null ? $lost[] = $entry : $invalid[] = $entry;
            }
        }

        return [
            self::values(EffectKind::Lost, $change, $lost, $was->kind === $is->kind ? "have a {$was->label} that is not in the list any more" : "have a {$was->label} that is no {$is->kind->label()}"),
            self::values(EffectKind::Invalid, $change, $invalid, "have a {$was->label} that would be refused now"),
            new EffectCount(EffectKind::Converted, $change, $converted, "have a {$was->label} that is written as {$is->kind->label()}"),
        ];
    }

    /** @param  list<array{value: string, documents: int, reason: string}>  $entries */
    private static function values(EffectKind $kind, DesignChange $change, array $entries, string $what): EffectCount
    {
        usort($entries, static fn (array $a, array $b): int => $b['documents'] <=> $a['documents'] ?: strcmp($a['value'], $b['value']));
        $field = $change->kind === DesignKind::Field ? $change->code : null;
        $nodes = $field === null ? [] : array_map(static fn (array $e): Node => new SearchClause($field, '==', Criterion::escaped($e['value'])), $entries);
        $list = BooleanNode::join(BooleanOperator::Or, $nodes);

        return new EffectCount($kind, $change, array_sum(array_column($entries, 'documents')), $what, $list === null ? null : (new LedgerLine($list))->cql(), array_slice($entries, 0, self::EXAMPLES));
    }

    private static function shown(FieldDefinition $field, string $value): string
    {
        try {
            return $field->display($value);
        } catch (InvalidValue) {
            return $value;
        }
    }

    /** @return list<EffectCount> */
    private function ofVocabulary(DesignChange $change): array
    {
        $was = $this->old->vocabulary($change->code)->terms ?? [];
        $is = $this->new->vocabulary($change->code)->terms ?? [];
        $changed = array_filter($was, static fn (VocabularyTerm $term): bool => isset($is[$term->code]) && $is[$term->code] != $term);
        $counts = [];
        foreach ($this->old->fields() as $field) {
            if ($field->vocabulary?->code !== $change->code) {
                continue;
            }
            $new = $this->new->field($field->code);
            if ($new !== null && $change->after !== null) {
                array_push($counts, ...$this->tried(new DesignChange(DesignKind::Field, $field->code, $change->before, $change->after), $field, $new));
            }
            $nodes = array_map(static fn (VocabularyTerm $term): Node => new SearchClause($field->code, '==', Criterion::escaped($term->code)), array_values($changed));
            $reworded = BooleanNode::join(BooleanOperator::Or, $nodes);
            if ($reworded !== null) {
                $counts[] = $this->counted(EffectKind::Reworded, $change, $reworded, "have a {$field->label} whose name or place changes", false);
            }
        }

        return $counts;
    }

    /** @return list<EffectCount> */
    private function ofType(DesignChange $change): array
    {
        $ofType = new SearchClause('type', '==', Criterion::escaped($change->code));
        if ($change->before === null) {
            return [];
        }
        if ($change->after === null) {
            return [$this->counted(EffectKind::Orphaned, $change, $ofType, 'are of this type', false)];
        }
        $required = static fn (array $content): array => array_values(array_filter(
            is_array($content['fields'] ?? null) ? $content['fields'] : [],
            static fn (mixed $field): bool => is_array($field) && ($field['required'] ?? false) === true,
        ));
        $counts = [];
        foreach (array_diff(Design::codes(['fields' => $required($change->after)], 'fields', 'code'), Design::codes(['fields' => $required($change->before)], 'fields', 'code')) as $code) {
            $label = $this->new->field($code)->label ?? $code;
            $counts[] = $this->counted(EffectKind::Missing, $change, new BooleanNode(BooleanOperator::And, $ofType, new SearchClause($code, '==', '')), "have no {$label}, which is required from now on");
        }
        foreach (array_diff(Design::codes($change->before, 'fields', 'code'), Design::codes($change->after, 'fields', 'code')) as $code) {
            $label = $this->old->field($code)->label ?? $code;
            $counts[] = $this->counted(EffectKind::Unshown, $change, new BooleanNode(BooleanOperator::And, $ofType, new SearchClause($code, '<>', '')), "have a {$label} that their sheet does not show any more", false);
        }
        if (($change->before['title_pattern'] ?? '') !== ($change->after['title_pattern'] ?? '')) {
            $counts[] = $this->counted(EffectKind::Retitled, $change, $ofType, 'are given a new title', false);
        }

        return $counts;
    }

    /** @return list<EffectCount> */
    private function ofView(DesignChange $change): array
    {
        $old = self::criterion($change->before);
        $new = self::criterion($change->after);
        $was = $old === null ? DocumentSet::none() : ($this->before)($old);
        $is = $new === null ? DocumentSet::none() : ($this->after)($new);
        $cql = static fn (?Node $first, ?Node $second): ?string => $first === null ? null : (new LedgerLine($second === null ? $first : new BooleanNode(BooleanOperator::Not, $first, $second)))->cql();

        return [
            new EffectCount(EffectKind::Appears, $change, $is->minus($was)->count(), $old === null ? 'are in the new view' : 'come into the view', $cql($new, $old)),
            new EffectCount(EffectKind::Vanishes, $change, $was->minus($is)->count(), $new === null ? 'were in the view' : 'leave the view', $cql($old, $new)),
        ];
    }

    /** @param  array<string, mixed>|null  $view */
    private static function criterion(?array $view): ?Node
    {
        return $view === null ? null : Parser::parse(is_string($view['criterion'] ?? null) ? $view['criterion'] : '')->root;
    }

    /** @return list<EffectCount> */
    private function ofLibrary(DesignChange $change): array
    {
        $inLibrary = new SearchClause('library', '==', Criterion::escaped($change->code));
        if ($change->before === null) {
            return [];
        }
        if ($change->after === null || ($change->before['repository'] ?? null) !== ($change->after['repository'] ?? null)) {
            return [$this->counted(EffectKind::Orphaned, $change, $inLibrary, $change->after === null ? 'are in this library' : 'would change their repository', false)];
        }
        $counts = [];
        foreach (array_diff(Design::codes($change->before, 'types'), Design::codes($change->after, 'types')) as $code) {
            $name = Design::nameOf(DesignKind::Type, $code, $this->old->part(DesignKind::Type, $code));
            $counts[] = $this->counted(EffectKind::Unshown, $change, new BooleanNode(BooleanOperator::And, $inLibrary, new SearchClause('type', '==', Criterion::escaped($code))), "are of the type “{$name}”, which is not filed here any more", false);
        }

        return $counts;
    }

    private function counted(EffectKind $kind, DesignChange $change, Node $node, string $what, bool $after = true): EffectCount
    {
        return new EffectCount($kind, $change, ($after ? $this->after : $this->before)($node)->count(), $what, (new LedgerLine($node))->cql());
    }
}
