<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Acts\LastActs;
use App\Models\User;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;

/** One's own last acts. */
final readonly class LastActController
{
    public function __construct(private LastActs $acts)
    {
    }

    public function index(Request $request): JsonResponse
    {
        return new JsonResponse(['acts' => $this->acts->of(User::of($request))]);
    }

    public function undo(Request $request, int $act): JsonResponse
    {
        return new JsonResponse($this->acts->undo(User::of($request), $act));
    }
}
