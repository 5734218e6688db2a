<?php

declare(strict_types=1);

namespace Brenvic\Core\Search\Asking;

use Brenvic\Core\Fields\FieldDefinition;
use Brenvic\Core\Query\BooleanNode;
use Brenvic\Core\Query\BooleanOperator;
use Brenvic\Core\Query\IndexNames;
use Brenvic\Core\Query\Ledger;
use Brenvic\Core\Query\LedgerLine;
use Brenvic\Core\Query\Node;
use Brenvic\Core\Query\Parser;
use Brenvic\Core\Query\PlainQuery;
use Brenvic\Core\Query\Printer;
use Brenvic\Core\Query\Query;
use Brenvic\Core\Query\SearchClause;

/** What a search is made of on the way from and to the address line: the typed words, and criteria as CQL. */
final readonly class Criteria
{
    /**
     * @param  string  $words  what stands in the query line
     * @param  Query|null  $cql  the words read as CQL; null when they are plain words
     * @param  list<LedgerLine>  $lines
     */
    private function __construct(
        public string $words,
        private ?Query $cql,
        private bool $any,
        public array $lines,
        private Reach $reach = Reach::AsWritten,
    ) {
    }

    /**
     * @param  list<array{cql: string, negated?: bool, on?: bool, origin?: string}>  $criteria
     * @param  IndexNames  $names  what the person may search: it tells CQL from plain words
     * @param  Reach  $reach  how far plain words reach
     *
     * @throws \Brenvic\Core\Query\SyntaxError
     */
    public static function of(
        string $words,
        array $criteria,
        IndexNames $names,
        bool $any = false,
        Reach $reach = Reach::AsWritten,
    ): self {
        return new self($words, PlainQuery::cql($words, $names), $any, self::lines($criteria), $reach);
    }

    /**
     * Criteria without words.
     *
     * @param  list<array{cql: string, negated?: bool, on?: bool, origin?: string}>  $criteria
     *
     * @throws \Brenvic\Core\Query\SyntaxError
     */
    public static function ofLines(array $criteria): self
    {
        return new self('', null, false, self::lines($criteria));
    }

    /**
     * @param  list<array{cql: string, negated?: bool, on?: bool, origin?: string}>  $criteria
     * @return list<LedgerLine>
     */
    private static function lines(array $criteria): array
    {
        $lines = [];
        foreach ($criteria as $criterion) {
            $lines[] = new LedgerLine(
                Parser::parse($criterion['cql'])->root,
                $criterion['negated'] ?? false,
                $criterion['on'] ?? true,
                $criterion['origin'] ?? '',
            );
        }

        return $lines;
    }

    /** Chooses or lets go of a value of a facet. Several values of one field are alternatives. */
    public function toggled(FieldDefinition $field, string $value, bool $exclude): self
    {
        $clause = new SearchClause($field->code, '==', Criterion::escaped($value));
        $lines = [];
        $done = false;
        foreach ($this->lines as $line) {
            $clauses = Criterion::alternatives($line->node);
            if ($done || $clauses === null || $clauses[0]->index !== $field->code || $line->negated !== $exclude || ! $line->on) {
                $lines[] = $line;

                continue;
            }
            $kept = array_values(array_filter($clauses, static fn (SearchClause $c): bool => $c->term !== $clause->term));
            $kept = count($kept) === count($clauses) ? [...$clauses, $clause] : $kept;
            $node = BooleanNode::join(BooleanOperator::Or, $kept);
            if ($node !== null) {
                $lines[] = new LedgerLine($node, $exclude);
            }
            $done = true;
        }
        if (! $done) {
            $lines[] = new LedgerLine($clause, $exclude);
        }

        return new self($this->words, $this->cql, $this->any, $lines, $this->reach);
    }

    /**
     * All lines as one.
     *
     * @param  string  $how  any, all or none
     * @return array{Node, bool} the criterion, and whether it must not hold
     */
    public function together(string $how): array
    {
        // A line that must not hold keeps its “not” in the group: everything, without it.
        $nodes = array_map(
            static fn (LedgerLine $line): Node => $line->negated
                ? new BooleanNode(BooleanOperator::Not, SearchClause::everything(), $line->node)
                : $line->node,
            $this->lines,
        );
        $node = BooleanNode::join($how === 'all' ? BooleanOperator::And : BooleanOperator::Or, $nodes) ?? SearchClause::everything();

        return [$node, $how === 'none'];
    }

    /**
     * The lines that a group was made of: parts of an “any”, an “all” or a “none”.
     *
     * @return list<array{cql: string, negated: bool, on: bool}>
     */
    public static function apart(LedgerLine $line): array
    {
        $parts = Criterion::parts($line->node);

        return array_map(
            static fn (array $part): array => [
                'cql' => (new LedgerLine($part['node']))->cql(),
                'negated' => $part['negated'] !== $line->negated,
                'on' => true,
            ],
            $parts,
        );
    }

    public function with(LedgerLine $line): self
    {
        return new self($this->words, $this->cql, $this->any, [...$this->lines, $line], $this->reach);
    }

    /** The lines that the typed words make. */
    private function typed(): Ledger
    {
        return Ledger::of(($this->cql ?? PlainQuery::parse($this->words, $this->any, $this->reach->modifiers()))->root);
    }

    /** Everything, the typed words first. */
    public function ledger(): Ledger
    {
        return new Ledger([...$this->typed()->lines, ...$this->lines]);
    }

    public function typedLines(): int
    {
        return count($this->typed()->lines);
    }

    /** What would stand in the query line without one of its lines. */
    public function wordsWithout(int $index): string
    {
        $lines = $this->typed()->lines;
        unset($lines[$index]);

        return $this->wordsOf(array_values($lines));
    }

    /** What would stand in the query line with only the lines before one. */
    public function wordsBefore(int $index): string
    {
        return $this->wordsOf(array_slice($this->typed()->lines, 0, $index));
    }

    /** @param  list<LedgerLine>  $lines  some of those typed */
    private function wordsOf(array $lines): string
    {
        if ($this->cql !== null) {
            return $lines === [] ? '' : Printer::node((new Ledger($lines))->tree());
        }
        $words = [];
        foreach ($lines as $line) {
            $clauses = $line->node instanceof SearchClause ? [$line->node] : self::leaves($line->node);
            foreach ($clauses as $clause) {
                $words[] = ($line->negated ? '-' : '').(str_contains($clause->term, ' ') ? "\"{$clause->term}\"" : $clause->term);
            }
        }

        return implode(' ', $words);
    }

    /** @return list<SearchClause> from left to right */
    private static function leaves(Node $node): array
    {
        return match (true) {
            $node instanceof SearchClause => [$node],
            $node instanceof BooleanNode => [...self::leaves($node->left), ...self::leaves($node->right)],
            default => [],
        };
    }

    /** @return list<array{cql: string, negated: bool, on: bool, origin?: string}> */
    public function toArray(): array
    {
        return array_map(
            static fn (LedgerLine $line): array => [
                'cql' => $line->cql(),
                'negated' => $line->negated,
                'on' => $line->on,
                ...$line->origin === '' ? [] : ['origin' => $line->origin],
            ],
            $this->lines,
        );
    }
}
