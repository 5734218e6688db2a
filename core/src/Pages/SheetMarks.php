<?php

declare(strict_types=1);

namespace Brenvic\Core\Pages;

use Brenvic\Core\Fields\FieldDefinition;
use Brenvic\Core\Query\BooleanNode;
use Brenvic\Core\Query\BooleanOperator;
use Brenvic\Core\Query\Ledger;
use Brenvic\Core\Query\Node;
use Brenvic\Core\Query\PrefixNode;
use Brenvic\Core\Query\SearchClause;
use Brenvic\Core\Search\Asking\SearchError;
use Brenvic\Core\Search\Asking\SearchSchema;
use Brenvic\Core\Search\Values\ValueTest;

/** What a search looked for in an index sheet: values that it asked for as a whole, and words within values. */
final class SheetMarks
{
    /** @var array<string, list<SearchClause>> what is asked of whole values, by field code */
    private array $clauses = [];

    /** @var array<string, HitFinder> by field code */
    private array $words = [];

    private readonly ValueTest $test;

    public function __construct(private readonly Ledger $ledger, private readonly SearchSchema $schema)
    {
        $this->test = new ValueTest($schema);
        foreach ($ledger->lines as $line) {
            if ($line->on && ! $line->negated) {
                $this->collect($line->node, []);
            }
        }
    }

    /**
     * A value as it is shown, cut at what was looked for.
     *
     * @param  string  $normal  its normal form
     * @return list<array{string, bool}> text, and whether it is a hit
     */
    public function pieces(FieldDefinition $field, string $normal): array
    {
        $shown = $field->display($normal);
        foreach ($this->clauses[$field->code] ?? [] as $clause) {
            try {
                if ($this->test->fits($field, $clause, $normal)) {
                    return [[$shown, true]];
                }
            } catch (SearchError) {
                continue;
            }
        }
        if (! $field->kind->hasWords()) {
            return [[$shown, false]];
        }

        return ($this->words[$field->code] ??= HitFinder::forField($this->ledger, $field, $this->schema->everywhere))->pieces($shown);
    }

    /** @param  array<string, string>  $prefixes */
    private function collect(Node $node, array $prefixes): void
    {
        if ($node instanceof PrefixNode) {
            $this->collect($node->inner, [...$prefixes, $node->prefix => SearchSchema::contextSet($node->uri)]);
        } elseif ($node instanceof BooleanNode) {
            $this->collect($node->left, $prefixes);
            if ($node->operator !== BooleanOperator::Not) {
                $this->collect($node->right, $prefixes);
            }
        } elseif ($node instanceof SearchClause && $node->index !== SearchClause::EVERYTHING) {
            foreach ($this->schema->resolve($node->index, $prefixes)->fields as $field) {
                $this->clauses[$field->code][] = $node;
            }
        }
    }
}
