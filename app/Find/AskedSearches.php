<?php

declare(strict_types=1);

namespace App\Find;

use App\History\Readers;
use App\Models\User;
use Brenvic\Core\Query\BooleanNode;
use Brenvic\Core\Query\LedgerLine;
use Brenvic\Core\Query\Node;
use Brenvic\Core\Query\PrefixNode;
use Brenvic\Core\Query\Printer;
use Brenvic\Core\Query\SearchClause;
use Brenvic\Core\Search\Asking\Criteria;
use Brenvic\Core\Search\Asking\KeptSearch;
use Illuminate\Database\Query\Builder;
use Illuminate\Support\Facades\DB;

/**
 * What people searched for, what it found and how long it took, as long as the office keeps what it knows of readers. A search
 * is noted once while somebody is at it, whatever they turn and sort.
 */
final class AskedSearches
{
    /** Minutes within which the same search of a person is the same asking. */
    private const AT_IT = 30;

    /** Of which each person has their own: nobody else can be told of them. */
    private const OWN = ['hold', 'pull_list'];

    /**
     * @param  list<string>  $where  parts that words are looked for in; none means all
     */
    public static function note(User $user, Criteria $criteria, array $where, bool $isOnce, int $total, float $milliseconds): void
    {
        $node = $criteria->ledger()->tree();
        if (! Readers::now()->areRecorded || self::isOwn($node)) {
            return;
        }
        $search = self::search($criteria, $where, $isOnce);
        if ($search === null) {
            return;
        }
        $cql = Printer::node($node);
        $hash = hash('sha256', $cql.json_encode([$where, $isOnce]));
        $known = DB::table('asked_searches')
            ->where('user_id', $user->id)
            ->where('at', '>', now()->subMinutes(self::AT_IT))
            ->orderByDesc('id')
            ->limit(20)
            ->pluck('hash');
        if ($known->contains($hash)) {
            return;
        }
        DB::table('asked_searches')->insert([
            'at' => now(),
            'user_id' => $user->id,
            'hash' => $hash,
            'search' => json_encode($search, JSON_UNESCAPED_UNICODE | JSON_UNESCAPED_SLASHES | JSON_INVALID_UTF8_SUBSTITUTE),
            'cql' => $cql,
            'total' => $total,
            'milliseconds' => (int) ceil($milliseconds),
        ]);
    }

    /** Forgets what was searched for longer ago than the office keeps what it knows of readers. */
    public static function forget(): void
    {
        $rule = Readers::now();
        if (! $rule->areRecorded || $rule->months > 0) {
            DB::table('asked_searches')
                ->when($rule->areRecorded, static fn (Builder $of) => $of->where('at', '<', now()->subMonths($rule->months)))
                ->delete();
        }
    }

    /**
     * As the address line would have it; null where nothing was asked for.
     *
     * @param  list<string>  $where
     */
    private static function search(Criteria $criteria, array $where, bool $isOnce): ?KeptSearch
    {
        $lines = [];
        foreach ($criteria->ledger()->lines as $line) {
            if ($line->on) {
                $lines[] = ['cql' => (new LedgerLine($line->node))->cql(), 'negated' => $line->negated, 'on' => true];
            }
        }

        return $lines === [] ? null : new KeptSearch(where: $where, criteria: $lines, once: $isOnce);
    }

    private static function isOwn(Node $node): bool
    {
        return match (true) {
            $node instanceof BooleanNode => self::isOwn($node->left) || self::isOwn($node->right),
            $node instanceof PrefixNode => self::isOwn($node->inner),
            default => $node instanceof SearchClause && in_array($node->index, self::OWN, true),
        };
    }
}
