<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\History\Act;
use App\History\History;
use App\Jobs\Urgency;
use App\Models\User;
use App\Models\Webhook;
use App\Support\OpenNetwork;
use App\Support\Refused;
use App\Webhooks\Calling;
use App\Webhooks\Happening;
use App\Webhooks\Telling;
use App\Webhooks\TellPrograms;
use Closure;
use GuzzleHttp\Psr7\Uri;
use GuzzleHttp\Psr7\UriNormalizer;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Str;
use Illuminate\Validation\Rule;

/** Webhooks: programs that are told of what happens, as the person who made them may know it. */
final class WebhookController
{
    private const MOST = 20;

    public function index(Request $request): JsonResponse
    {
        return self::all(User::of($request));
    }

    /** The secret is in this answer only. */
    public function store(Request $request, Telling $telling): JsonResponse
    {
        $user = User::of($request);
        $given = $request->validate(
            [
                'name' => 'required|string|max:100',
                'address' => ['required', 'string', 'max:1000', 'url:http,https', self::open(...)],
                'kinds' => 'required|array|min:1',
                'kinds.*' => ['distinct', Rule::enum(Happening::class)],
            ],
            [
                'name.required' => 'Say what it is for.',
                'address.url' => 'That is no address of the web.',
                'kinds.required' => 'Choose what it is told of.',
            ],
        );
        if (Webhook::query()->where('user_id', $user->id)->count() >= self::MOST) {
            throw new Refused('You have '.self::MOST.' already. Remove one first.');
        }
        $secret = Str::random(48);
        // As it is sent, so that who receives it signs over the same.
        $address = (string) UriNormalizer::normalize(new Uri((string) $given['address']))->withFragment('');
        DB::transaction(static function () use ($user, $given, $address, $secret, $telling): void {
            Webhook::query()->create([
                'user_id' => $user->id,
                'name' => trim((string) $given['name']),
                'address' => $address,
                'kinds' => array_values($given['kinds']),
                'secret' => $secret,
                'told_to' => $telling->begin($user),
                'made_at' => now(),
            ]);
            History::record(Act::WebhookMade, $user, null, [
                'person' => $user->sign_in,
                'webhook' => trim((string) $given['name']),
                'address' => $address,
            ]);
        });

        return self::all($user, ['secret' => $secret], 201);
    }

    /** Tells it something that did not happen. */
    public function tryOut(Request $request, Calling $calling, int $webhook): JsonResponse
    {
        $calling->tryOut(self::own($request, $webhook));

        return self::all(User::of($request));
    }

    /** Goes on from where it stopped. */
    public function start(Request $request, int $webhook): JsonResponse
    {
        $own = self::own($request, $webhook);
        $own->update(['stopped_at' => null, 'tries' => 0, 'next_at' => null, 'fault' => '']);
        TellPrograms::dispatch($own->id)->onQueue(Urgency::Started->value);

        return self::all(User::of($request));
    }

    public function destroy(Request $request, int $webhook): JsonResponse
    {
        self::remove(self::own($request, $webhook), User::of($request));

        return self::all(User::of($request));
    }

    public static function remove(Webhook $webhook, User $by): void
    {
        DB::transaction(static function () use ($webhook, $by): void {
            $webhook->delete();
            History::record(Act::WebhookRemoved, $by, null, [
                'person' => $webhook->user->sign_in,
                'webhook' => $webhook->name,
                'address' => $webhook->address,
            ]);
        });
    }

    private static function own(Request $request, int $id): Webhook
    {
        return Webhook::query()->with('user')->where('user_id', User::of($request)->id)->findOrFail($id);
    }

    private static function open(string $attribute, mixed $value, Closure $fail): void
    {
        is_string($value) && parse_url($value, PHP_URL_USER) !== null && $fail('Leave the password out of it: others see the address.');
        is_string($value) && OpenNetwork::pinned($value) === null && $fail('Nothing is sent to this machine, or into a private network.');
    }

    /** @param  array<string, string>  $more */
    private static function all(User $user, array $more = [], int $status = 200): JsonResponse
    {
        return new JsonResponse(
            [
                'webhooks' => self::told(Webhook::query()->where('user_id', $user->id)->orderByDesc('id')->get()),
                'kinds' => array_map(
                    static fn (Happening $kind): array => ['value' => $kind->value, 'label' => $kind->label()],
                    Happening::cases(),
                ),
                ...$more,
            ],
            $status,
        );
    }

    /**
     * @param  iterable<Webhook>  $webhooks
     * @return list<array<string, mixed>>
     */
    public static function told(iterable $webhooks): array
    {
        $told = [];
        foreach ($webhooks as $webhook) {
            $told[] = [
                'id' => $webhook->id,
                'name' => $webhook->name,
                'address' => $webhook->address,
                'kinds' => $webhook->kinds,
                'told_at' => $webhook->told_at?->toIso8601String(),
                'next_at' => $webhook->next_at?->toIso8601String(),
                'fault' => $webhook->fault,
                'is_stopped' => $webhook->stopped_at !== null,
                ...$webhook->relationLoaded('user')
                    ? ['person' => ['sign_in' => $webhook->user->sign_in, 'name' => $webhook->user->name]]
                    : [],
            ];
        }

        return $told;
    }
}
