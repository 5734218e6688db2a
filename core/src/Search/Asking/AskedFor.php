<?php

declare(strict_types=1);

namespace Brenvic\Core\Search\Asking;

use Brenvic\Core\Fields\Calendar;
use Brenvic\Core\Fields\FieldDefinition;
use Brenvic\Core\Index\Part;
use Brenvic\Core\Query\BooleanNode;
use Brenvic\Core\Query\BooleanOperator;
use Brenvic\Core\Query\Node;
use Brenvic\Core\Query\SearchClause;

/**
 * A criterion as a form asks for it, so that it can be opened there again: what `Criterion::of` and `WordCriterion::of` were
 * given. Made again of it, the criterion is the same, but for how far its words reach.
 */
final readonly class AskedFor
{
    /**
     * @param  string  $of  code of a field, or a place of `WordCriterion`
     * @param  string  $relation  of `Relation`, or of `WordRelation`
     * @param  list<string>  $values
     */
    private function __construct(public string $of, public string $relation, public array $values)
    {
    }

    /** @return self|null null for what no form makes */
    public static function from(Node $node, SearchSchema $schema): ?self
    {
        if ($node instanceof SearchClause && $node->index === SearchClause::EVERYTHING) {
            return null;
        }
        if ($node instanceof SearchClause) {
            $target = $schema->resolve($node->index);
            $place = $target->parts === [] ? null : self::place($node->index, $target->parts);

            return $target->parts === []
                ? self::ofField($node, $target->fields[0])
                : ($place === null ? null : self::ofWords($node, $place));
        }
        if (! ($node instanceof BooleanNode)) {
            return null;
        }
        if ($node->operator === BooleanOperator::Prox) {
            return self::ofNearness($node, $schema);
        }
        $clauses = Criterion::alternatives($node) ?? Criterion::noneOf($node);
        if ($clauses === null) {
            return null;
        }
        $each = array_map(static fn (SearchClause $clause): ?self => self::from($clause, $schema), $clauses);
        $relations = array_unique(array_map(static fn (?self $one): string => $one === null ? '' : "{$one->of} {$one->relation}", $each));
        $values = array_merge([], ...array_map(static fn (?self $one): array => $one === null ? [] : $one->values, $each));

        return $each[0] === null || count($relations) > 1 || count($values) !== count($each)
            ? null
            : new self($each[0]->of, $each[0]->relation, $values);
    }

    private static function ofField(SearchClause $clause, FieldDefinition $field): ?self
    {
        $plain = Criterion::unescaped($clause->term);
        $made = static fn (Relation $relation, string ...$values): self => new self($field->code, $relation->value, array_values($values));
        $names = array_column($clause->modifiers, 'name');
        if ($names !== []) {
            return $names === ['only'] && $clause->relation === '==' ? $made(Relation::IsJust, $plain) : null;
        }
        if ($clause->term === '') {
            return match ($clause->relation) {
                '==' => $made(Relation::IsEmpty),
                '<>' => $made(Relation::IsFilled),
                default => null,
            };
        }
        if ($clause->relation === '=' && ! $field->kind->isOrdered()) {
            return Criterion::isPart($clause->term) ? $made(Relation::Contains, substr($plain, 1, -1)) : null;
        }
        if ($clause->relation === '==' && ! $field->kind->isOrdered() && Criterion::beginning($clause->term) !== null) {
            return $made(Relation::BeginsWith, substr($plain, 0, -1));
        }
        if ($clause->relation === 'within') {
            $ends = explode(' ', $plain);

            return $field->kind->isSpan($plain, Calendar::today()) || count($ends) !== 2 ? null : $made(Relation::Between, ...$ends);
        }
        $relation = match ($clause->relation) {
            '==' => Relation::Is,
            '<>' => Relation::IsNot,
            '>=' => Relation::AtLeast,
            '<=' => Relation::AtMost,
            '>' => Relation::Above,
            '<' => Relation::Below,
            default => null,
        };

        return $relation === null || ! in_array($relation, Criterion::relations($field->kind, $field->isTree()), true)
            ? null
            : $made($relation, $plain);
    }

    private static function ofWords(SearchClause $clause, string $place): ?self
    {
        if ($clause->term === '') {
            return null;
        }
        $plain = str_replace('\\\\', '\\', $clause->term);
        $relation = match ($clause->relation) {
            'any' => WordRelation::Any,
            'all' => WordRelation::All,
            '=' => count(WordPattern::ofTerm($clause->term)) > 1 ? WordRelation::Phrase : WordRelation::All,
            default => null,
        };

        return $relation === null ? null : new self($place, $relation->value, [$plain]);
    }

    private static function ofNearness(BooleanNode $node, SearchSchema $schema): ?self
    {
        [$left, $right] = [$node->left, $node->right];
        if (! ($left instanceof SearchClause) || ! ($right instanceof SearchClause) || $left->index !== $right->index) {
            return null;
        }
        $parts = $schema->resolve($left->index)->parts;
        $place = $parts === [] ? null : self::place($left->index, $parts);
        $of = ['unit' => 'word', 'distance' => '', 'comparitor' => ''];
        foreach ($node->modifiers as $modifier) {
            if (! in_array($modifier->name, ['unit', 'distance'], true)) {
                return null;
            }
            $of[$modifier->name] = (string) $modifier->value;
            $of['comparitor'] = $modifier->name === 'distance' ? (string) $modifier->comparitor : $of['comparitor'];
        }
        $quoted = static fn (string $term): string => str_contains($term, ' ') ? "\"{$term}\"" : $term;
        $words = $quoted($left->term).' '.$quoted($right->term);

        return match (true) {
            $place === null => null,
            $of['unit'] === 'sentence' && in_array($of['distance'], ['', '0'], true) => new self(
                $place,
                WordRelation::SameSentence->value,
                [$words],
            ),
            $of['unit'] === 'paragraph' && in_array($of['distance'], ['', '0'], true) => new self(
                $place,
                WordRelation::SameParagraph->value,
                [$words],
            ),
            $of['unit'] === 'word' && $of['comparitor'] === '<=' => new self($place, WordRelation::Near->value, [$words, $of['distance']]),
            default => null,
        };
    }

    /** @param  list<Part>  $parts */
    private static function place(string $index, array $parts): ?string
    {
        return match (true) {
            in_array($index, SearchSchema::EVERYWHERE, true) => WordCriterion::ANYWHERE,
            count($parts) === 1 && $parts[0] !== Part::Original => $parts[0]->indexName(),
            default => null,
        };
    }
}
