<?php

declare(strict_types=1);

namespace Brenvic\Core\Search\Answer;

use Brenvic\Core\Index\DocumentSet;
use Brenvic\Core\Index\IndexReader;
use Brenvic\Core\Index\Keys;
use Brenvic\Core\Index\Part;
use Brenvic\Core\Query\BooleanNode;
use Brenvic\Core\Query\BooleanOperator;
use Brenvic\Core\Query\LedgerLine;
use Brenvic\Core\Query\Modifier;
use Brenvic\Core\Query\Node;
use Brenvic\Core\Query\PrefixNode;
use Brenvic\Core\Query\Printer;
use Brenvic\Core\Query\Relations;
use Brenvic\Core\Query\SearchClause;
use Brenvic\Core\Search\Asking\ClauseModifiers;
use Brenvic\Core\Search\Asking\SearchError;
use Brenvic\Core\Search\Asking\SearchFault;
use Brenvic\Core\Search\Asking\SearchSchema;
use Brenvic\Core\Search\Asking\SearchTarget;
use Brenvic\Core\Search\Values\FieldSearch;
use Brenvic\Core\Search\Words\TextSearch;

/** Turns a tree into the set of documents that fit, within the documents the asker may see. */
final class Evaluator
{
    private readonly TextSearch $text;

    /** @var list<PlanStep> the steps taken so far, inner ones before the ones they serve, when they are asked for */
    private array $plan = [];

    private readonly FieldSearch $inFields;

    /** @var array<string, string> prefix => context set, as the query assigned them */
    private array $prefixes = [];

    private int $depth = 0;

    public function __construct(
        private readonly IndexReader $reader,
        private readonly SearchSchema $schema,
        private readonly DocumentSet $visible,
        private readonly bool $explain = false,
    ) {
        $this->text = new TextSearch($reader, $visible);
        $this->inFields = new FieldSearch($reader, $schema, $this->text);
    }

    /** @throws SearchError */
    public function evaluate(Node $node): DocumentSet
    {
        return $this->node($node)->and($this->visible);
    }

    /**
     * What a line of a ledger lets through, with the words it met and, where it is asked for, the steps it took.
     *
     * @throws SearchError
     */
    public function line(LedgerLine $line): FoundLine
    {
        $set = $line->negated
            ? $this->visible->minus($this->text->unwanted(fn (): DocumentSet => $this->evaluate($line->node)))
            : $this->evaluate($line->node);
        $plan = $this->plan;
        $this->plan = [];

        return new FoundLine($set, $this->text->met(), $plan);
    }

    private function node(Node $node): DocumentSet
    {
        if (! $this->explain) {
            return $this->answer($node);
        }
        $since = hrtime(true);
        $this->depth++;
        $set = $this->answer($node);
        $this->depth--;
        $what = $node instanceof BooleanNode && $node->operator !== BooleanOperator::Prox ? $node->operator->value : Printer::node($node);
        $this->plan[] = new PlanStep($this->depth, $what, $set->and($this->visible)->count(), (hrtime(true) - $since) / 1e6);

        return $set;
    }

    private function answer(Node $node): DocumentSet
    {
        return match (true) {
            $node instanceof SearchClause => $this->clause($node),
            $node instanceof BooleanNode => $this->joined($node),
            $node instanceof PrefixNode => $this->prefixed($node),
            default => throw new \LogicException('Unknown node '.$node::class),
        };
    }

    private function prefixed(PrefixNode $node): DocumentSet
    {
        $before = $this->prefixes;
        $this->prefixes[$node->prefix] = SearchSchema::contextSet($node->uri);
        $set = $this->node($node->inner);
        $this->prefixes = $before;

        return $set;
    }

    private function joined(BooleanNode $node): DocumentSet
    {
        if ($node->operator === BooleanOperator::Prox) {
            return $this->near($node);
        }
        if ($node->modifiers !== []) {
            throw new SearchError(
                "/{$node->modifiers[0]->name} does not apply to {$node->operator->value}.",
                fault: SearchFault::BooleanModifier,
            );
        }
        $left = $this->node($node->left);
        if ($node->operator === BooleanOperator::Not) {
            return $left->minus($this->text->unwanted(fn (): DocumentSet => $this->node($node->right)));
        }
        $right = $this->node($node->right);

        return $node->operator === BooleanOperator::And ? $left->and($right) : $left->or($right);
    }

    private function clause(SearchClause $clause): DocumentSet
    {
        if ($clause->index === SearchClause::EVERYTHING) {
            return $this->visible;
        }
        $target = $this->schema->resolve($clause->index, $this->prefixes);
        $clause = $this->plain($clause);
        $modifiers = ClauseModifiers::of($clause->modifiers);
        $term = trim($clause->term);
        if ($clause->relation === '<>') {
            // “Anything which is not exactly equal” (CQL context set 1.2): a value that is not there is not anything.
            $equal = new SearchClause($clause->index, '==', $clause->term, $clause->modifiers);

            return $term === ''
                ? $this->filled($target)
                : $this->filled($target)->minus($this->text->unwanted(fn (): DocumentSet => $this->clause($equal)));
        }
        if ($term === '' || ($term === '*' && $modifiers->masked)) {
            $filled = $this->filled($target);

            return $term === '' ? $this->visible->minus($filled) : $filled;
        }
        $sets = [];
        $fault = null;
        if ($target->parts !== []) {
            $find = fn (): DocumentSet => $this->text->find(self::codes($target->parts), $clause->relation, $clause->term, $modifiers);
            $sets[] = $this->tried($find, $fault);
        }
        foreach ($target->fields as $field) {
            $find = fn (): DocumentSet => $this->inFields->find($field, $clause->relation, $clause->term, $modifiers);
            $sets[] = $this->tried($find, $fault);
        }
        $sets = array_filter($sets, static fn (?DocumentSet $set): bool => $set !== null);
        if ($sets === [] && $fault !== null) {
            throw $fault;
        }

        return DocumentSet::union($sets);
    }

    /**
     * The clause with its relation and modifiers without a prefix that the query assigned to CQL's own context set.
     *
     * @throws SearchError when the prefix is that of another set
     */
    private function plain(SearchClause $clause): SearchClause
    {
        if ($this->prefixes === []) {
            return $clause;
        }
        $plain = fn (string $name): string => Relations::unprefixed($name, $this->prefixes);
        $relation = $plain($clause->relation);
        if (! Relations::isKnown($relation)) {
            throw new SearchError(
                "The relation “{$clause->relation}” is not known here. Known are ".implode(', ', Relations::ALL).'.',
                fault: SearchFault::Relation,
            );
        }

        return new SearchClause(
            $clause->index,
            $relation,
            $clause->term,
            array_map(
                static fn (Modifier $modifier): Modifier => new Modifier($plain($modifier->name), $modifier->comparitor, $modifier->value),
                $clause->modifiers,
            ),
        );
    }

    /**
     * An index that stands for several fields answers when any of them can.
     *
     * @param  callable(): DocumentSet  $find
     */
    private function tried(callable $find, ?SearchError &$fault): ?DocumentSet
    {
        try {
            return $find();
        } catch (SearchError $error) {
            $fault ??= $error;

            return null;
        }
    }

    private function filled(SearchTarget $target): DocumentSet
    {
        $sets = array_map(fn (Part $part): DocumentSet => $this->reader->words([$part->value], [Keys::ANY]), $target->parts);
        foreach ($target->fields as $field) {
            $sets[] = $this->inFields->filled($field);
        }

        return DocumentSet::union($sets);
    }

    private function near(BooleanNode $node): DocumentSet
    {
        if (! ($node->left instanceof SearchClause) || ! ($node->right instanceof SearchClause)) {
            throw new SearchError('prox joins two words or phrases, not what is in brackets.', fault: SearchFault::Boolean);
        }
        $target = $this->schema->resolve($node->left->index, $this->prefixes);
        if ($node->left->index !== $node->right->index) {
            throw new SearchError(
                "prox joins two words of the same index, not of {$node->left->index} and {$node->right->index}.",
                fault: SearchFault::Boolean,
            );
        }
        $parts = self::codes($target->parts);
        foreach ($target->fields as $field) {
            if ($field->kind->hasWords()) {
                $parts[] = Part::ofField($field->code);
            }
        }

        return $this->text->near(
            $parts,
            [$node->left->term, ClauseModifiers::of($node->left->modifiers)],
            [$node->right->term, ClauseModifiers::of($node->right->modifiers)],
            $node->modifiers,
        );
    }

    /**
     * @param  list<Part>  $parts
     * @return list<string>
     */
    private static function codes(array $parts): array
    {
        return array_map(static fn (Part $part): string => $part->value, $parts);
    }
}
