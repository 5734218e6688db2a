<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Catalog\Catalog;
use App\Holds\Holding;
use App\Http\Requests\SavedSearchInput;
use App\Http\Resources\HoldResource;
use App\Models\Hold;
use App\Models\PullList;
use App\Models\User;
use App\Support\Column;
use App\Support\Refused;
use App\Support\StaleWrite;
use Brenvic\Core\Search\Asking\KeptSearch;
use Brenvic\Core\Search\Asking\SearchError;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;

/** Holds: what they cover and why, who keeps them, and their end. */
final readonly class HoldController
{
    private const WORDS = [
        'name' => 'required|string|max:200',
        'reason' => 'required|string|max:1000',
        'until' => 'nullable|date_format:Y-m-d',
        'custodians' => 'array|max:200',
        'custodians.*' => 'string|max:200',
    ];

    private const MESSAGES = [
        'name.required' => 'Give the hold a name.',
        'reason.required' => 'Give a reason. It is shown to anyone the hold stops.',
    ];

    public function __construct(private Holding $holding, private HoldResource $resource)
    {
    }

    public function index(Request $request): JsonResponse
    {
        $holds = Hold::knownTo(User::of($request))->with(['owner', 'custodians'])->orderByRaw('ended_at IS NOT NULL')->orderByDesc('id')->get();

        return new JsonResponse(['holds' => array_values($holds->map($this->resource->row(...))->all())]);
    }

    /** Whom a hold may be given to keep. */
    public function people(Request $request): JsonResponse
    {
        $people = User::query()->whereIn('sign_in', User::of($request)->colleagues())->whereNull('out_of_use_at')->orderBy('name')->get(['sign_in', 'name']);

        return new JsonResponse([
            'people' => array_values($people->map(static fn (User $of): array => ['sign_in' => $of->sign_in, 'name' => $of->name])->all()),
        ]);
    }

    public function show(Request $request, int $hold): JsonResponse
    {
        return $this->shaped($request, $this->known($request, $hold));
    }

    public function items(Request $request, int $hold): JsonResponse
    {
        $offset = (int) ($request->validate(['offset' => 'integer|min:0'])['offset'] ?? 0);

        return new JsonResponse($this->resource->items($this->known($request, $hold), User::of($request), $offset));
    }

    public function store(Request $request, Catalog $catalog): JsonResponse
    {
        $user = User::of($request);
        $input = $request->validate([
            ...self::WORDS,
            'from' => 'nullable|date_format:Y-m-d',
            'documents' => 'array|max:5000',
            'documents.*' => 'string|max:40',
            'list' => 'nullable|integer',
            'search' => 'nullable|'.SavedSearchInput::SHAPE,
            ...SavedSearchInput::PARTS,
        ], self::MESSAGES);
        $list = isset($input['list']) ? PullList::knownTo($user)->findOrFail((int) $input['list']) : null;
        if ($list?->hold()->exists()) {
            throw new Refused('The list is on hold already.');
        }
        $hold = $this->holding->make(
            $user,
            (string) $input['name'],
            (string) $input['reason'],
            (string) ($input['from'] ?? now()->toDateString()),
            $input['until'] ?? null,
            $this->custodians($user, $input),
            array_values(array_map(strval(...), (array) ($input['documents'] ?? []))),
            $list,
            isset($input['search']) ? self::searchOf($user, $input['search'], $catalog) : null,
        );

        return $this->shaped($request, $this->known($request, $hold->id), 201);
    }

    public function update(Request $request, int $hold): JsonResponse
    {
        $user = User::of($request);
        $input = $request->validate([...self::WORDS, 'owner' => 'required|string|max:200', 'lock_version' => 'required|integer'], self::MESSAGES);
        $found = $this->known($request, $hold);
        if ($found->lock_version !== (int) $input['lock_version']) {
            throw new StaleWrite($this->resource->of($found, $user));
        }
        $owner = (string) $input['owner'] === $found->owner->sign_in
            ? $found->owner
            : (User::query()->whereIn('sign_in', $user->colleagues())->where('sign_in', $input['owner'])->first() ??
                throw new Refused('You share no group with anybody of this sign-in name.'));
        $this->holding->change(
            $user,
            $found,
            (string) $input['name'],
            (string) $input['reason'],
            $input['until'] ?? null,
            $owner,
            $this->custodians($user, $input, Column::texts($found->custodians->pluck('sign_in'))),
        );

        return $this->shaped($request, $this->known($request, $hold));
    }

    public function cover(Request $request, int $hold): JsonResponse
    {
        $this->holding->cover(User::of($request), $this->known($request, $hold), self::documents($request));

        return $this->shaped($request, $this->known($request, $hold));
    }

    public function uncover(Request $request, int $hold): JsonResponse
    {
        $this->holding->uncover(User::of($request), $this->known($request, $hold), self::documents($request));

        return $this->shaped($request, $this->known($request, $hold));
    }

    public function end(Request $request, int $hold): JsonResponse
    {
        $reason = (string) ($request->validate(['reason' => 'nullable|string|max:1000'])['reason'] ?? '');
        $this->holding->end(User::of($request), $this->known($request, $hold), $reason);

        return $this->shaped($request, $this->known($request, $hold));
    }

    public function acknowledge(Request $request, int $hold): JsonResponse
    {
        $this->holding->acknowledge(User::of($request), $this->known($request, $hold));

        return $this->shaped($request, $this->known($request, $hold));
    }

    public function remind(Request $request, int $hold): JsonResponse
    {
        return new JsonResponse(['told' => $this->holding->remind($this->known($request, $hold))]);
    }

    private function known(Request $request, int $hold): Hold
    {
        return Hold::knownTo(User::of($request))->with(['owner', 'ender', 'list', 'custodians'])->findOrFail($hold);
    }

    /**
     * @param  array<string, mixed>  $input
     * @param  list<string>  $known  who may stay, whoever asks
     * @return list<int>
     */
    private function custodians(User $user, array $input, array $known = []): array
    {
        $asked = array_map(strval(...), (array) ($input['custodians'] ?? []));
        $allowed = array_intersect($asked, [...$user->colleagues(), $user->sign_in, ...$known]);
        if (count($allowed) !== count($asked)) {
            throw new Refused('You share no group with “'.implode('”, “', array_diff($asked, $allowed)).'”.');
        }

        return Column::numbers(User::query()->whereIn('sign_in', $allowed)->pluck('id'));
    }

    /** @param  array<string, mixed>  $given */
    private static function searchOf(User $user, array $given, Catalog $catalog): KeptSearch
    {
        $search = SavedSearchInput::searchOf($user, $given);
        try {
            $search->read($catalog->fullSchema());
        } catch (SearchError $fault) {
            throw new Refused($fault->getMessage());
        }
        if ($search->words === '' && array_filter(array_column($search->criteria, 'on')) === []) {
            throw new Refused('A search without a line would hold everything. Give it a criterion or a word.');
        }
        if (str_contains((string) json_encode($search), 'pull_list')) {
            throw new Refused('Pull lists are each person’s own. Hold the list itself.');
        }

        return $search;
    }

    /** @return list<string> */
    private static function documents(Request $request): array
    {
        $refs = $request->validate(['documents' => 'required|array|max:5000', 'documents.*' => 'string|max:40'])['documents'];

        return array_values(array_map(strval(...), $refs));
    }

    private function shaped(Request $request, Hold $hold, int $status = 200): JsonResponse
    {
        return new JsonResponse($this->resource->of($hold, User::of($request)), $status);
    }
}
