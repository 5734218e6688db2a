<?php

declare(strict_types=1);

namespace Brenvic\Core\Design;

use Brenvic\Core\Query\BooleanNode;
use Brenvic\Core\Query\BooleanOperator;
use Brenvic\Core\Query\Modifier;
use Brenvic\Core\Query\Node;
use Brenvic\Core\Query\Parser;
use Brenvic\Core\Query\SearchClause;
use Brenvic\Core\Search\Asking\Criterion;

/** Documents that have one term of a vocabulary are given another: all of them, or those that match a criterion. */
final readonly class TermMove
{
    /** @param  int  $place  of the new term in the vocabulary’s list */
    public function __construct(public string $from, public string $to, public string $criterion, public int $place)
    {
    }

    /**
     * What a change of a vocabulary moves: terms newly retired with a replacement, and terms newly split off others.
     *
     * @param  array<string, mixed>|null  $before
     * @param  array<string, mixed>|null  $after
     * @return list<self> splits first: they take from terms that may be retired at the same time
     */
    public static function between(?array $before, ?array $after): array
    {
        $was = (new Terms(Design::entries($before, 'terms')))->byCode;
        $terms = Design::entries($after, 'terms');
        $places = array_flip(Design::codes(['terms' => $terms], 'terms', 'code'));
        $splits = $replacements = [];
        foreach ($terms as $place => $term) {
            $code = is_string($term['code'] ?? null) ? $term['code'] : '';
            $from = $term['from'] ?? null;
            if (
                is_array($from) &&
                is_string($from['code'] ?? null) &&
                is_string($from['criterion'] ?? null) &&
                ! Design::same($was[$code]['from'] ?? null, $from)
            ) {
                $splits[] = new self($from['code'], $code, $from['criterion'], $place);
            }
            $instead = $term['replaced_by'] ?? null;
            if (isset($was[$code]) && is_string($instead) && ($was[$code]['replaced_by'] ?? null) !== $instead) {
                $replacements[] = new self($code, $instead, '', $places[$instead] ?? 0);
            }
        }

        return [...$splits, ...$replacements];
    }

    /** Finds the documents it moves, by a field of the vocabulary. */
    public function node(string $field): Node
    {
        $has = self::having($field, $this->from);

        return $this->criterion === '' ? $has : new BooleanNode(BooleanOperator::And, $has, Parser::parse($this->criterion)->root);
    }

    /** Finds the documents that have a term itself, and not just one below it. */
    public static function having(string $field, string $term): Node
    {
        return new SearchClause($field, '==', Criterion::escaped($term), [new Modifier('only')]);
    }
}
