<?php

declare(strict_types=1);

namespace Brenvic\Core\Reports;

use Brenvic\Core\Index\Part;
use Brenvic\Core\Index\Tokenizer;
use Brenvic\Core\Query\BooleanNode;
use Brenvic\Core\Query\BooleanOperator;
use Brenvic\Core\Query\Node;
use Brenvic\Core\Query\PrefixNode;
use Brenvic\Core\Query\SearchClause;
use Brenvic\Core\Search\Asking\SearchSchema;

/** The words that somebody looked for, wherever in documents: not the values that they chose, nor what they excluded. */
final class AskedWords
{
    /** Shorter ones, and these, are in every text. */
    private const SHORTEST = 3;

    private const EVERYWHERE = ['the', 'and', 'for', 'from', 'with', 'that', 'this'];

    /** @return list<string> folded, each once */
    public static function of(Node $node): array
    {
        $words = array_filter(self::all($node), static fn (string $word): bool => mb_strlen($word) >= self::SHORTEST);

        return array_values(array_diff(array_unique($words), self::EVERYWHERE));
    }

    /** @return list<string> */
    private static function all(Node $node): array
    {
        return match (true) {
            $node instanceof BooleanNode => [
                ...self::all($node->left),
                ...$node->operator === BooleanOperator::Not ? [] : self::all($node->right),
            ],
            $node instanceof PrefixNode => self::all($node->inner),
            $node instanceof SearchClause && self::isAnywhere($node->index) => Tokenizer::words(
                str_replace(['\\', '*', '?', '^'], ' ', $node->term),
            ),
            default => [],
        };
    }

    private static function isAnywhere(string $index): bool
    {
        return in_array(
            $index,
            [
                ...SearchSchema::EVERYWHERE,
                'title',
                'dc.title',
                'dc.description',
                ...array_map(static fn (Part $part): string => $part->indexName(), Part::cases()),
            ],
            true,
        );
    }
}
