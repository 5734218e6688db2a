<?php

declare(strict_types=1);

namespace App\Http;

use App\Models\User;
use App\People\OfficeRules;
use App\People\SecondFactor;
use App\People\Sessions;
use App\People\SignIn;
use App\Support\NotYours;
use Closure;
use Illuminate\Auth\AuthenticationException;
use Illuminate\Http\Request;
use Symfony\Component\HttpFoundation\IpUtils;
use Symfony\Component\HttpFoundation\Response;

/** Ends sessions of people who were put out of use, and those that are over; what needs somebody signed in then asks them to sign in. */
final readonly class InUse
{
    public function __construct(private SignIn $signIn)
    {
    }

    public function handle(Request $request, Closure $next): Response
    {
        if (ByToken::isUsed($request)) {
            return $next($request);
        }
        $user = $request->user();
        if (! $user instanceof User) {
            $user = $this->byProxy($request);
        }
        $rules = $user instanceof User ? OfficeRules::now() : null;
        if ($rules !== null && ($user->out_of_use_at !== null || ! Sessions::goesOn($request, $user, $rules))) {
            Sessions::end($request);
            if ($request->is('api/*') && ! $request->is('api/session', 'api/session/*')) {
                throw new AuthenticationException;
            }

            return $next($request);
        }
        if ($rules !== null && $request->is('api/*') && ! $request->is('api/session', 'api/me/factor', 'api/design', 'api/me/password')) {
            self::guardFactor($user, $rules);
        }

        return $next($request);
    }

    /** Somebody whom the proxy in front has signed in says who they are in a header, which is believed from that proxy alone. */
    private function byProxy(Request $request): ?User
    {
        $header = (string) config('brenvic.trusted_header');
        $named = $header === '' ? '' : (string) $request->headers->get($header);
        // Whoever comes past the proxy is no proxy, whatever they send.
        if ($named === '' || ! IpUtils::checkIp((string) $request->server->get('REMOTE_ADDR'), (array) config('brenvic.proxies'))) {
            return null;
        }
        $user = User::query()->where('sign_in', $named)->whereNull('out_of_use_at')->first();
        $user === null || $this->signIn->byProxy($request, $user);

        return $user;
    }

    /** @throws NotYours until somebody has turned on the second factor that the office wants of everybody */
    private static function guardFactor(User $user, OfficeRules $rules): void
    {
        if (! SecondFactor::isOn($user) && $rules->secondFactor) {
            throw new NotYours('The office wants a second factor of everybody. Turn it on in Your settings first.');
        }
    }
}
