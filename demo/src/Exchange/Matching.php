<?php

declare(strict_types=1);

namespace Demo\Exchange;

use Brenvic\Core\Index\Tokenizer;
use Brenvic\Core\Query\BooleanNode;
use Brenvic\Core\Query\BooleanOperator;
use Brenvic\Core\Query\Node;
use Brenvic\Core\Query\SearchClause;

/** Holds records against a query, one by one: the Survey Exchange is small. */
final class Matching
{
    public const INDEXES = [
        'title',
        'creator',
        'subject',
        'description',
        'publisher',
        'date',
        'type',
        'format',
        'identifier',
        'language',
        'coverage',
    ];

    /** @throws Diagnostic */
    public static function fits(Node $node, SharedSurvey $survey): bool
    {
        if ($node instanceof BooleanNode) {
            $left = self::fits($node->left, $survey);
            $right = self::fits($node->right, $survey);

            return match ($node->operator) {
                BooleanOperator::And => $left && $right,
                BooleanOperator::Or => $left || $right,
                BooleanOperator::Not => $left && ! $right,
                BooleanOperator::Prox => throw new Diagnostic(37, 'prox', 'Unsupported boolean operator'),
            };
        }
        if (! ($node instanceof SearchClause)) {
            throw new Diagnostic(48, '', 'Query feature unsupported');
        }
        if ($node->index === SearchClause::EVERYTHING) {
            return true;
        }
        if ($node->modifiers !== []) {
            throw new Diagnostic(20, $node->modifiers[0]->name, 'Unsupported relation modifier');
        }
        foreach (self::values($node->index, $survey) as $value) {
            if (self::holds($node->relation, $value, $node->term)) {
                return true;
            }
        }

        return false;
    }

    /** @return list<string> */
    private static function values(string $index, SharedSurvey $survey): array
    {
        if (in_array($index, [SearchClause::ANYWHERE, 'cql.anywhere'], true)) {
            return [implode("\n", [...array_merge(...array_values($survey->elements)), ...$survey->paragraphs])];
        }
        $element = str_starts_with($index, 'dc.') ? substr($index, 3) : $index;

        return in_array($element, self::INDEXES, true)
            ? $survey->elements[$element] ?? []
            : throw new Diagnostic(16, $index, 'Unsupported index');
    }

    private static function holds(string $relation, string $value, string $term): bool
    {
        $day = static fn (string $end): string => str_pad($value, 10, $end);

        return match ($relation) {
            '==', 'exact' => preg_match('/^'.self::pattern($term).'$/u', Tokenizer::fold($value)) === 1,
            '=', 'adj', 'scr' => self::hasWords($value, $term),
            'any' => array_filter(explode(' ', $term), static fn (string $word): bool => self::hasWords($value, $word)) !== [],
            'all' => array_filter(explode(' ', $term), static fn (string $word): bool => ! self::hasWords($value, $word)) === [],
            '<>' => ! self::hasWords($value, $term),
            '<' => $value < $term,
            '<=' => substr($value, 0, strlen($term)) <= $term,
            '>' => substr($value, 0, strlen($term)) > $term,
            '>=' => $value >= $term,
            'within' => $day('0') >= explode(' ', $term)[0] && substr($value, 0, 10) <= (explode(' ', $term)[1] ?? $term),
            default => throw new Diagnostic(19, $relation, 'Unsupported relation'),
        };
    }

    private static function hasWords(string $value, string $term): bool
    {
        return preg_match('/(?<![\p{L}\p{N}])'.self::pattern($term).'(?![\p{L}\p{N}])/u', Tokenizer::fold($value)) === 1;
    }

    private static function pattern(string $term): string
    {
        $pattern = '';
        preg_match_all('/\\\\.|./su', Tokenizer::fold($term), $signs);
        foreach ($signs[0] as $sign) {
            $pattern .= match (true) {
                $sign === '*' => '[\p{L}\p{N}]*',
                $sign === '?' => '[\p{L}\p{N}]',
                $sign === ' ' => '[^\p{L}\p{N}]+',
                default => preg_quote(strlen($sign) > 1 && $sign[0] === '\\' ? substr($sign, 1) : $sign, '/'),
            };
        }

        return $pattern;
    }
}
