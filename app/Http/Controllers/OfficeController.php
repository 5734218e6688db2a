<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Http\Requests\PersonInput;
use App\Models\Group;
use App\Models\Role;
use App\Models\User;
use App\People\People;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;

/** The administrator’s place: people, what they may do, and who comes and goes. */
final readonly class OfficeController
{
    public function __construct(private People $people)
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
                            'role' => $person->role->value,
                            'groups' => $person->groups->pluck('name')->sort()->values()->all(),
                            'out_of_use_at' => $person->out_of_use_at?->toIso8601String(),
                            'last_sign_in_at' => $person->last_sign_in_at?->toIso8601String(),
                            'has_code' => $person->code_hash !== null && $person->code_expires_at?->isFuture() === true,
                            'in_hand' => $person->out_of_use_at === null ? $this->people->inHand($person) : null,
                        ],
                    )
                    ->all(),
                'groups' => Group::query()->orderBy('name')->pluck('name')->all(),
                'roles' => array_map(static fn (Role $role): array => ['value' => $role->value, 'label' => $role->label()], Role::cases()),
                ...$more,
            ],
            $status,
        );
    }
}
