<?php

declare(strict_types=1);

namespace App\Http;

use App\People\Sessions;
use Closure;
use Illuminate\Contracts\Session\Session;
use Illuminate\Http\Request;
use Illuminate\Session\Middleware\StartSession;
use Symfony\Component\HttpFoundation\Response;

/** Begins sessions, and does not note in them what was asked last: nobody is ever sent back there, and every request would write. */
final class BeginSession extends StartSession
{
    private int $days = 0;

    /** @param  Request  $request */
    public function handle($request, Closure $next)
    {
        return ByToken::isUsed($request) ? $next($request) : parent::handle($request, $next);
    }

    protected function addCookieToResponse(Response $response, Session $session): void
    {
        $this->days = Sessions::days($session);
        parent::addCookieToResponse($response, $session);
    }

    /** @return \DateTimeInterface|int */
    protected function getCookieExpirationDate()
    {
        return $this->days > 0 ? now()->addDays($this->days) : 0;
    }

    protected function storeCurrentUrl(Request $request, $session): void
    {
    }
}
