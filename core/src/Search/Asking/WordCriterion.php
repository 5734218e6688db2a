<?php

declare(strict_types=1);

namespace Brenvic\Core\Search\Asking;

use Brenvic\Core\Fields\InvalidValue;
use Brenvic\Core\Index\Part;
use Brenvic\Core\Query\BooleanNode;
use Brenvic\Core\Query\BooleanOperator;
use Brenvic\Core\Query\Modifier;
use Brenvic\Core\Query\Node;
use Brenvic\Core\Query\SearchClause;

/** Makes criteria of words and of the part of a document that they are looked for in. */
final class WordCriterion
{
    /** The place that stands for all parts. */
    public const ANYWHERE = 'anywhere';

    /** How many words apart “near each other” is when nothing is said. */
    public const NEAR = 10;

    /** More words than this are not compared with each other. */
    private const MOST = 6;

    /** @return array<string, string> code => label of the places that words may be looked for in */
    public static function places(): array
    {
        $places = [self::ANYWHERE => 'Words anywhere'];
        foreach (Part::cases() as $part) {
            if ($part !== Part::Original) {
                $places[$part->indexName()] = "Words in {$part->place()}";
            }
        }

        return $places;
    }

    /**
     * @param  string  $place  see `places`
     * @param  list<string>  $values  what was typed; for `Near` the number of words apart behind it
     *
     * @throws InvalidValue with a sentence on what is missing or wrong
     */
    public static function of(string $place, WordRelation $relation, array $values, Reach $reach = Reach::AsWritten): Node
    {
        $index = $place === self::ANYWHERE ? SearchClause::ANYWHERE : $place;
        $text = trim($values[0] ?? '');
        $words = self::words($text);
        if ($words === []) {
            throw new InvalidValue('Give a word or a phrase.');
        }
        if ($relation === WordRelation::Phrase) {
            return new SearchClause($index, '=', str_replace('"', '', $text));
        }
        if (! $relation->isNearness()) {
            // A phrase among the words is a criterion of its own, as it is in the query line.
            $clauses = array_map(static fn (string $word): SearchClause => self::word($index, $word, $reach), $words);
            $operator = $relation === WordRelation::Any ? BooleanOperator::Or : BooleanOperator::And;
            if (count($clauses) > 1 && ! str_contains($text, '"')) {
                $joined = new SearchClause($index, $relation === WordRelation::Any ? 'any' : 'all', implode(' ', $words));

                return $reach->applied($joined);
            }

            return BooleanNode::join($operator, $clauses) ?? SearchClause::everything();
        }
        if (count($words) < 2 || count($words) > self::MOST) {
            throw new InvalidValue('Give two to '.self::MOST.' words or phrases that are near each other.');
        }

        return self::near($index, $words, self::distance($relation, $values[1] ?? ''), $reach);
    }

    /** @return list<string> words, and phrases without their quotation marks */
    private static function words(string $text): array
    {
        preg_match_all('/"[^"]+"?|[^\s"]+/u', mb_scrub($text), $m);
        $words = array_map(static fn (string $word): string => trim($word, "\" \n\r\t"), $m[0]);

        return array_values(array_filter($words, static fn (string $word): bool => preg_match('/[\p{L}\p{N}]/u', $word) === 1));
    }

    private static function word(string $index, string $word, Reach $reach): SearchClause
    {
        $clause = new SearchClause($index, '=', str_replace('\\', '\\\\', $word));

        return count(WordPattern::ofTerm($clause->term)) > 1 ? $clause : $reach->applied($clause);
    }

    /**
     * Each pair of the words near each other.
     *
     * @param  list<string>  $words
     * @param  list<Modifier>  $distance
     */
    private static function near(string $index, array $words, array $distance, Reach $reach): Node
    {
        $pairs = [];
        foreach ($words as $i => $left) {
            foreach (array_slice($words, $i + 1) as $right) {
                $pairs[] = new BooleanNode(
                    BooleanOperator::Prox,
                    self::word($index, $left, $reach),
                    self::word($index, $right, $reach),
                    $distance,
                );
            }
        }

        return BooleanNode::join(BooleanOperator::And, $pairs) ?? SearchClause::everything();
    }

    /** @return list<Modifier> */
    private static function distance(WordRelation $relation, string $given): array
    {
        if ($relation === WordRelation::SameSentence) {
            return [new Modifier('unit', '=', 'sentence'), new Modifier('distance', '=', '0')];
        }
        if ($relation === WordRelation::SameParagraph) {
            return [new Modifier('unit', '=', 'paragraph'), new Modifier('distance', '=', '0')];
        }
        $most = trim($given) === '' ? (string) self::NEAR : trim($given);
        if (preg_match('/^[1-9]\d{0,3}$/', $most) !== 1) {
            throw new InvalidValue('Say how many words apart they may be, from 1 to 9999.');
        }

        return [new Modifier('distance', '<=', $most)];
    }
}
