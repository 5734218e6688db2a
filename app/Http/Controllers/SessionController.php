<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Http\Requests\SignInRequest;
use App\Models\User;
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
        $user = $signIn->tried($request, $request->validated('sign_in'), $request->validated('password'), $request->boolean('stay'));
        if ($user === null) {
            throw ValidationException::withMessages(['sign_in' => 'The sign-in name or the password is wrong. Try again.']);
        }

        return new JsonResponse(['user' => self::person($user)]);
    }

    public function destroy(Request $request): Response
    {
        Auth::logout();
        $request->session()->invalidate();
        $request->session()->regenerateToken();

        return new Response(status: 204);
    }

    /** @return array<string, mixed> */
    public static function person(User $user): array
    {
        return [
            'name' => $user->name,
            'sign_in' => $user->sign_in,
            'role' => $user->role->value,
            'groups' => $user->groupNames(),
            'preferences' => (object) ($user->preferences ?? []),
            'limits' => ['file_bytes' => (int) config('brenvic.limits.file_bytes')],
            'may' => [
                'administer' => $user->role->mayAdminister(),
                'design' => $user->role->mayDesign(),
                'file' => $user->role->mayFile(),
                'hold' => $user->role->mayHold(),
                'remove' => $user->role->mayRemove(),
                'destroy' => $user->role->mayDestroy(),
                'redact' => $user->role->mayRedact(),
            ],
        ];
    }
}
