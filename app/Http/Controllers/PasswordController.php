<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Models\User;
use App\People\People;
use App\People\SecondFactor;
use App\People\Sessions;
use App\People\SignIn;
use App\Support\Refused;
use Brenvic\Core\SignIn\PasswordRules;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Http\Response;
use Illuminate\Support\Facades\Auth;
use Illuminate\Validation\ValidationException;

/** One’s own password: chosen with a one-time code, or changed with the one before. */
final readonly class PasswordController
{
    private const RULES = ['password' => 'required|string|max:200'];

    private const MESSAGES = ['password.required' => 'Choose a password.'];

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
        self::guard(User::query()->where('sign_in', $input['sign_in'])->first(), $input['sign_in'], $input['password']);
        $admitted = $signIn->byCode(
            $request,
            $input['sign_in'],
            $input['code'],
            fn (User $person) => $this->people->setPassword($person, $input['password']),
        );
        if ($admitted === null) {
            throw ValidationException::withMessages([
                'code' => 'The sign-in name or the code is wrong, or the code is too old. Ask for a new one.',
            ]);
        }

        return SessionController::answer($admitted);
    }

    public function change(Request $request): Response
    {
        $input = $request->validate(
            ['current' => 'required|string|max:200', ...self::RULES],
            ['current.required' => 'Type the password you have now.', ...self::MESSAGES],
        );
        $user = User::of($request);
        if ($user->known_by !== 'brenvic') {
            throw new Refused('Your password is in the directory of the office, and is changed there.');
        }
        if (! SignIn::isPassword($user, $input['current'])) {
            throw ValidationException::withMessages(['current' => 'This is not the password you have now.']);
        }
        self::guard($user, $user->sign_in, $input['password']);
        $this->people->setPassword($user, $input['password']);
        // This session goes on; those elsewhere end.
        Sessions::begin($request, $user->refresh(), Sessions::days($request->session()) > 0);

        return new Response(status: 204);
    }

    /**
     * What may be chosen does not depend on whether there is somebody of this name.
     *
     * @throws ValidationException
     */
    private static function guard(?User $user, string $signIn, string $password): void
    {
        $rules = new PasswordRules((string) file_get_contents(resource_path('known-passwords.txt')));
        $about = [$signIn, (string) config('app.name'), ...preg_split('/\W+/u', (string) config('brenvic.organisation')) ?: []];
        $isAlone = $user === null || ! Auth::check() || ! SecondFactor::isOn($user);
        $fault = $rules->fault($password, $isAlone, $about);
        if ($fault !== null) {
            throw ValidationException::withMessages(['password' => $fault]);
        }
    }
}
