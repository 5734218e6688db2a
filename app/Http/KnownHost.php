<?php

declare(strict_types=1);

namespace App\Http;

use App\Support\Address;
use Closure;
use Illuminate\Http\Request;
use Symfony\Component\HttpFoundation\Response;

/**
 * Answers only by the addresses that the setting names: a host that somebody invented would go into secure links and mails.
 */
final class KnownHost
{
    public function handle(Request $request, Closure $next): Response
    {
        if (! Address::isKnown($request->getHost())) {
            return new \Illuminate\Http\Response(
                'Brenvic does not answer by this address. Set BRENVIC_URL to the address that people use.',
                400,
                ['Content-Type' => 'text/plain; charset=utf-8'],
            );
        }

        return $next($request);
    }
}
