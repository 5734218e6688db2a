<?php

declare(strict_types=1);

namespace App\Http;

use Closure;
use Illuminate\Foundation\Http\Middleware\ValidateCsrfToken;
use Illuminate\Http\Request;

/** Whoever asks with a session proves that the page is ours; a token is sent by nobody's browser unasked. */
final class CheckedOrigin extends ValidateCsrfToken
{
    /** @param  Request  $request */
    public function handle($request, Closure $next)
    {
        return ByToken::isUsed($request) ? $next($request) : parent::handle($request, $next);
    }
}
