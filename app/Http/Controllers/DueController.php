<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Models\User;
use App\Oversight\DueList;
use Brenvic\Core\Retention\RetentionAction;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Validation\Rule;

/** What falls due when. */
final readonly class DueController
{
    private const NARROWED = ['library' => 'nullable|string|max:40', 'rule' => 'nullable|string|max:200'];

    public function __construct(private DueList $due)
    {
    }

    public function index(Request $request): JsonResponse
    {
        return new JsonResponse($this->due->of(User::of($request), $request->validate(self::NARROWED)));
    }

    public function period(Request $request): JsonResponse
    {
        $input = $request->validate([
            ...self::NARROWED,
            'from' => 'nullable|date_format:Y-m-d',
            'until' => 'nullable|date_format:Y-m-d',
            'action' => ['required', Rule::in(['review', 'destroy', 'hand_over'])],
        ]);

        return new JsonResponse(
            $this->due->period(
                User::of($request),
                $input['from'] ?? null,
                $input['until'] ?? null,
                RetentionAction::from((string) $input['action']),
                $input,
            ),
        );
    }
}
