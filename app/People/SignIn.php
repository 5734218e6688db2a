<?php

declare(strict_types=1);

namespace App\People;

use App\History\Act;
use App\History\History;
use App\Models\User;
use App\Support\DiskFull;
use App\Support\Refused;
use App\Support\Tries;
use Illuminate\Contracts\Cache\Repository;
use Illuminate\Http\Exceptions\ThrottleRequestsException;
use Illuminate\Http\Request;
use Illuminate\Support\Facades\Cookie;
use Illuminate\Support\Facades\Hash;
use Illuminate\Support\Facades\RateLimiter;
use Illuminate\Support\Str;

/**
 * Signing in. Only failures are counted, by name and network and by network alone. A browser in which somebody has signed in
 * before is known by a cookie and has a count of its own for that name, so that nobody can lock them out by guessing at their
 * name from the same network (device cookies, as the OWASP guide to slow online guessing describes them).
 */
final readonly class SignIn
{
    private const COOKIE = 'brenvic_known';

    private const DAYS = 365;

    /** Of everybody in the demo; it is good on the machine itself only. */
    public const OF_THE_DEMO = 'tarnwick';

    /** Failures for a name from a network, or from a known browser, in so many seconds. */
    private const TRIES = 10;

    /** Failures from a network whatever the name. */
    private const TRIES_OF_NETWORK = 100;

    private const SECONDS = 300;

    /** Who has shown their password and is asked for their second factor. */
    private const HALF = 'half_signed_in';

    /** @throws ThrottleRequestsException after too many failures */
    public function tried(Request $request, string $signIn, string $password, bool $stays): ?Admitted
    {
        // A name that nobody has takes as long as a wrong password.
        return $this->admitted(
            $request,
            $signIn,
            $stays,
            static fn (?User $user): bool => self::isPassword($user, $password),
            static function (User $user) use ($password): void {
                if ($password === self::OF_THE_DEMO && (string) config('brenvic.url') !== '') {
                    throw new Refused(
                        'The passwords of the demo are good on the machine itself only, and this office is open to others. '.
                            "Ask for a one-time code: php artisan brenvic:people code {$user->sign_in}",
                    );
                }
            },
        );
    }

    /**
     * Signing in with a one-time code.
     *
     * @param  callable(User): void  $shown  what is done when the code is right, before the code is good no more
     *
     * @throws ThrottleRequestsException after too many failures
     */
    public function byCode(Request $request, string $signIn, string $code, callable $shown): ?Admitted
    {
        return $this->admitted(
            $request,
            $signIn,
            false,
            static fn (?User $user): bool => $user === null ? Hash::check($code, self::noHash()) : People::isCode($user, $code),
            $shown,
        );
    }

    /**
     * @param  callable(User|null): bool  $isRight
     * @param  (callable(User): void)|null  $first
     */
    private function admitted(Request $request, string $signIn, bool $stays, callable $isRight, ?callable $first = null): ?Admitted
    {
        $keys = $this->keys($request, $signIn);
        foreach ($keys as $key => $most) {
            Tries::guard($key, $most);
        }
        $user = User::query()->where('sign_in', $signIn)->first();
        if (! $isRight($user) || $user === null || $user->out_of_use_at !== null) {
            foreach (array_keys($keys) as $key) {
                RateLimiter::hit($key, self::SECONDS);
            }
            // What was typed as a name that nobody has may be a password: it is not written down.
            DiskFull::orElseSkip(
                static fn () => History::record(Act::SignInFailed, $user, null, [
                    'from' => (string) $request->ip(),
                    ...$user === null ? ['name' => 'unknown'] : [],
                ]),
            );

            return null;
        }
        RateLimiter::clear((string) array_key_first($keys));
        $first === null || $first($user);
        if (SecondFactor::isOn($user)) {
            $request->session()->regenerate();
            $request->session()->put(self::HALF, [
                'id' => $user->id,
                'stays' => $stays,
                'until' => now()->addSeconds(self::SECONDS)->getTimestamp(),
            ]);

            return new Admitted(null, needsFactor: true);
        }

        return new Admitted($this->begun($request, $user, $stays));
    }

    /**
     * The second half of a sign-in.
     *
     * @return Admitted|null null where the code is wrong
     *
     * @throws ThrottleRequestsException after too many failures
     * @throws Refused where the first half is too long ago
     */
    public function byFactor(Request $request, string $code): ?Admitted
    {
        $half = $request->session()->get(self::HALF);
        $half = is_array($half) ? $half : ['id' => 0, 'until' => 0, 'stays' => false];
        $user = $half['until'] >= now()->getTimestamp() ? User::query()->find((int) $half['id']) : null;
        if ($user === null || $user->out_of_use_at !== null) {
            throw new Refused('That took too long. Sign in with your password again.');
        }
        $key = "factor/{$user->id}";
        Tries::guard($key, self::TRIES);
        if (! SecondFactor::takes($user, $code)) {
            RateLimiter::hit($key, self::SECONDS);
            DiskFull::orElseSkip(
                static fn () => History::record(Act::SignInFailed, $user, null, ['from' => (string) $request->ip(), 'at' => 'second factor']),
            );

            return null;
        }
        RateLimiter::clear($key);
        $request->session()->forget(self::HALF);

        return new Admitted($this->begun($request, $user, (bool) $half['stays']));
    }

    /** Somebody whom the proxy in front has signed in. */
    public function byProxy(Request $request, User $user): void
    {
        $this->begun($request, $user, false);
    }

    private function begun(Request $request, User $user, bool $stays): User
    {
        Sessions::begin($request, $user, $stays);
        DiskFull::orElseSkip(static function () use ($user, $request): void {
            $user->forceFill(['last_sign_in_at' => now()])->save();
            History::record(Act::SignedIn, $user, null, ['from' => (string) $request->ip()]);
        });
        Cookie::queue(
            self::COOKIE,
            implode(' ', array_slice(array_unique([self::mark($user->sign_in), ...self::marks($request)]), 0, 20)),
            self::DAYS * 24 * 60,
        );

        return $user;
    }

    /** Whether it is somebody's password, wherever that is known; of nobody it takes as long to say no. */
    public static function isPassword(?User $user, string $password): bool
    {
        return $user?->known_by === 'directory'
            ? Directory::knows($user->sign_in, $password)
            : Hash::check($password, $user?->getAuthPassword() ?? self::noHash());
    }

    /** @return array<string, int> what is counted, and how often it may fail */
    private function keys(Request $request, string $signIn): array
    {
        $name = Str::lower($signIn);
        $device = in_array(self::mark($signIn), self::marks($request), true)
            ? hash('sha256', is_string($mark = $request->cookie(self::COOKIE)) ? $mark : '')
            : null;

        return $device !== null
            ? ["sign-in/{$name}/{$device}" => self::TRIES]
            : ["sign-in/{$name}/{$request->ip()}" => self::TRIES, "sign-in/{$request->ip()}" => self::TRIES_OF_NETWORK];
    }

    /** @return list<string> of the people who signed in with this browser */
    private static function marks(Request $request): array
    {
        $cookie = $request->cookie(self::COOKIE);

        return is_string($cookie) ? explode(' ', $cookie) : [];
    }

    private static function mark(string $signIn): string
    {
        return substr(hash_hmac('sha256', Str::lower($signIn), (string) config('app.key')), 0, 32);
    }

    /** A hash as costly as those of people, which no password has. */
    private static function noHash(): string
    {
        return app(Repository::class)->rememberForever(
            'no-hash/'.config('hashing.bcrypt.rounds', 12),
            static fn (): string => Hash::make(Str::random(40)),
        );
    }
}
