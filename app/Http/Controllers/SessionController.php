<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Alarms\Alarms;
use App\Http\Requests\SignInRequest;
use App\Models\Right;
use App\Models\User;
use App\People\Admitted;
use App\People\OfficeRules;
use App\People\People;
use App\People\SecondFactor;
use App\People\Sessions;
use App\People\SignIn;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Http\Response;
use Illuminate\Support\Facades\Auth;
use Illuminate\Validation\ValidationException;

final class SessionController
{
    public function show(): JsonResponse
    {
        $user = Auth::user();

        return new JsonResponse(['user' => $user instanceof User ? self::person($user) : null]);
    }

    public function store(SignInRequest $request, SignIn $signIn): JsonResponse
    {
        $admitted = $signIn->tried($request, $request->validated('sign_in'), $request->validated('password'), $request->boolean('stay'));
        if ($admitted === null) {
            throw ValidationException::withMessages(['sign_in' => 'The sign-in name or the password is wrong. Try again.']);
        }

        return self::answer($admitted);
    }

    /** The second half of a sign-in: a code of the second factor. */
    public function factor(Request $request, SignIn $signIn): JsonResponse
    {
        $code = (string) $request->validate(['code' => 'required|string|max:40'], ['code.required' => 'Type a code.'])['code'];
        $admitted = $signIn->byFactor($request, $code);
        if ($admitted === null) {
            throw ValidationException::withMessages(['code' => 'This code is wrong, or was used already. Wait for the next one.']);
        }

        return self::answer($admitted);
    }

    /** Whoever forgot their password is mailed a one-time code. The answer does not tell whether there is somebody, or their address. */
    public function forgotten(Request $request, People $people): Response
    {
        $named = (string) $request->validate(['sign_in' => 'required|string|max:200'], ['sign_in.required' => 'Type your sign-in name.'])['sign_in'];
        $user = User::query()->where('sign_in', $named)->whereNull('out_of_use_at')->whereNotNull('mail')->where('known_by', 'brenvic')->first();
        // Made after the answer has gone, so that its time tells nothing either.
        $user === null || defer(static fn () => $people->code(null, $user));

        return new Response(status: 204);
    }

    public function destroy(Request $request): Response
    {
        Sessions::end($request);

        return new Response(status: 204);
    }

    public static function answer(Admitted $admitted): JsonResponse
    {
        return new JsonResponse([
            'user' => $admitted->user === null ? null : self::person($admitted->user),
            ...$admitted->needsFactor ? ['needs_factor' => true] : [],
        ]);
    }

    /** @return array<string, mixed> */
    public static function person(User $user): array
    {
        return [
            'name' => $user->name,
            'sign_in' => $user->sign_in,
            'mail' => $user->mail,
            'role' => $user->role->name,
            'groups' => $user->groupNames(),
            'preferences' => (object) ($user->preferences ?? []),
            'limits' => ['file_bytes' => (int) config('brenvic.limits.file_bytes')],
            'factor' => [
                'is_on' => SecondFactor::isOn($user),
                'is_wanted' => OfficeRules::now()->secondFactor,
                'recovery_codes' => SecondFactor::left($user),
            ],
            'alarms' => $user->may(Right::Administer) ? Alarms::count() : 0,
            'known_by' => $user->known_by,
            'may' => array_combine(array_column(Right::cases(), 'value'), array_map($user->may(...), Right::cases())),
        ];
    }
}
