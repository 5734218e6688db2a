<?php

declare(strict_types=1);

namespace Brenvic\Core\Search;

use Brenvic\Core\Fields\FieldDefinition;
use Brenvic\Core\Fields\FieldKind;
use Brenvic\Core\Fields\InvalidValue;
use Brenvic\Core\Query\BooleanNode;
use Brenvic\Core\Query\BooleanOperator;
use Brenvic\Core\Query\Node;
use Brenvic\Core\Query\Printer;
use Brenvic\Core\Query\SearchClause;

/** Makes criteria from a field, a relation and values, and puts criteria into words. */
final class Criterion
{
    /**
     * The relations that make sense for a kind of field.
     *
     * @return list<Relation>
     */
    public static function relations(FieldKind $kind): array
    {
        $edges = [Relation::IsEmpty, Relation::IsFilled];

        return match (true) {
            $kind->isOrdered() => [Relation::Is, Relation::Between, Relation::AtLeast, Relation::AtMost, Relation::IsNot, ...$edges],
            $kind === FieldKind::YesNo => [Relation::Is, ...$edges],
            $kind === FieldKind::LongText => [Relation::Contains, ...$edges],
            default => [Relation::Is, Relation::Contains, Relation::IsNot, ...$edges],
        };
    }

    /**
     * @param  list<string>  $values  as typed; several are alternatives, two are the ends of Between
     *
     * @throws InvalidValue with a sentence on what is missing or wrong
     */
    public static function of(FieldDefinition $field, Relation $relation, array $values): Node
    {
        $values = array_values(array_filter(array_map(trim(...), $values), static fn (string $value): bool => $value !== ''));
        if ($relation === Relation::IsEmpty || $relation === Relation::IsFilled) {
            return new SearchClause($field->code, $relation === Relation::IsEmpty ? '==' : '<>', '');
        }
        if ($values === []) {
            throw new InvalidValue("Give a value for {$field->label}.");
        }
        if ($relation === Relation::Between) {
            return self::between($field, $values);
        }
        if ($relation === Relation::AtLeast || $relation === Relation::AtMost) {
            return new SearchClause($field->code, $relation === Relation::AtLeast ? '>=' : '<=', self::normal($field, $values[0]));
        }
        $sign = match ($relation) {
            Relation::Is => '==',
            Relation::IsNot => '<>',
            default => 'all',
        };
        $clauses = array_map(
            static fn (string $value): Node => new SearchClause($field->code, $sign, self::escaped($relation === Relation::Contains ? $value : self::normal($field, $value))),
            $values,
        );

        return BooleanNode::join($relation === Relation::IsNot ? BooleanOperator::And : BooleanOperator::Or, $clauses) ?? SearchClause::everything();
    }

    /**
     * A criterion in words.
     *
     * @return array{subject: string, relation: string, value: string, field: string|null}
     */
    public static function describe(Node $node, SearchSchema $schema): array
    {
        if ($node instanceof SearchClause) {
            return self::describeClause($node, $schema);
        }
        $clauses = self::alternatives($node);
        if ($clauses !== null) {
            $parts = array_map(static fn (SearchClause $clause): array => self::describeClause($clause, $schema), $clauses);

            return ['subject' => $parts[0]['subject'], 'relation' => count($parts) > 1 ? 'is one of' : $parts[0]['relation'], 'value' => implode(', ', array_column($parts, 'value')), 'field' => $parts[0]['field']];
        }

        return ['subject' => 'All of this', 'relation' => 'holds', 'value' => Printer::node($node), 'field' => null];
    }

    /** The value with CQL's masks and escapes taken literally. */
    public static function escaped(string $value): string
    {
        return (string) preg_replace('/[\\\\*?^]/', '\\\\$0', $value);
    }

    /**
     * The clauses of a node that is a choice of values of one field.
     *
     * @return non-empty-list<SearchClause>|null
     */
    public static function alternatives(Node $node): ?array
    {
        if ($node instanceof SearchClause) {
            return $node->relation === '==' ? [$node] : null;
        }
        if (! $node instanceof BooleanNode || $node->operator !== BooleanOperator::Or) {
            return null;
        }
        $left = self::alternatives($node->left);
        $right = self::alternatives($node->right);

        return $left === null || $right === null || $left[0]->index !== $right[0]->index ? null : [...$left, ...$right];
    }

    /** @param  non-empty-list<string>  $values */
    private static function between(FieldDefinition $field, array $values): Node
    {
        if (count($values) !== 2) {
            throw new InvalidValue("Give both ends for {$field->label}.");
        }
        $ends = array_map(static fn (string $value): string => self::normal($field, $value), $values);
        if (($field->ordinal($ends[0]) ?? 0) > ($field->ordinal($ends[1]) ?? 0)) {
            $ends = array_reverse($ends);
        }

        return new SearchClause($field->code, 'within', implode(' ', $ends));
    }

    private static function normal(FieldDefinition $field, string $value): string
    {
        // Identifiers are looked for as typed: a wrong one finds nothing, which says more than a refusal.
        return $field->kind === FieldKind::Identifier ? strtoupper($value) : ($field->parse($value) ?? '');
    }

    /** @return array{subject: string, relation: string, value: string, field: string|null} */
    private static function describeClause(SearchClause $clause, SearchSchema $schema): array
    {
        $plain = (string) preg_replace('/\\\\(.)/su', '$1', $clause->term);
        $parts = $schema->parts($clause->index);
        if ($parts !== null) {
            $subject = count($parts) === 1 ? ucfirst($parts[0]->indexName()) : 'Anywhere';
            $isPhrase = count(WordPattern::ofTerm($clause->term)) > 1;

            return ['subject' => $subject, 'relation' => match ($clause->relation) {
                'any' => 'has any of',
                'all' => 'has all of',
                '<>' => 'is without',
                default => 'has',
            }, 'value' => $isPhrase && ! in_array($clause->relation, ['any', 'all'], true) ? "“{$plain}”" : $plain, 'field' => null];
        }
        $field = $schema->field($clause->index);
        if ($clause->term === '') {
            return ['subject' => $field->label, 'relation' => $clause->relation === '<>' ? 'is filled in' : 'is empty', 'value' => '', 'field' => $field->code];
        }
        $shown = static function (string $value) use ($field): string {
            try {
                return $field->kind->isOrdered() || $field->kind === FieldKind::Choice ? $field->display($value) : $value;
            } catch (InvalidValue) {
                return $value;
            }
        };

        return ['subject' => $field->label, 'relation' => match ($clause->relation) {
            '==', 'exact' => 'is',
            '=' => $field->kind->isOrdered() ? 'is' : 'has',
            '<>' => 'is not',
            'within' => 'between',
            '>=' => 'from',
            '<=' => 'up to',
            '>' => $field->kind === FieldKind::Date ? 'after' : 'above',
            '<' => $field->kind === FieldKind::Date ? 'before' : 'below',
            'any' => 'has any of',
            default => 'contains',
        }, 'value' => $clause->relation === 'within' ? implode(' and ', array_map($shown, explode(' ', $plain))) : $shown($plain), 'field' => $field->code];
    }
}
