<?php

declare(strict_types=1);

namespace Brenvic\Core\Query;

/** Writes a tree as CQL. Parsing what it writes gives the same tree. */
final class Printer
{
    private const WORDS_OF_THE_LANGUAGE = ['and', 'or', 'not', 'prox', 'sortby'];

    public static function print(Query $query): string
    {
        $text = self::node($query->root);
        if ($query->sortKeys === []) {
            return $text;
        }
        $keys = array_map(static fn (SortKey $key): string => self::term($key->index).self::modifiers($key->modifiers), $query->sortKeys);

        return $text.' sortBy '.implode(' ', $keys);
    }

    public static function node(Node $node): string
    {
        return match (true) {
            $node instanceof SearchClause => self::clause($node),
            $node instanceof BooleanNode => self::joined($node),
            $node instanceof PrefixNode => '>'.
                ($node->prefix === '' ? '' : self::term($node->prefix).'=').
                self::term($node->uri).
                ' '.
                self::node($node->inner),
            default => throw new \LogicException('Unknown node '.$node::class),
        };
    }

    private static function joined(BooleanNode $node): string
    {
        $left = $node->left instanceof PrefixNode ? '('.self::node($node->left).')' : self::node($node->left);
        $right = $node->right instanceof SearchClause ? self::node($node->right) : '('.self::node($node->right).')';

        return "{$left} {$node->operator->value}".self::modifiers($node->modifiers)." {$right}";
    }

    private static function clause(SearchClause $clause): string
    {
        $term = self::term($clause->term);
        if ($clause->index === SearchClause::ANYWHERE && $clause->relation === '=' && $clause->modifiers === []) {
            return $term;
        }
        $index =
            $clause->index === SearchClause::ANYWHERE
                ? 'cql.serverChoice'
                : ($clause->index === SearchClause::EVERYTHING
                    ? 'cql.allRecords'
                    : self::term($clause->index));

        return "{$index} {$clause->relation}".self::modifiers($clause->modifiers)." {$term}";
    }

    /** @param  list<Modifier>  $modifiers */
    private static function modifiers(array $modifiers): string
    {
        $text = '';
        foreach ($modifiers as $modifier) {
            $text .= ' /'.self::term($modifier->name);
            if ($modifier->comparitor !== null) {
                $text .= $modifier->comparitor.self::term($modifier->value ?? '');
            }
        }

        return $text;
    }

    private static function term(string $term): string
    {
        $plain =
            $term !== '' &&
            preg_match('#^[^'.Lexer::BLANK.'()/<>="\\\\]++$#Du', $term) === 1 &&
            ! in_array(strtolower($term), self::WORDS_OF_THE_LANGUAGE, true) &&
            ! Relations::isKnown(strtolower($term));

        return $plain ? $term : '"'.str_replace('"', '\\"', Escapes::canonical($term)).'"';
    }
}
