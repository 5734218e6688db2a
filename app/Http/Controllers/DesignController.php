<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Http\Resources\DesignResource;
use App\Models\User;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;

/** The design as far as a person may see it: what intake, find and the design place work from. */
final class DesignController
{
    public function __invoke(Request $request, DesignResource $resource): JsonResponse
    {
        $user = User::of($request);

        return new JsonResponse($resource->of($user));
    }
}
