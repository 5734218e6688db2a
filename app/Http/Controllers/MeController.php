<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\History\Act;
use App\History\History;
use App\Models\Library;
use App\Models\Right;
use App\Models\User;
use App\People\OfficeRules;
use App\People\SecondFactor;
use App\People\Sessions;
use App\People\SignIn;
use App\People\Tokens;
use App\Support\Refused;
use Brenvic\Core\SignIn\OneTimePassword;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Support\Facades\DB;
use Illuminate\Validation\Rule;
use Illuminate\Validation\ValidationException;
use TCPDF2DBarcode;

/** Who somebody is here, what they are signed in with, and their second factor. */
final readonly class MeController
{
    private const SECRET = 'factor_secret';

    public function update(Request $request): JsonResponse
    {
        $user = User::of($request);
        $given = $request->validate(
            ['name' => 'required|string|max:200', 'mail' => 'nullable|email|max:200', 'current' => 'nullable|string|max:200'],
            ['name.required' => 'Give a name.', 'mail.email' => 'This is not an e-mail address.'],
        );
        $mail = $given['mail'] ?? null;
        // Codes for a new password are mailed there.
        $mail === $user->mail || self::guardPassword($user, (string) ($given['current'] ?? ''));
        $was = ['name' => $user->name, 'mail' => $user->mail];
        $is = ['name' => $given['name'], 'mail' => $mail];
        DB::transaction(static function () use ($user, $was, $is): void {
            $user->update($is);
            $changes = [];
            foreach ($is as $what => $value) {
                $was[$what] === $value || ($changes[$what] = ['was' => $was[$what], 'is' => $value]);
            }
            $changes === [] || History::record(Act::PersonChanged, $user, null, ['person' => $user->sign_in, ...$changes]);
        });

        return new JsonResponse(['user' => SessionController::person($user)]);
    }

    public function sessions(Request $request): JsonResponse
    {
        return new JsonResponse(['sessions' => Sessions::of(User::of($request), $request)]);
    }

    public function endSession(Request $request, int $session): JsonResponse
    {
        abort_unless(Sessions::endOne(User::of($request), $session), 404);

        return $this->sessions($request);
    }

    /** All but the one that asks. */
    public function endSessions(Request $request): JsonResponse
    {
        $user = User::of($request);
        $ended = Sessions::endAll($user, $request);
        $ended > 0 && History::record(Act::SessionsEnded, $user, null, ['person' => $user->sign_in, 'count' => $ended]);

        return $this->sessions($request);
    }

    public function tokens(Request $request): JsonResponse
    {
        return $this->allTokens(User::of($request));
    }

    /** A token for a program, with some of one's rights; it is in this answer only. */
    public function makeToken(Request $request): JsonResponse
    {
        $user = User::of($request);
        $given = $request->validate(
            [
                'name' => 'required|string|max:100',
                'rights' => 'required|array|min:1|max:40',
                'rights.*' => Rule::enum(Right::class),
                'days' => 'required|integer|min:1|max:730',
                'libraries' => 'nullable|array|min:1|max:200',
                'libraries.*' => 'string|max:40',
            ],
            ['name.required' => 'Say what the token is for.', 'rights.required' => 'Choose what it may do.'],
        );
        $rights = array_values(array_filter(array_map(Right::from(...), $given['rights']), $user->may(...)));
        if (count($rights) !== count($given['rights'])) {
            throw new Refused('A token may do no more than you may.');
        }

        $libraries = $given['libraries'] ?? null;
        if ($libraries !== null && array_diff($libraries, array_column(Library::told($user), 'code')) !== []) {
            throw new Refused('A token may enter no library that you may not.');
        }
        $token = Tokens::make(
            $user,
            trim($given['name']),
            $rights,
            (int) $given['days'],
            $libraries === null ? null : array_values($libraries),
        );

        return $this->allTokens($user, ['token' => $token], 201);
    }

    public function revokeToken(Request $request, int $apiToken): JsonResponse
    {
        abort_unless(Tokens::revoke(User::of($request), $apiToken, User::of($request)), 404);

        return $this->tokens($request);
    }

    /** @param  array<string, string>  $more */
    private function allTokens(User $user, array $more = [], int $status = 200): JsonResponse
    {
        $own = array_values(array_filter(Right::cases(), $user->may(...)));

        return new JsonResponse(
            [
                'tokens' => Tokens::of($user),
                'rights' => Right::told($own),
                'libraries' => Library::told($user),
                ...$more,
            ],
            $status,
        );
    }

    /** A secret for the program on the telephone; nothing is turned on yet. */
    public function beginFactor(Request $request): JsonResponse
    {
        $user = User::of($request);
        if (SecondFactor::isOn($user)) {
            throw new Refused('The second factor is on already.');
        }
        $secret = OneTimePassword::secret();
        $request->session()->put(self::SECRET, $secret);
        $address = OneTimePassword::address($secret, 'Brenvic', $user->sign_in);

        return new JsonResponse([
            'secret' => $secret,
            'address' => $address,
            'qr' => (new TCPDF2DBarcode($address, 'QRCODE,M'))->getBarcodeSVGcode(5, 5, 'black'),
        ]);
    }

    /** Turns it on, by the password and a code that the program shows. */
    public function turnOnFactor(Request $request): JsonResponse
    {
        $user = User::of($request);
        $given = $request->validate(
            ['code' => 'required|string|max:40', 'current' => 'required|string|max:200'],
            ['code.required' => 'Type the code that the program shows.', 'current.required' => 'Type the password you have now.'],
        );
        $secret = $request->session()->get(self::SECRET);
        if (! is_string($secret) || SecondFactor::isOn($user)) {
            throw new Refused('Begin again.');
        }
        self::guardPassword($user, $given['current']);
        $step = OneTimePassword::step($secret, $given['code'], now()->getTimestamp());
        if ($step === null) {
            throw ValidationException::withMessages([
                'code' => 'This is not the code that the program shows now. Is the clock of the telephone right?',
            ]);
        }
        $codes = SecondFactor::turnOn($user, $secret, $step);
        $request->session()->forget(self::SECRET);

        return new JsonResponse(['recovery_codes' => $codes, 'user' => SessionController::person($user)]);
    }

    public function turnOffFactor(Request $request): JsonResponse
    {
        $user = User::of($request);
        $given = $request->validate(['current' => 'required|string|max:200'], ['current.required' => 'Type the password you have now.']);
        self::guardPassword($user, $given['current']);
        if (OfficeRules::now()->secondFactor) {
            throw new Refused('The office wants a second factor of everybody.');
        }
        SecondFactor::turnOff($user, $user);

        return new JsonResponse(['user' => SessionController::person($user)]);
    }

    /** @throws ValidationException */
    private static function guardPassword(User $user, string $password): void
    {
        if (! SignIn::isPassword($user, $password)) {
            throw ValidationException::withMessages(['current' => 'This is not the password you have now.']);
        }
    }
}
