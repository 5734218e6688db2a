<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Models\User;
use App\Notices\NoticeKind;
use App\Notices\Notices;
use App\Procedures\TaskList;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Http\Response;

/** What a person is told of, and the words in which the office tells. */
final readonly class NoticeController
{
    public function index(Request $request): JsonResponse
    {
        return new JsonResponse(['notices' => Notices::of(User::of($request))]);
    }

    /** What stands beside tabs: it is asked again and again, so it is as little as possible. */
    public function counts(Request $request, TaskList $tasks): JsonResponse
    {
        $user = User::of($request);

        return new JsonResponse(['tasks' => $tasks->waiting($user), 'notices' => Notices::unseen($user)]);
    }

    public function seen(Request $request): Response
    {
        $given = $request->validate(['up_to' => 'nullable|integer|min:1']);
        Notices::seen(User::of($request), isset($given['up_to']) ? (int) $given['up_to'] : null);

        return new Response(status: 204);
    }

    public function texts(): JsonResponse
    {
        $texts = Notices::texts();

        return new JsonResponse([
            'texts' => array_map(
                static fn (NoticeKind $kind): array => [
                    'kind' => $kind->value,
                    'label' => $kind->label(),
                    'usual' => $kind->words(),
                    'text' => $texts[$kind->value] ?? '',
                ],
                NoticeKind::cases(),
            ),
            'names' => NoticeKind::names(),
        ]);
    }

    public function setTexts(Request $request): JsonResponse
    {
        $given = $request->validate(['texts' => 'present|array|max:50', 'texts.*' => 'nullable|string|max:1000']);
        Notices::setTexts(array_map(strval(...), $given['texts']));

        return $this->texts();
    }
}
