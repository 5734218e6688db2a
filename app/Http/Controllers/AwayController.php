<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\History\Act;
use App\History\History;
use App\Models\User;
use App\Procedures\Away;
use App\Procedures\OfficeCalendar;
use App\Support\Refused;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Support\Facades\DB;

/** Who stands in for whom, whose manager somebody is, and on which days the office works. */
final readonly class AwayController
{
    private const DAYS = [
        'stand_in' => 'nullable|string|max:100',
        'away_from' => 'nullable|date_format:Y-m-d',
        'away_until' => 'nullable|date_format:Y-m-d',
    ];

    public function show(Request $request): JsonResponse
    {
        return self::answer(User::of($request));
    }

    public function update(Request $request): JsonResponse
    {
        $user = User::of($request);
        self::set($user, $user, $request->validate(self::DAYS));

        return self::answer($user);
    }

    public function of(User $person): JsonResponse
    {
        return self::answer($person);
    }

    /** What an administrator says of somebody: their manager, and who stands in for them. */
    public function person(Request $request, User $person): JsonResponse
    {
        $given = $request->validate([...self::DAYS, 'manager' => 'nullable|string|max:100']);
        DB::transaction(static function () use ($request, $person, $given): void {
            $manager = self::named($given['manager'] ?? null);
            if ($manager?->id === $person->id) {
                throw new Refused('Nobody is their own manager.');
            }
            if ($manager?->id !== $person->manager_id) {
                $person->forceFill(['manager_id' => $manager?->id])->save();
                History::record(Act::PersonChanged, User::of($request), null, ['person' => $person->sign_in, 'manager' => $manager?->sign_in]);
            }
            self::set(User::of($request), $person, $given);
        });

        return self::answer($person);
    }

    public function calendar(): JsonResponse
    {
        return new JsonResponse(OfficeCalendar::read());
    }

    public function setCalendar(Request $request): JsonResponse
    {
        $given = $request->validate(
            [
                'days' => 'required|array|min:1|max:7',
                'days.*' => 'integer|between:1,7',
                'holidays' => 'present|array|max:500',
                'holidays.*' => 'date_format:Y-m-d',
            ],
            ['days.required' => 'Choose at least one day.', 'holidays.*.date_format' => 'Write each day like 2026-12-25.'],
        );
        OfficeCalendar::write(array_map(intval(...), array_values($given['days'])), array_map(strval(...), array_values($given['holidays'])));

        return $this->calendar();
    }

    /** @param  array<string, mixed>  $given */
    private static function set(User $by, User $person, array $given): void
    {
        DB::transaction(static function () use ($by, $person, $given): void {
            $before = [$person->stand_in_id, $person->away_from, $person->away_until];
            Away::set($person, self::named($given['stand_in'] ?? null), $given['away_from'] ?? null, $given['away_until'] ?? null);
            if ($before !== [$person->stand_in_id, $person->away_from, $person->away_until]) {
                History::record(Act::PersonChanged, $by, null, [
                    'person' => $person->sign_in,
                    'stand_in' => $given['stand_in'] ?? null,
                    'away_from' => $person->away_from,
                    'away_until' => $person->away_until,
                ]);
            }
        });
    }

    private static function named(mixed $signIn): ?User
    {
        if (! is_string($signIn) || $signIn === '') {
            return null;
        }

        return User::query()->whereNull('out_of_use_at')->where('sign_in', $signIn)->first()
            ?? throw new Refused("There is nobody with the sign-in name “{$signIn}”.");
    }

    private static function answer(User $user): JsonResponse
    {
        $signIn = static fn (?int $id): ?string => $id === null ? null : User::query()->find($id)?->sign_in;

        return new JsonResponse([
            'manager' => $signIn($user->manager_id),
            'stand_in' => $signIn($user->stand_in_id),
            'away_from' => $user->away_from === null ? null : substr($user->away_from, 0, 10),
            'away_until' => $user->away_until === null ? null : substr($user->away_until, 0, 10),
            // A stand-in sees no more than they may; anybody in use may be one.
            'people' => User::query()
                ->whereNull('out_of_use_at')
                ->where('id', '!=', $user->id)
                ->orderBy('name')
                ->get()
                ->map(static fn (User $person): array => ['sign_in' => $person->sign_in, 'name' => $person->name])
                ->all(),
        ]);
    }
}
