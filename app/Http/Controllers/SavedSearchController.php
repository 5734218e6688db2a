<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Catalog\Catalog;
use App\Find\SavedSearches;
use App\Http\Requests\SavedSearchInput;
use App\Models\SavedSearch;
use App\Models\User;
use App\Support\StaleWrite;
use Brenvic\Core\Search\Asking\KeptSearch;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Support\Facades\DB;

/** Searches that people keep, watch and made lately. */
final readonly class SavedSearchController
{
    private const RECENT = 30;

    public function __construct(private SavedSearches $searches)
    {
    }

    public function index(Request $request): JsonResponse
    {
        return $this->all($request);
    }

    public function store(SavedSearchInput $input): JsonResponse
    {
        $input->validate(['name' => 'required']);
        SavedSearch::query()->create([
            'user_id' => User::of($input)->id,
            'name' => $input->validated('name'),
            'search' => $input->search(),
            'groups' => $input->validated('groups') ?? [],
        ]);

        return $this->all($input, 201);
    }

    /** Only the owner changes a search; groups have it as it is. */
    public function update(SavedSearchInput $input, int $search): JsonResponse
    {
        DB::transaction(function () use ($input, $search): void {
            $saved = SavedSearch::query()->where('user_id', User::of($input)->id)->findOrFail($search);
            if ($input->integer('lock_version') !== $saved->lock_version) {
                throw new StaleWrite(['name' => $saved->name, 'search' => $saved->search, 'lock_version' => $saved->lock_version]);
            }
            $saved->update([
                'name' => $input->validated('name') ?? $saved->name,
                'search' => $input->search(),
                'groups' => $input->validated('groups') ?? $saved->groups,
                'lock_version' => $saved->lock_version + 1,
            ]);
        });

        return $this->all($input);
    }

    public function destroy(Request $request, int $search): JsonResponse
    {
        SavedSearch::query()->where('user_id', User::of($request)->id)->findOrFail($search)->delete();

        return $this->all($request);
    }

    /** Begins to watch, or notes that what is new was looked at. */
    public function look(Request $request, int $search): JsonResponse
    {
        $this->searches->look(User::of($request), $this->searches->of(User::of($request))->findOrFail($search));

        return $this->all($request);
    }

    public function unwatch(Request $request, int $search): JsonResponse
    {
        $this->searches->unwatch(User::of($request), $this->searches->of(User::of($request))->findOrFail($search));

        return $this->all($request);
    }

    /** Keeps a search among those made lately. */
    public function recent(SavedSearchInput $input): JsonResponse
    {
        $user = User::of($input);
        $search = $input->search();
        DB::transaction(static function () use ($user, $search, $input): void {
            DB::table('recent_searches')->upsert(
                [
                    'user_id' => $user->id,
                    'hash' => hash('sha256', (string) json_encode($search)),
                    'search' => json_encode($search),
                    'words' => mb_strcut($search->inWords(app(Catalog::class)->schema($user)), 0, 250),
                    'total' => $input->integer('total'),
                    'asked_at' => now(),
                ],
                ['user_id', 'hash'],
                ['total', 'asked_at'],
            );
            $last = DB::table('recent_searches')
                ->where('user_id', $user->id)
                ->orderByDesc('asked_at')
                ->orderByDesc('id')
                ->offset(self::RECENT)
                ->limit(1)
                ->value('asked_at');
            $last === null || DB::table('recent_searches')->where('user_id', $user->id)->where('asked_at', '<=', $last)->delete();
        });

        return new JsonResponse(['recent' => self::recents($user)]);
    }

    /** @return list<array{search: mixed, words: string, total: int, at: string}> */
    public static function recents(User $user): array
    {
        $schema = app(Catalog::class)->schema($user);
        $rows = DB::table('recent_searches')
            ->where('user_id', $user->id)
            ->orderByDesc('asked_at')
            ->orderByDesc('id')
            ->limit(self::RECENT)
            ->get()
            ->map(
                static fn (object $row): array => [
                    'search' => $search = KeptSearch::of((array) json_decode((string) $row->search, true)),
                    'words' => $search->inWords($schema),
                    'total' => (int) $row->total,
                    'at' => (string) $row->asked_at,
                ],
            )
            ->all();

        return array_values($rows);
    }

    private function all(Request $request, int $status = 200): JsonResponse
    {
        $user = User::of($request);

        return new JsonResponse(['searches' => $this->searches->shaped($user), 'recent' => self::recents($user)], $status);
    }
}
