<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Access\Rights;
use App\Design\Draft;
use App\Find\Places;
use App\History\Act;
use App\History\History;
use App\Models\Group;
use App\Models\User;
use App\People\Groups;
use App\Support\NotYours;
use App\Support\Refused;
use Brenvic\Core\Design\DesignKind;
use Brenvic\Core\Design\DesignRight;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Support\Facades\DB;
use Illuminate\Validation\Rule;

/** People and groups, and what somebody would see. Who is in which group is at once in force; it is no part of the draft. */
final readonly class PeopleController
{
    public function __construct(private Draft $draft)
    {
    }

    /** Whoever changes groups could give themselves what is kept from them: it is for those from whom nothing is. */
    private function guard(Request $request): void
    {
        $kept = (new DesignRight($this->draft->published(), User::of($request)->groupNames()))->kept();
        if ($kept !== []) {
            throw new NotYours('People and groups are for those who design everything; '.implode(', ', $kept).' is kept to others.');
        }
    }

    public function index(): JsonResponse
    {
        return $this->all();
    }

    public function group(Request $request): JsonResponse
    {
        $this->guard($request);
        $name = (string) $request->validate(
            ['name' => ['required', 'string', 'max:100', Rule::unique('groups', 'name')]],
            ['name.unique' => 'There is a group of this name.'],
        )['name'];
        DB::transaction(static function () use ($request, $name): void {
            Group::query()->create(['name' => $name]);
            History::record(Act::GroupAdded, User::of($request), null, ['group' => $name]);
        });

        return $this->all();
    }

    public function removeGroup(Request $request, Group $group): JsonResponse
    {
        $this->guard($request);
        foreach ([[$this->draft->published(), 'design'], [$this->draft->design(), 'draft']] as [$design, $where]) {
            foreach (DesignKind::cases() as $kind) {
                foreach ($design->parts($kind->part()) as $part) {
                    if (in_array($group->name, $part->groups(), true)) {
                        throw new Refused(
                            "The {$kind->one()} “{$part->calledBy()}” in the {$where} still uses this group. Remove it there first.",
                        );
                    }
                }
            }
        }
        DB::transaction(static function () use ($request, $group): void {
            $group->delete();
            Groups::gather();
            History::record(Act::GroupRemoved, User::of($request), null, ['group' => $group->name]);
        });

        return $this->all();
    }

    /** Puts a person into just these groups. */
    public function update(Request $request, User $person): JsonResponse
    {
        $this->guard($request);
        $groups = $request->validate(['groups' => 'present|array|max:200', 'groups.*' => 'string|exists:groups,name'])['groups'];
        DB::transaction(function () use ($request, $person, $groups): void {
            $was = $person->groups()->orderBy('name')->pluck('name')->all();
            Groups::put($person, array_values($groups));
            $is = $person->groups()->orderBy('name')->pluck('name')->all();
            $was === $is ||
                History::record(Act::PersonChanged, User::of($request), null, [
                    'person' => $person->sign_in,
                    'groups' => ['was' => $was, 'is' => $is],
                ]);
            $this->draft->guardDesigners();
        });

        return $this->all();
    }

    /** What a person would see: of the libraries and views, with counts of what the asking person may see too. */
    public function sight(Request $request, Places $places, Rights $rights, User $person): JsonResponse
    {
        $mine = $rights->sight(User::of($request));
        $theirs = $rights->sight($person);

        return new JsonResponse([
            'person' => ['sign_in' => $person->sign_in, 'name' => $person->name],
            'sees' => $theirs->and($mine)->count(),
            'hidden' => $mine->minus($theirs)->count(),
            'of' => $mine->count(),
            ...$places->of($person, User::of($request)),
        ]);
    }

    private function all(): JsonResponse
    {
        return new JsonResponse([
            'groups' => Group::query()
                ->withCount('users')
                ->orderBy('name')
                ->get()
                ->map(static fn (Group $g): array => ['id' => $g->id, 'name' => $g->name, 'people' => (int) $g->getAttribute('users_count')])
                ->all(),
            'people' => User::query()
                ->whereNull('out_of_use_at')
                ->with('groups')
                ->orderBy('name')
                ->get()
                ->map(
                    static fn (User $u): array => [
                        'id' => $u->id,
                        'name' => $u->name,
                        'sign_in' => $u->sign_in,
                        'role' => $u->role->name,
                        'groups' => $u->groups->pluck('name')->sort()->values()->all(),
                    ],
                )
                ->all(),
        ]);
    }
}
