<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\History\Act;
use App\History\History;
use App\Http\Requests\PersonInput;
use App\Models\Group;
use App\Models\Right;
use App\Models\Role;
use App\Models\Roles;
use App\Models\User;
use App\People\Directory;
use App\People\Groups;
use App\People\OfficeRules;
use App\People\People;
use App\People\PeopleTable;
use App\People\RoleChanges;
use App\People\SecondFactor;
use App\People\Sessions;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Http\Response;
use Illuminate\Support\Facades\DB;
use Illuminate\Validation\Rule;

/** The administrator’s place: people, what they may do, and who comes and goes. */
final readonly class OfficeController
{
    public function __construct(private People $people, private Roles $roles, private RoleChanges $changes)
    {
    }

    public function index(): JsonResponse
    {
        return $this->all();
    }

    public function store(PersonInput $request): JsonResponse
    {
        [$person, $code] = $this->people->add(User::of($request), $request->validated('sign_in'), $request->given());

        return $this->all(self::told($person, $code), 201);
    }

    public function update(PersonInput $request, User $person): JsonResponse
    {
        $this->people->change(User::of($request), $person, $request->given());

        return $this->all();
    }

    public function code(Request $request, User $person): JsonResponse
    {
        return $this->all(self::told($person, $this->people->code(User::of($request), $person)));
    }

    public function putOut(Request $request, User $person): JsonResponse
    {
        $heir = $request->validate(['to' => 'nullable|integer|exists:users,id'])['to'] ?? null;
        $this->people->putOut(User::of($request), $person, $heir === null ? null : User::query()->findOrFail((int) $heir));

        return $this->all();
    }

    public function bringBack(Request $request, User $person): JsonResponse
    {
        $this->people->bringBack(User::of($request), $person);

        return $this->all();
    }

    /** Ends every session of somebody, as when a computer was lost. */
    public function endSessions(Request $request, User $person): JsonResponse
    {
        $ended = Sessions::endAll($person);
        History::record(Act::SessionsEnded, User::of($request), null, ['person' => $person->sign_in, 'count' => $ended]);

        return $this->all();
    }

    /** Turns the second factor of somebody off who has lost it, after they have shown in another way who they are. */
    public function turnOffFactor(Request $request, User $person): JsonResponse
    {
        SecondFactor::turnOff(User::of($request), $person);
        Sessions::endAll($person);

        return $this->all();
    }

    public function rules(Request $request): JsonResponse
    {
        $given = $request->validate([
            'idle_minutes' => 'required|integer|min:5|max:1440',
            'hours' => 'required|integer|min:1|max:720',
            'stay_days' => 'required|integer|min:0|max:365',
            'second_factor' => 'required|boolean',
        ]);
        (new OfficeRules((int) $given['idle_minutes'], (int) $given['hours'], (int) $given['stay_days'], (bool) $given['second_factor']))
            ->keep(User::of($request));

        return $this->all();
    }

    public function addRole(Request $request): JsonResponse
    {
        [$name, $rights] = self::role($request);
        $this->changes->add(User::of($request), $name, $rights);

        return $this->all(status: 201);
    }

    public function changeRole(Request $request, string $role): JsonResponse
    {
        [$name, $rights] = self::role($request);
        $this->changes->change(User::of($request), $role, $name, $rights);

        return $this->all();
    }

    public function removeRole(Request $request, string $role): JsonResponse
    {
        $this->changes->remove(User::of($request), $role);

        return $this->all();
    }

    public function groups(Request $request, Group $group): JsonResponse
    {
        $names = $request->validate(['groups' => 'present|array|max:200', 'groups.*' => 'string|exists:groups,name'])['groups'];
        Groups::putGroups(User::of($request), $group, array_values($names));

        return $this->all();
    }

    public function table(PeopleTable $table): Response
    {
        return new Response($table->csv(), 200, [
            'Content-Type' => 'text/csv; charset=utf-8',
            'Content-Disposition' => 'attachment; filename="people.csv"',
            'Cache-Control' => 'private, no-store',
        ]);
    }

    /** What a table would do; with `take` it is done, as a whole or not at all. */
    public function take(Request $request, PeopleTable $table): JsonResponse
    {
        $given = $request->validate(
            ['file' => 'required|file|max:2048', 'take' => 'boolean'],
            ['file.max' => 'The table is larger than 2 MB.'],
        );
        $report = $table->taken(User::of($request), (string) $given['file']->get(), $request->boolean('take'));

        return $this->all(['table' => $report]);
    }

    /** @return array{string, list<Right>} */
    private static function role(Request $request): array
    {
        $given = $request->validate(
            ['name' => 'required|string|max:60', 'rights' => 'present|array|max:40', 'rights.*' => Rule::enum(Right::class)],
            ['name.required' => 'Give the role a name.'],
        );

        return [trim((string) $given['name']), array_map(Right::from(...), array_values($given['rights']))];
    }

    /** @return array<string, mixed> the code, which is in this answer, and in the mail of whoever has an address */
    private static function told(User $person, string $code): array
    {
        return [
            'code' => [
                'name' => $person->name,
                'sign_in' => $person->sign_in,
                'code' => $code,
                'address' => People::address($person),
                'mailed_to' => $person->mail,
            ],
        ];
    }

    /** @param  array<string, mixed>  $more */
    private function all(array $more = [], int $status = 200): JsonResponse
    {
        $sessions = DB::table('sessions')->groupBy('user_id')->selectRaw('user_id, count(*) AS n')->pluck('n', 'user_id');

        return new JsonResponse(
            [
                'people' => User::query()
                    ->with('groups')
                    ->orderByRaw('out_of_use_at IS NOT NULL')
                    ->orderBy('name')
                    ->get()
                    ->map(
                        fn (User $person): array => [
                            'id' => $person->id,
                            'name' => $person->name,
                            'sign_in' => $person->sign_in,
                            'mail' => $person->mail,
                            'role' => $person->role->code,
                            'groups' => $person->groups->pluck('name')->sort()->values()->all(),
                            'out_of_use_at' => $person->out_of_use_at?->toIso8601String(),
                            'last_sign_in_at' => $person->last_sign_in_at?->toIso8601String(),
                            'known_by' => $person->known_by,
                            'has_factor' => SecondFactor::isOn($person),
                            'sessions' => (int) ($sessions[$person->id] ?? 0),
                            'has_code' => $person->code_hash !== null && $person->code_expires_at?->isFuture() === true,
                            'in_hand' => $person->out_of_use_at === null ? $this->people->inHand($person) : null,
                        ],
                    )
                    ->all(),
                'groups' => Group::query()->orderBy('name')->pluck('name')->all(),
                'nested' => Group::query()
                    ->with('members')
                    ->orderBy('name')
                    ->get()
                    ->map(static fn (Group $group): array => [
                        'id' => $group->id,
                        'name' => $group->name,
                        'groups' => $group->members->pluck('name')->sort()->values()->all(),
                    ])
                    ->all(),
                'roles' => array_map(static fn (Role $role): array => $role->toArray(), array_values($this->roles->all())),
                'rights' => array_map(
                    static fn (Right $right): array => ['value' => $right->value, 'label' => $right->label(), 'says' => $right->says()],
                    Right::cases(),
                ),
                'rules' => OfficeRules::now()->toArray(),
                'directory' => Directory::isSet(),
                ...$more,
            ],
            $status,
        );
    }
}
