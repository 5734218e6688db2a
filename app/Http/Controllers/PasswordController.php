<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Models\User;
use App\People\People;
use App\People\SignIn;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Http\Response;
use Illuminate\Support\Facades\Auth;
use Illuminate\Support\Facades\Hash;
use Illuminate\Validation\ValidationException;

/** One’s own password: chosen with a one-time code, or changed with the one before. */
final readonly class PasswordController
{
    private const RULES = ['password' => 'required|string|min:10|max:200'];

    private const MESSAGES = ['password.required' => 'Choose a password.', 'password.min' => 'A password has at least ten characters.'];

    public function __construct(private People $people)
    {
    }

    /** Chooses a password by a one-time code, and signs in. */
    public function choose(Request $request, SignIn $signIn): JsonResponse
    {
        $input = $request->validate(
            ['sign_in' => 'required|string|max:200', 'code' => 'required|string|max:100', ...self::RULES],
            self::MESSAGES,
        );
        $this->guard($input['sign_in'], $input['password']);
        $user = $signIn->byCode(
            $request,
            $input['sign_in'],
            $input['code'],
            fn (User $person) => $this->people->setPassword($person, $input['password']),
        );
        if ($user === null) {
            throw ValidationException::withMessages([
                'code' => 'The sign-in name or the code is wrong, or the code is too old. Ask for a new one.',
            ]);
        }

        return new JsonResponse(['user' => SessionController::person($user)]);
    }

    public function change(Request $request): Response
    {
        $input = $request->validate(
            ['current' => 'required|string|max:200', ...self::RULES],
            ['current.required' => 'Type the password you have now.', ...self::MESSAGES],
        );
        $user = User::of($request);
        if (! Hash::check($input['current'], $user->getAuthPassword())) {
            throw ValidationException::withMessages(['current' => 'This is not the password you have now.']);
        }
        $this->guard($user->sign_in, $input['password']);
        $this->people->setPassword($user, $input['password']);
        // This session goes on; those elsewhere end.
        Auth::login($user->refresh());
        $request->session()->regenerate();

        return new Response(status: 204);
    }

    private function guard(string $signIn, string $password): void
    {
        if (mb_strtolower($password) === mb_strtolower($signIn) || preg_match('/^(.)\1*$/us', $password) === 1) {
            throw ValidationException::withMessages(['password' => 'This password would be guessed at once. Choose another.']);
        }
    }
}
