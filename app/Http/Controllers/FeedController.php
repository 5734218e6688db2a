<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Find\SavedSearches;
use App\Models\User;
use App\Served\Feeds;
use Brenvic\Core\Exchange\Feeds\Feed;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Http\Response;

/** Feeds of kept searches: made and stopped by who is signed in, read by programs that have the address. */
final readonly class FeedController
{
    public function __construct(private Feeds $feeds, private SavedSearches $searches)
    {
    }

    public function show(Request $request, string $token, string $form): Response
    {
        $feed = $this->feeds->of($token, $form);
        abort_if($feed === null, 404);
        $body = $form === 'atom' ? $feed->atom() : $feed->json();
        $response = (new Response($body, 200, [
            'Content-Type' => $form === 'atom' ? Feed::ATOM : Feed::JSON,
            'Cache-Control' => 'private, no-cache',
        ]))->setEtag(hash('xxh128', $body));
        // What is as it was is not sent again.
        $response->isNotModified($request);

        return $response;
    }

    public function store(Request $request, int $search): JsonResponse
    {
        $user = User::of($request);

        return new JsonResponse(Feeds::addresses(Feeds::make($user, $this->searches->of($user)->findOrFail($search))), 201);
    }

    public function destroy(Request $request, int $search): JsonResponse
    {
        $user = User::of($request);
        Feeds::stop($user, $this->searches->of($user)->findOrFail($search));

        return new JsonResponse(['searches' => $this->searches->shaped($user), 'recent' => SavedSearchController::recents($user)]);
    }
}
