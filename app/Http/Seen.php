<?php

declare(strict_types=1);

namespace App\Http;

use App\Models\Document;
use Closure;
use Illuminate\Http\Request;
use Illuminate\Support\Facades\Gate;
use Symfony\Component\HttpFoundation\Response;

/** Whoever may not see the document that an address names is told so before anything else is looked at. */
final class Seen
{
    public function handle(Request $request, Closure $next): Response
    {
        $document = $request->route('document');
        if ($document instanceof Document) {
            Gate::authorize('view', $document);
        }

        return $next($request);
    }
}
