<?php

declare(strict_types=1);

namespace App\Http;

use App\People\Tokens;
use App\Support\NotYours;
use Closure;
use Illuminate\Http\Request;
use Illuminate\Support\Facades\Auth;
use Symfony\Component\HttpFoundation\Response;

/**
 * Programs ask with a token (RFC 6750: `Authorization: Bearer …`) and have no session: nothing is kept of them, and no browser sends a
 * token by itself, so that they need no proof of where they come from.
 */
final class ByToken
{
    private const ATTRIBUTE = 'by_token';

    public function handle(Request $request, Closure $next): Response
    {
        $token = (string) $request->bearerToken();
        if ($token === '' || ! $request->is('api/*')) {
            return $next($request);
        }
        $user = Tokens::guarded($token, (string) $request->ip());
        if ($request->is('api/session', 'api/session/*') || ($request->is('api/me', 'api/me/*') && ! $request->isMethod('GET'))) {
            throw new NotYours('This is for people who are signed in, and not for tokens.');
        }
        $request->attributes->set(self::ATTRIBUTE, true);
        Auth::guard('web')->setUser($user);

        return $next($request);
    }

    public static function isUsed(Request $request): bool
    {
        return $request->attributes->get(self::ATTRIBUTE) === true;
    }
}
