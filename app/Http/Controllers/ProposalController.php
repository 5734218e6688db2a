<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Design\Draft;
use App\Design\ProposalChoices;
use App\Design\Proposals;
use App\Http\Resources\DraftResource;
use App\Http\Resources\ProposalResource;
use App\Models\Proposal;
use App\Models\User;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Http\Response;

/** A design proposed from a table: each person has one at a time. */
final readonly class ProposalController
{
    public function __construct(private Proposals $proposals, private Draft $draft, private DraftResource $resource)
    {
    }

    public function show(Request $request): JsonResponse
    {
        $proposal = Proposal::query()->where('user_id', User::of($request)->id)->latest('id')->first();

        return new JsonResponse(['proposal' => $proposal === null ? null : ProposalResource::of($proposal)]);
    }

    public function store(Request $request): JsonResponse
    {
        $most = intdiv((int) config('brenvic.limits.file_bytes'), 1024);
        $input = $request->validate(['file' => "required|file|max:{$most}", 'what' => 'sometimes|in:table,folders']);
        $proposal = $this->proposals->begin(User::of($request), $input['file'], (string) ($input['what'] ?? Proposal::TABLE));

        return new JsonResponse(['proposal' => ProposalResource::of($proposal)], 202);
    }

    public function take(Request $request): JsonResponse
    {
        $choices = ProposalChoices::of($request->validate(ProposalChoices::rules()));
        $user = User::of($request);
        $proposal = Proposal::query()->where('user_id', $user->id)->latest('id')->firstOrFail();
        $done = $this->proposals->take($user, $proposal, $choices);

        return new JsonResponse([...$done, 'draft' => $this->resource->of($user, $this->draft)]);
    }

    public function destroy(Request $request): Response
    {
        $this->proposals->clear(User::of($request));

        return new Response(status: 204);
    }
}
