<?php

declare(strict_types=1);

namespace Brenvic\Core\Query;

/** Two clauses joined. CQL's booleans all bind equally and to the left. */
final readonly class BooleanNode implements Node
{
    /** @param  list<Modifier>  $modifiers */
    public function __construct(
        public BooleanOperator $operator,
        public Node $left,
        public Node $right,
        public array $modifiers = [],
    ) {
    }

    /**
     * The nodes joined left to right by one operator; null when there are none.
     *
     * @param  list<Node>  $nodes
     */
    public static function join(BooleanOperator $operator, array $nodes): ?Node
    {
        $joined = array_shift($nodes);
        foreach ($nodes as $node) {
            $joined = $joined === null ? $node : new self($operator, $joined, $node);
        }

        return $joined;
    }
}
