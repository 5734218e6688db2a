<?php

declare(strict_types=1);

namespace App\Http;

use Closure;
use Illuminate\Http\Request;
use Illuminate\Support\Facades\Log;
use Symfony\Component\HttpFoundation\Response;

/**
 * Gives every request a name by which what went wrong is found in the logs: that of the server in front, or one of its own. The server
 * in front is told the route, which says what was asked for without naming whose document it was.
 */
final class NamedRequest
{
    public const HEADER = 'X-Request-ID';

    public function handle(Request $request, Closure $next): Response
    {
        $name = (string) $request->headers->get(self::HEADER);
        if (preg_match('/\A[0-9a-f]{32}\z/', $name) !== 1) {
            $name = bin2hex(random_bytes(16));
            $request->headers->set(self::HEADER, $name);
        }
        Log::shareContext(['request' => $name]);
        $response = $next($request);
        $response->headers->set(self::HEADER, $name);
        // Read by nginx for its log, and sent to nobody.
        $request->server->get('BRENVIC_BEHIND') !== null && $response->headers->set('X-Route', (string) $request->route()?->uri());

        return $response;
    }
}
