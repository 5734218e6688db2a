<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\History\Act;
use App\History\History;
use App\Models\Group;
use App\Models\Library;
use App\Models\Right;
use App\Models\User;
use App\Models\Webhook;
use App\People\Tokens;
use App\Served\Asking;
use App\Support\Address;
use App\Support\Column;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Support\Facades\DB;

/** What other programs are served without a token, as those say who administer; and the tokens that there are. */
final class ServedController
{
    public function show(Request $request): JsonResponse
    {
        // Who administers is not told of libraries that are kept from them, by tokens for these as little as otherwise.
        $libraries = Library::told(User::of($request));

        return new JsonResponse([
            'group' => Asking::group(),
            'groups' => Column::texts(Group::query()->orderBy('name')->pluck('name')),
            'sru' => Address::of('/sru'),
            'oai' => Address::of('/oai'),
            'tokens' => Tokens::ofAll(array_column($libraries, 'code')),
            'webhooks' => WebhookController::told(Webhook::query()->with('user')->orderByDesc('id')->get()),
            'rights' => Right::told(Right::cases()),
            'libraries' => $libraries,
        ]);
    }

    public function keep(Request $request): JsonResponse
    {
        $group = $request->validate(['group' => 'present|nullable|string|exists:groups,name'])['group'];
        DB::transaction(static function () use ($request, $group): void {
            Asking::serve($group);
            History::record(Act::ServedTo, User::of($request), null, ['group' => $group ?? '']);
        });

        return $this->show($request);
    }

    /** A token is made by whoever it speaks for; the office ends it. */
    public function revoke(Request $request, int $apiToken): JsonResponse
    {
        abort_unless(Tokens::revoke(User::of($request), $apiToken, null), 404);

        return $this->show($request);
    }

    public function removeWebhook(Request $request, int $webhook): JsonResponse
    {
        WebhookController::remove(Webhook::query()->with('user')->findOrFail($webhook), User::of($request));

        return $this->show($request);
    }
}
