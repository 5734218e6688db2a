<?php

declare(strict_types=1);

namespace App\Served;

use App\Find\Finder;
use App\Find\SavedSearches;
use App\Find\Searching;
use App\History\Act;
use App\History\History;
use App\Models\Right;
use App\Models\SavedSearch;
use App\Models\User;
use App\Support\Address;
use Brenvic\Core\Exchange\Feeds\Feed;
use Brenvic\Core\Exchange\Feeds\FeedEntry;
use Brenvic\Core\Exchange\Records\ServedRecord;
use Brenvic\Core\Query\SortKey;
use Brenvic\Core\Query\SyntaxError;
use Brenvic\Core\Search\Asking\SearchError;
use Brenvic\Core\Search\Asking\SearchRequest;
use Illuminate\Support\Carbon;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Str;

/** Feeds of kept searches, by an address that only the person has who made it, and with the sight that this person has now. */
final readonly class Feeds
{
    private const MOST = 50;

    public function __construct(
        private SavedSearches $searches,
        private Finder $finder,
        private Searching $searching,
        private ServedRecords $records,
    ) {
    }

    /** @return string the token, which is told only now; one that there was is over */
    public static function make(User $user, SavedSearch $saved): string
    {
        $token = Str::random(40);
        DB::transaction(static function () use ($user, $saved, $token): void {
            DB::table('feeds')->upsert(
                ['user_id' => $user->id, 'saved_search_id' => $saved->id, 'token_hash' => hash('sha256', $token), 'made_at' => now()],
                ['user_id', 'saved_search_id'],
                ['token_hash', 'made_at'],
            );
            History::record(Act::TokenMade, $user, null, ['person' => $user->sign_in, 'token' => "feed of “{$saved->name}”"]);
        });

        return $token;
    }

    public static function stop(User $user, SavedSearch $saved): void
    {
        DB::transaction(static function () use ($user, $saved): void {
            if (DB::table('feeds')->where('user_id', $user->id)->where('saved_search_id', $saved->id)->delete() > 0) {
                History::record(Act::TokenRevoked, $user, null, ['person' => $user->sign_in, 'token' => "feed of “{$saved->name}”"]);
            }
        });
    }

    /** @return array{atom: string, json: string} the addresses */
    public static function addresses(string $token): array
    {
        return ['atom' => Address::of("/feeds/{$token}.atom"), 'json' => Address::of("/feeds/{$token}.json")];
    }

    /** The feed behind a token; null where there is none, or its person may not see it any more. */
    public function of(string $token, string $form): ?Feed
    {
        $row = DB::table('feeds')->where('token_hash', hash('sha256', $token))->first();
        $user = $row === null ? null : User::query()->whereNull('out_of_use_at')->find((int) $row->user_id);
        if ($row === null || $user === null || ! $user->may(Right::Read)) {
            return null;
        }
        $saved = $this->searches->of($user)->find((int) $row->saved_search_id);
        if ($saved === null || ($saved->user_id !== $user->id && $this->finder->betrays($user, $saved->search))) {
            return null;
        }

        return new Feed(
            "urn:brenvic:search:{$saved->id}",
            $saved->name,
            (string) config('brenvic.organisation'),
            Address::of('/desk'),
            Address::of("/feeds/{$token}.{$form}"),
            Changes::moment(Carbon::parse((string) $row->made_at)),
            $this->entries($user, $saved),
        );
    }

    /** @return list<FeedEntry> the latest filed first */
    private function entries(User $user, SavedSearch $saved): array
    {
        return $this->searching->snapshot(function () use ($user, $saved): array {
            $schema = $this->searching->schema($user, $saved->search->where);
            try {
                $ledger = $saved->search->read($schema)->ledger();
                $answer = $this->searching
                    ->searcher($schema)
                    ->search($this->searching->asker($user), new SearchRequest($ledger, [SortKey::of('created', true)], [], 0, self::MOST));
            } catch (SearchError|SyntaxError) {
                return [];
            }
            $records = $this->records->of($user, $answer->documents);

            return array_values(
                array_filter(
                    array_map(
                        static fn (int $id): ?FeedEntry => isset($records[$id]) ? self::entry($records[$id]) : null,
                        $answer->documents,
                    ),
                ),
            );
        });
    }

    private static function entry(ServedRecord $record): FeedEntry
    {
        $dated = implode(', ', $record->dublinCore['date'] ?? []);

        return new FeedEntry(
            OaiServer::prefix().$record->ref,
            $record->title,
            $record->address,
            $record->changedAt,
            $record->filedOn === '' ? '' : "{$record->filedOn}T00:00:00Z",
            implode(' · ', array_filter([$record->typeName, $record->libraryName, $dated, $record->ref])),
            array_values(array_filter([$record->typeName, ...$record->dublinCore['subject'] ?? []])),
        );
    }
}
