<?php

declare(strict_types=1);

namespace App\Http;

use Closure;
use Illuminate\Http\Request;
use Symfony\Component\HttpFoundation\Response;

/** Nothing is loaded from elsewhere, nothing is guessed, nothing is framed by others. */
final class SecurityHeaders
{
    private const POLICY = "default-src 'self'; script-src 'self' 'wasm-unsafe-eval'; style-src 'self' 'unsafe-inline'; img-src 'self' data: blob:; font-src 'self' data:; worker-src 'self' blob:; object-src 'none'; base-uri 'self'; form-action 'self'; frame-ancestors 'self'";

    public function handle(Request $request, Closure $next): Response
    {
        $response = $next($request);
        $response->headers->set('X-Content-Type-Options', 'nosniff');
        $response->headers->set('Referrer-Policy', 'same-origin');
        if (! $response->headers->has('Content-Security-Policy')) {
            $response->headers->set('Content-Security-Policy', self::policy((string) config('brenvic.vite')));
        }

        return $response;
    }

    /** The policy; with Vite beside the application, which only `./brenvic dev` has, its scripts and styles come from there. */
    private static function policy(string $vite): string
    {
        if ($vite === '') {
            return self::POLICY;
        }
        $policy = (string) preg_replace('/(script|style|img|font|worker)-src/', "$0 http://{$vite}", self::POLICY);

        return "{$policy}; connect-src 'self' http://{$vite} ws://{$vite}";
    }
}
