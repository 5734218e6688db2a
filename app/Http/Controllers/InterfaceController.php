<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use Illuminate\Contracts\View\View;

/** The page that the interface runs in, and what is nowhere. */
final class InterfaceController
{
    public function show(): View
    {
        return view('app');
    }

    public function nothing(): never
    {
        abort(404);
    }
}
