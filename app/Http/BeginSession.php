<?php

declare(strict_types=1);

namespace App\Http;

use Illuminate\Http\Request;
use Illuminate\Session\Middleware\StartSession;

/** Begins sessions, and does not note in them what was asked last: nobody is ever sent back there, and every request would write. */
final class BeginSession extends StartSession
{
    protected function storeCurrentUrl(Request $request, $session): void
    {
    }
}
