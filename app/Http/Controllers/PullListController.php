<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Http\Requests\SavedSearchInput;
use App\Http\Resources\PullListResource;
use App\Models\Document;
use App\Models\PullList;
use App\Models\User;
use App\Retrieve\PullLists;
use App\Support\Refused;
use App\Support\StaleWrite;
use Brenvic\Core\Index\DocumentSet;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Http\Response;
use Illuminate\Support\Facades\DB;
use Illuminate\Validation\Rule;

/** Pull lists: gathering, ordering, sharing, freezing, holding, comparing. */
final readonly class PullListController
{
    public function __construct(private PullLists $lists, private PullListResource $resource)
    {
    }

    public function index(Request $request): JsonResponse
    {
        return new JsonResponse([
            'lists' => $this->resource->rows($this->lists->of(User::of($request))->orderByDesc('updated_at')->get(), User::of($request)),
        ]);
    }

    public function show(Request $request, int $list): JsonResponse
    {
        $found = $this->list($request, $list);
        $this->lists->catchUp(User::of($request), $found);

        return $this->shaped($request, $found->refresh());
    }

    public function store(Request $request): JsonResponse
    {
        $input = $request->validate(
            ['name' => 'required|string|max:200', 'note' => 'nullable|string|max:4000'],
            ['name.required' => 'Give the list a name.'],
        );
        $list = PullList::query()->create(['user_id' => User::of($request)->id, 'name' => $input['name'], 'note' => $input['note'] ?? '']);

        return $this->shaped($request, $list, 201);
    }

    public function update(Request $request, int $list): JsonResponse
    {
        $input = $request->validate(
            [
                'name' => 'required|string|max:200',
                'note' => 'nullable|string|max:4000',
                'lock_version' => 'required|integer',
                'people' => 'array|max:200',
                'people.*.sign_in' => ['required', 'string', Rule::in(User::of($request)->colleagues())],
                'people.*.may_change' => 'boolean',
            ],
            ['people.*.sign_in.in' => 'You share no group with anybody of this sign-in name.'],
        );
        DB::transaction(function () use ($request, $list, $input): void {
            $found = $this->list($request, $list);
            $this->lists->guard(User::of($request), $found);
            if ($found->lock_version !== $input['lock_version']) {
                throw new StaleWrite($this->resource->row($found, User::of($request)));
            }
            $found->update(['name' => $input['name'], 'note' => $input['note'] ?? '', 'lock_version' => $found->lock_version + 1]);
            if (isset($input['people']) && $found->user_id === User::of($request)->id) {
                $ids = User::query()
                    ->whereIn('sign_in', array_column($input['people'], 'sign_in'))
                    ->where('id', '!=', $found->user_id)
                    ->pluck('id', 'sign_in');
                $people = [];
                foreach ($input['people'] as $person) {
                    if ($ids->has($person['sign_in'])) {
                        $people[$ids[$person['sign_in']]] = ['may_change' => $person['may_change'] ?? false];
                    }
                }
                $found->people()->sync($people);
            }
        });

        return $this->shaped($request, $this->list($request, $list));
    }

    public function destroy(Request $request, int $list): Response
    {
        $found = $this->own($request, $list);
        if ($found->hold()->exists()) {
            throw new Refused('The list is on hold. End the hold first.');
        }
        $found->delete();

        return new Response(status: 204);
    }

    public function restore(Request $request, int $list): JsonResponse
    {
        $found = PullList::onlyTrashed()->where('user_id', User::of($request)->id)->findOrFail($list);
        $found->restore();

        return $this->shaped($request, $found);
    }

    /** Adds documents by reference, all that a search finds, or what is in another list. */
    public function add(Request $request, int $list): JsonResponse
    {
        $input = $request->validate([
            'documents' => 'array|max:5000',
            'documents.*' => 'string',
            'list' => 'nullable|integer',
            'search' => 'nullable|'.SavedSearchInput::SHAPE,
            'keep' => 'boolean',
            ...SavedSearchInput::PARTS,
        ]);
        $found = $this->list($request, $list);
        $user = User::of($request);
        $added = 0;
        $new = [];
        if (isset($input['documents'])) {
            $ids = Document::query()->whereIn('ref', $input['documents'])->pluck('id', 'ref');
            $fresh = $this->lists->add(
                $user,
                $found,
                array_filter(array_map(static fn (string $ref): ?int => $ids[$ref] ?? null, $input['documents'])),
            );
            $added += count($fresh);
            // Whoever undoes this takes out these only, not what was in the list before.
            $new = $ids->intersect($fresh)->keys()->all();
        }
        if (isset($input['list'])) {
            $added += count($this->lists->add($user, $found, $this->lists->seen($user, $this->list($request, (int) $input['list']))));
        }
        if (isset($input['search'])) {
            $search = SavedSearchInput::searchOf($user, $input['search']);
            $added += $this->lists->addSearch($user, $found, $search);
            if ($request->boolean('keep')) {
                $found->update(['search' => $search]);
            }
        }

        return new JsonResponse(['added' => $added, 'new' => $new, 'list' => $this->resource->row($found->refresh(), $user)]);
    }

    public function takeOut(Request $request, int $list): JsonResponse
    {
        $refs = $request->validate(['documents' => 'required|array|max:5000', 'documents.*' => 'string'])['documents'];
        $found = $this->list($request, $list);
        $this->lists->guard(User::of($request), $found);
        if ($found->hold()->exists()) {
            throw new Refused('The list is on hold: what is in it stays in it.');
        }
        DB::table('pull_list_items')
            ->where('pull_list_id', $found->id)
            ->whereIntegerInRaw('document_id', $this->seen($request, $found, $refs))
            ->delete();

        return $this->shaped($request, $found);
    }

    /** The note of one document, or a new place for it. */
    public function item(Request $request, int $list, string $document): JsonResponse
    {
        $input = $request->validate(['note' => 'sometimes|nullable|string|max:2000', 'before' => 'sometimes|nullable|string']);
        $found = $this->list($request, $list);
        $this->lists->guard(User::of($request), $found);
        // What is not in the list, what this person may not see and what there never was are one.
        $id = $this->seen($request, $found, [$document])[0] ?? abort(404);
        DB::transaction(function () use ($request, $input, $found, $id): void {
            if (array_key_exists('note', $input)) {
                DB::table('pull_list_items')
                    ->where('pull_list_id', $found->id)
                    ->where('document_id', $id)
                    ->update(['note' => $input['note'] ?? '']);
            }
            if (array_key_exists('before', $input)) {
                $order = array_values(array_diff($this->lists->ids($found), [$id]));
                $before = $input['before'] === null ? null : $this->seen($request, $found, [$input['before']])[0] ?? null;
                $at = $before === null ? false : array_search($before, $order, true);
                array_splice($order, $at === false ? count($order) : $at, 0, [$id]);
                foreach ($order as $position => $of) {
                    DB::table('pull_list_items')
                        ->where('pull_list_id', $found->id)
                        ->where('document_id', $of)
                        ->update(['position' => $position + 1]);
                }
            }
        });

        return $this->shaped($request, $found);
    }

    public function freeze(Request $request, int $list): JsonResponse
    {
        $on = $request->boolean('on');
        $found = $this->own($request, $list);
        $found->update(['frozen_at' => $on ? now() : null]);

        return $this->shaped($request, $found);
    }

    /** The search that the list goes on adding from. */
    public function follow(Request $request, int $list): JsonResponse
    {
        $found = $this->list($request, $list);
        $this->lists->guard(User::of($request), $found);
        $found->update(['search' => null]);

        return $this->shaped($request, $found);
    }

    public function hold(Request $request, int $list): JsonResponse
    {
        $reason = $request->validate(['reason' => 'nullable|string|max:500'])['reason'] ?? null;
        $found = $this->list($request, $list);
        if ($reason !== null && trim($reason) === '') {
            throw new Refused('Give a reason. It is shown to anyone the hold stops.');
        }
        $this->lists->hold(User::of($request), $found, $reason);

        return $this->shaped($request, $found->refresh());
    }

    /** What is missing, and what the list’s search would find today. */
    /** How many documents are in this list and another one, and in one of them only. */
    public function against(Request $request, int $list, int $other): JsonResponse
    {
        $user = User::of($request);
        $these = DocumentSet::of($this->lists->seen($user, $this->list($request, $list)));
        $those = DocumentSet::of($this->lists->seen($user, $this->list($request, $other)));
        $both = $these->countCommon($those);

        return new JsonResponse(['both' => $both, 'here' => $these->count() - $both, 'there' => $those->count() - $both]);
    }

    public function check(Request $request, int $list): JsonResponse
    {
        $found = $this->list($request, $list);
        $user = User::of($request);
        $compared = $this->lists->compared($user, $found);
        $titles = static fn (array $ids): array => Document::query()
            ->whereIntegerInRaw('id', array_slice($ids, 0, 200))
            ->get(['ref', 'title'])
            ->map(static fn (Document $d): array => ['ref' => $d->ref, 'title' => $d->title])
            ->all();

        return new JsonResponse([
            'missing' => $this->lists->missing($user, $found),
            'compared' => $compared === null
                    ? null
                    : [
                        'new' => count($compared['new']),
                        'gone' => count($compared['gone']),
                        'new_documents' => $titles($compared['new']),
                        'gone_documents' => $titles($compared['gone']),
                    ],
        ]);
    }

    private function list(Request $request, int $list): PullList
    {
        return $this->lists->of(User::of($request))->findOrFail($list);
    }

    /**
     * Which of some documents are in a list and seen by the person.
     *
     * @param  list<string>  $refs
     * @return list<int>
     */
    private function seen(Request $request, PullList $list, array $refs): array
    {
        $ids = Document::query()->whereIn('ref', $refs)->pluck('id')->all();

        return array_values(array_intersect(array_map(intval(...), $ids), $this->lists->seen(User::of($request), $list)));
    }

    private function own(Request $request, int $list): PullList
    {
        return PullList::query()->where('user_id', User::of($request)->id)->findOrFail($list);
    }

    private function shaped(Request $request, PullList $list, int $status = 200): JsonResponse
    {
        return new JsonResponse($this->resource->of($list, User::of($request)), $status);
    }
}
