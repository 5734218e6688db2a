<?php

declare(strict_types=1);

namespace Brenvic\Core\Search\Asking;

use Brenvic\Core\Fields\Calendar;
use Brenvic\Core\Fields\FieldDefinition;
use Brenvic\Core\Fields\FieldKind;
use Brenvic\Core\Fields\InvalidValue;
use Brenvic\Core\Query\BooleanNode;
use Brenvic\Core\Query\BooleanOperator;
use Brenvic\Core\Query\Ledger;
use Brenvic\Core\Query\LedgerLine;
use Brenvic\Core\Query\Modifier;
use Brenvic\Core\Query\Node;
use Brenvic\Core\Query\Printer;
use Brenvic\Core\Query\SearchClause;

/** Makes criteria from a field, a relation and values, and puts criteria into words. */
final class Criterion
{
    /** Relations whose “not” is another one. */
    private const OPPOSITES = [
        'is not' => 'is',
        'is one of' => 'is none of',
        'is none of' => 'is one of',
        'contains any of' => 'contains none of',
        'does not contain' => 'contains',
        'is empty' => 'is not empty',
        'is filled in' => 'is not filled in',
    ];

    /**
     * The relations that make sense for a kind of field. `IsJust` is for trees: the term without what is below it.
     *
     * @return list<Relation>
     */
    public static function relations(FieldKind $kind, bool $isTree = false): array
    {
        $edges = [Relation::IsEmpty, Relation::IsFilled];

        return match (true) {
            $kind->isOrdered() => [
                Relation::Is,
                Relation::Between,
                Relation::AtLeast,
                Relation::AtMost,
                Relation::Above,
                Relation::Below,
                Relation::IsNot,
                ...$edges,
            ],
            $kind->isCoded() && ! $kind->hasWords() => [Relation::Is, ...$edges],
            ! $kind->isSoughtWhole() => [Relation::Contains, ...$edges],
            $isTree => [Relation::Is, Relation::IsJust, Relation::Contains, Relation::IsNot, ...$edges],
            $kind->isCoded() => [Relation::Is, Relation::Contains, Relation::IsNot, ...$edges],
            default => [Relation::Is, Relation::Contains, Relation::BeginsWith, Relation::IsNot, ...$edges],
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
        $sign = match ($relation) {
            Relation::Is, Relation::IsJust, Relation::BeginsWith => '==',
            Relation::IsNot => '<>',
            Relation::AtLeast => '>=',
            Relation::AtMost => '<=',
            Relation::Above => '>',
            Relation::Below => '<',
            default => '=',
        };
        if ($field->kind->isOrdered()) {
            return self::joined(
                $relation,
                array_map(
                    static fn (string $value): Node => new SearchClause(
                        $field->code,
                        $sign,
                        $field->kind->asked($field, $value, Calendar::today()),
                    ),
                    $values,
                ),
            );
        }
        $modifiers = $relation === Relation::IsJust ? [new Modifier('only')] : [];

        return self::joined(
            $relation,
            array_map(
                static fn (string $value): Node => new SearchClause(
                    $field->code,
                    $sign,
                    match ($relation) {
                        Relation::Contains => '*'.self::escaped($value).'*',
                        Relation::BeginsWith => self::escaped($value).'*',
                        default => self::escaped($field->kind->asked($field, $value, Calendar::today())),
                    },
                    $modifiers,
                ),
                $values,
            ),
        );
    }

    /** @param  list<Node>  $clauses */
    private static function joined(Relation $relation, array $clauses): Node
    {
        return BooleanNode::join($relation === Relation::IsNot ? BooleanOperator::And : BooleanOperator::Or, $clauses) ??
            SearchClause::everything();
    }

    /**
     * A criterion in words.
     *
     * @param  bool  $negated  whether it must not hold: the verb says so
     * @return array{subject: string, relation: string, value: string, field: string|null}
     */
    public static function describe(Node $node, SearchSchema $schema, bool $negated = false): array
    {
        $told = self::told($node, $schema);

        return $negated ? [...$told, 'relation' => self::negated($told['relation'])] : $told;
    }

    private static function negated(string $relation): string
    {
        $verbs = ['contains' => 'does not contain', 'begins' => 'does not begin', 'covers' => 'does not cover', 'holds' => 'does not hold'];
        [$verb, $rest] = [...explode(' ', $relation, 2), ''];

        return match (true) {
            isset(self::OPPOSITES[$relation]) => self::OPPOSITES[$relation],
            isset($verbs[$verb]) => trim("{$verbs[$verb]} {$rest}"),
            $verb === 'is' => trim("is not {$rest}"),
            default => "not {$relation}",
        };
    }

    /** @return array{subject: string, relation: string, value: string, field: string|null} */
    private static function told(Node $node, SearchSchema $schema): array
    {
        if ($node instanceof SearchClause) {
            return self::describeClause($node, $schema);
        }
        $any = self::alternatives($node);
        $clauses = $any ?? self::noneOf($node);
        if ($clauses !== null) {
            $parts = array_map(static fn (SearchClause $clause): array => self::describeClause($clause, $schema), $clauses);

            return [
                'subject' => $parts[0]['subject'],
                'relation' => $any === null ? 'is none of' : (count($parts) > 1 ? 'is one of' : $parts[0]['relation']),
                'value' => implode(', ', array_column($parts, 'value')),
                'field' => $parts[0]['field'],
            ];
        }

        if (
            $node instanceof BooleanNode &&
            $node->operator === BooleanOperator::Prox &&
            $node->left instanceof SearchClause &&
            $node->right instanceof SearchClause
        ) {
            $side = self::describeClause($node->left, $schema);

            return [
                'subject' => $side['subject'],
                'relation' => 'contains near each other',
                'value' => self::nearness($node, $node->left, $node->right),
                'field' => $side['field'],
            ];
        }

        return ['subject' => 'Query:', 'relation' => '', 'value' => Printer::node($node), 'field' => null];
    }

    private static function nearness(BooleanNode $node, SearchClause $left, SearchClause $right): string
    {
        $of = [];
        foreach ($node->modifiers as $modifier) {
            $of[$modifier->name] =
                ($modifier->comparitor === '=' || $modifier->comparitor === null ? '' : $modifier->comparitor.' ').$modifier->value;
        }
        $unit = ($of['unit'] ?? 'word').(isset($of['distance']) && $of['distance'] !== '1' ? 's' : '');
        $where = isset($of['distance']) ? "{$of['distance']} {$unit} apart" : ($unit === 'word' ? 'side by side' : "in the same {$unit}");

        $where = $where === '0 sentences apart' ? 'in one sentence' : ($where === '0 paragraphs apart' ? 'in one paragraph' : $where);
        $where = (string) preg_replace(['/^<= 1 word apart$/', '/^<= (\d+) words apart$/'], ['side by side', 'within $1 words'], $where);

        return "{$left->term}, {$right->term}: {$where}".(isset($of['ordered']) ? ', in this order' : '');
    }

    /**
     * What a group is made of: the members of an alternative, or the lines of a conjunction.
     *
     * @return list<array{node: Node, negated: bool}> just the node itself when it is no group
     */
    public static function parts(Node $node): array
    {
        if ($node instanceof BooleanNode && $node->operator === BooleanOperator::Or) {
            $left =
                $node->left instanceof BooleanNode && $node->left->operator === BooleanOperator::Or
                    ? self::parts($node->left)
                    : [self::part($node->left)];

            return [
                ...$left,
                ...$node->right instanceof BooleanNode && $node->right->operator === BooleanOperator::Or
                    ? self::parts($node->right)
                    : [self::part($node->right)],
            ];
        }
        if ($node instanceof BooleanNode && in_array($node->operator, [BooleanOperator::And, BooleanOperator::Not], true)) {
            return array_map(
                static fn (LedgerLine $line): array => ['node' => $line->node, 'negated' => $line->negated],
                Ledger::of($node)->lines,
            );
        }

        return [['node' => $node, 'negated' => false]];
    }

    /** @return array{node: Node, negated: bool} a member of an alternative, its own “not” told apart */
    private static function part(Node $node): array
    {
        return $node instanceof BooleanNode &&
            $node->operator === BooleanOperator::Not &&
            $node->left instanceof SearchClause &&
            $node->left->index === SearchClause::EVERYTHING
            ? ['node' => $node->right, 'negated' => true]
            : ['node' => $node, 'negated' => false];
    }

    /** How the parts of a group go together: any, all, or null when it is no group. */
    public static function togetherness(Node $node): ?string
    {
        return match (true) {
            ! ($node instanceof BooleanNode), self::alternatives($node) !== null, self::noneOf($node) !== null => null,
            $node->operator === BooleanOperator::Or => 'any',
            $node->operator === BooleanOperator::And, $node->operator === BooleanOperator::Not => 'all',
            default => null,
        };
    }

    /** The value with CQL's masks and escapes taken literally. */
    public static function escaped(string $value): string
    {
        return (string) preg_replace('/[\\\\*?^]/', '\\\\$0', $value);
    }

    /** The term without its escapes: what `escaped` was given. */
    public static function unescaped(string $term): string
    {
        return (string) preg_replace('/\\\\(.)/su', '$1', $term);
    }

    /**
     * The clauses of a node that is a choice of values of one field.
     *
     * @return non-empty-list<SearchClause>|null
     */
    public static function alternatives(Node $node): ?array
    {
        if ($node instanceof SearchClause) {
            return $node->relation === '==' && $node->modifiers === [] ? [$node] : null;
        }
        if (! ($node instanceof BooleanNode) || $node->operator !== BooleanOperator::Or) {
            return null;
        }
        $left = self::alternatives($node->left);
        $right = self::alternatives($node->right);

        return $left === null || $right === null || $left[0]->index !== $right[0]->index ? null : [...$left, ...$right];
    }

    /**
     * The clauses of a node by which a field has none of several values.
     *
     * @return non-empty-list<SearchClause>|null
     */
    public static function noneOf(Node $node): ?array
    {
        if ($node instanceof SearchClause) {
            return $node->relation === '<>' && $node->modifiers === [] && $node->term !== '' ? [$node] : null;
        }
        if (! ($node instanceof BooleanNode) || $node->operator !== BooleanOperator::And) {
            return null;
        }
        $left = self::noneOf($node->left);
        $right = self::noneOf($node->right);

        return $left === null || $right === null || $left[0]->index !== $right[0]->index ? null : [...$left, ...$right];
    }

    /** @param  non-empty-list<string>  $values */
    private static function between(FieldDefinition $field, array $values): Node
    {
        if (count($values) !== 2) {
            throw new InvalidValue("Give both ends for {$field->label}.");
        }
        $ends = array_map(static fn (string $value): string => $field->kind->asked($field, $value, Calendar::today()), $values);
        if ($field->kind->span($field, $ends[0], Calendar::today())[0] > $field->kind->span($field, $ends[1], Calendar::today())[0]) {
            $ends = array_reverse($ends);
        }

        return new SearchClause($field->code, 'within', implode(' ', $ends));
    }

    /** @return array{subject: string, relation: string, value: string, field: string|null} */
    private static function describeClause(SearchClause $clause, SearchSchema $schema): array
    {
        if ($clause->index === SearchClause::EVERYTHING) {
            return ['subject' => 'Document', 'relation' => 'is', 'value' => 'any', 'field' => null];
        }
        $plain = self::unescaped($clause->term);
        $target = $schema->resolve($clause->index);
        if ($target->parts !== []) {
            $subject = count($target->parts) === 1 ? $target->parts[0]->label() : 'Document';
            $isPhrase = count(WordPattern::ofTerm($clause->term)) > 1;

            return [
                'subject' => $subject,
                'relation' => match ($clause->relation) {
                    'any' => 'contains any of',
                    'all' => 'contains all of',
                    '==', 'exact' => 'is',
                    '<>' => 'is not',
                    default => 'contains',
                },
                'value' => $isPhrase && ! in_array($clause->relation, ['any', 'all'], true) ? "“{$plain}”" : $plain,
                'field' => null,
            ];
        }
        $field = $target->fields[0];
        if ($clause->term === '') {
            return [
                'subject' => $field->label,
                'relation' => $clause->relation === '<>' ? 'is filled in' : 'is empty',
                'value' => '',
                'field' => $field->code,
            ];
        }
        $shown = static function (string $value) use ($field): string {
            try {
                return $field->kind->displayAsked($field, $value);
            } catch (InvalidValue) {
                return $value;
            }
        };

        $isPart = $clause->relation === '=' && $clause->modifiers === [] && self::isPart($clause->term);
        if ($isPart) {
            return ['subject' => $field->label, 'relation' => 'contains', 'value' => substr($plain, 1, -1), 'field' => $field->code];
        }
        $begins = $clause->relation === '==' && self::beginning($clause->term) !== null;
        if ($begins) {
            return ['subject' => $field->label, 'relation' => 'begins with', 'value' => substr($plain, 0, -1), 'field' => $field->code];
        }

        return [
            'subject' => $field->label,
            'relation' => match ($clause->relation) {
                '==', 'exact' => $clause->modifier('only') === null ? 'is' : 'is exactly',
                '=' => $field->kind->isOrdered() ? 'is' : 'contains',
                '<>' => 'is not',
                'within' => $field->kind->isSpan($plain, Calendar::today()) ? 'within' : 'between',
                'encloses' => 'covers',
                '>=' => 'from',
                '<=' => 'up to',
                '>' => Relation::Above->words($field->kind),
                '<' => Relation::Below->words($field->kind),
                'any' => 'contains any of',
                default => 'contains',
            },
            'value' => $clause->relation === 'within' && ! $field->kind->isSpan($plain, Calendar::today())
                    ? implode(' and ', array_map($shown, explode(' ', $plain)))
                    : $shown($plain),
            'field' => $field->code,
        ];
    }

    /** Whether a `*` at either end is the only mask of a term, which so asks for a part of a value. */
    public static function isPart(string $term): bool
    {
        return preg_match('/^\*(?:[^*?\\\\]|\\\\.)++\*$/Dsu', $term) === 1;
    }

    /** What stands before the `*` at its end, if that is the only mask of a term, with its escapes; null for any other term. */
    public static function beginning(string $term): ?string
    {
        return preg_match('/^((?:[^*?\\\\]|\\\\.)++)\*$/Dsu', $term, $m) === 1 ? $m[1] : null;
    }
}
