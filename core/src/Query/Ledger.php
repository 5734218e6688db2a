<?php

declare(strict_types=1);

namespace Brenvic\Core\Query;

/**
 * The two faces of one search: a tree, and the lines whose conjunction it is. Everything that is not a conjunction
 * (an alternative, a nearness) stays together in one line.
 */
final readonly class Ledger
{
    /** @param  list<LedgerLine>  $lines */
    public function __construct(public array $lines)
    {
    }

    public static function of(Node $root): self
    {
        $lines = [];
        self::collect($root, false, $lines);

        return new self($lines);
    }

    /** The tree of the lines that are on. */
    public function tree(): Node
    {
        $wanted = [];
        $unwanted = [];
        foreach ($this->lines as $line) {
            if ($line->on && $line->negated) {
                $unwanted[] = $line->node;
            } elseif ($line->on) {
                $wanted[] = $line->node;
            }
        }
        $tree = BooleanNode::join(BooleanOperator::And, $wanted) ?? SearchClause::everything();
        foreach ($unwanted as $node) {
            $tree = new BooleanNode(BooleanOperator::Not, $tree, $node);
        }

        return $tree;
    }

    /** @param  list<LedgerLine>  $lines */
    private static function collect(Node $node, bool $negated, array &$lines): void
    {
        if (! $negated && $node instanceof BooleanNode && $node->operator === BooleanOperator::And) {
            self::collect($node->left, false, $lines);
            self::collect($node->right, false, $lines);
        } elseif (! $negated && $node instanceof BooleanNode && $node->operator === BooleanOperator::Not) {
            self::collect($node->left, false, $lines);
            self::collect($node->right, true, $lines);
        } elseif (! $node instanceof SearchClause || $node->index !== SearchClause::EVERYTHING || $negated) {
            $lines[] = new LedgerLine($node, $negated);
        }
    }
}
