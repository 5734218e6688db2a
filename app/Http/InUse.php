<?php

declare(strict_types=1);

namespace App\Http;

use App\Models\User;
use Closure;
use Illuminate\Auth\AuthenticationException;
use Illuminate\Http\Request;
use Illuminate\Support\Facades\Auth;
use Symfony\Component\HttpFoundation\Response;

/** Ends the session of somebody who was put out of use; what needs somebody signed in then asks them to sign in. */
final class InUse
{
    public function handle(Request $request, Closure $next): Response
    {
        $user = $request->user();
        if ($user instanceof User && $user->out_of_use_at !== null) {
            Auth::logout();
            $request->hasSession() && $request->session()->invalidate();
            if ($request->is('api/*') && ! $request->is('api/session')) {
                throw new AuthenticationException;
            }
        }

        return $next($request);
    }
}
