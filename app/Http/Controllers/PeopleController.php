<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Access\Rights;
use App\Design\Draft;
use App\Find\Finder;
use App\Models\Group;
use App\Models\User;
use App\Support\Refused;
use Brenvic\Core\Design\Design;
use Brenvic\Core\Design\DesignKind;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Support\Facades\DB;
use Illuminate\Validation\Rule;

/** People and groups, and what somebody would see. Who is in which group is at once in force; it is no part of the draft. */
final class PeopleController
{
    public function index(): JsonResponse
    {
        return $this->all();
    }

    public function group(Request $request): JsonResponse
    {
        $name = (string) $request->validate(['name' => ['required', 'string', 'max:100', Rule::unique('groups', 'name')]], ['name.unique' => 'There is a group of this name.'])['name'];
        Group::query()->create(['name' => $name]);

        return $this->all();
    }

    public function removeGroup(Draft $draft, Group $group): JsonResponse
    {
        foreach ([[$draft->published(), 'design'], [$draft->design(), 'draft']] as [$design, $where]) {
            foreach (DesignKind::cases() as $kind) {
                foreach ($design->all($kind) as $code => $content) {
                    if (in_array($group->name, [...Design::codes($content, 'groups'), ...Design::codes($content, 'groups', 'group'), ...Design::codes($content, 'filers')], true)) {
                        throw new Refused("The {$kind->one()} “".Design::nameOf($kind, (string) $code, $content)."” in the {$where} names this group.");
                    }
                }
            }
        }
        $group->delete();

        return $this->all();
    }

    /** Puts a person into just these groups. */
    public function update(Request $request, User $person): JsonResponse
    {
        $groups = $request->validate(['groups' => 'present|array|max:200', 'groups.*' => 'string|exists:groups,name'])['groups'];
        DB::transaction(fn () => $person->groups()->sync(Group::query()->whereIn('name', $groups)->pluck('id')));

        return $this->all();
    }

    /** What a person would see: of the libraries and views, with counts of what the asking person may see too. */
    public function sight(Request $request, Finder $finder, Rights $rights, User $person): JsonResponse
    {
        $mine = $rights->sight($request->user());
        $theirs = $rights->sight($person);

        return new JsonResponse([
            'person' => ['sign_in' => $person->sign_in, 'name' => $person->name],
            'sees' => $theirs->and($mine)->count(), 'hidden' => $mine->minus($theirs)->count(), 'of' => $mine->count(),
            ...$finder->places($request->user(), $person),
        ]);
    }

    private function all(): JsonResponse
    {
        return new JsonResponse([
            'groups' => Group::query()->withCount('users')->orderBy('name')->get()->map(static fn (Group $g): array => ['id' => $g->id, 'name' => $g->name, 'people' => (int) $g->getAttribute('users_count')])->all(),
            'people' => User::query()->with('groups')->orderBy('name')->get()->map(static fn (User $u): array => ['id' => $u->id, 'name' => $u->name, 'sign_in' => $u->sign_in, 'role' => $u->role->value, 'groups' => $u->groups->pluck('name')->sort()->values()->all()])->all(),
        ]);
    }
}
