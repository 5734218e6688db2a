<?php

declare(strict_types=1);

namespace App\Webhooks;

use App\Models\Webhook;
use App\Notices\NoticeKind;
use App\Notices\Notices;
use App\Served\Changes;
use App\Support\OpenNetwork;
use App\Support\Refused;
use Brenvic\Core\Exchange\Webhooks\MessageSignature;
use Illuminate\Http\Client\ConnectionException;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Http;

/**
 * Tells programs what happened: signed, in order, each at least once. What is not answered with 2xx is tried again, later and later,
 * and stops after a day; the person who made it is told, and goes on with it when it is mended.
 */
final readonly class Calling
{
    /** Seconds to reach the address, and to have its answer. */
    private const CONNECT = 3;

    private const ANSWER = 5;

    /** Seconds until it is tried again, after so many tries in vain: about a day in all. */
    private const AGAIN = [60, 300, 1_800, 7_200, 21_600, 50_400];

    /** Bytes of an answer, which nobody reads. */
    private const LARGEST = 65_536;

    /** Seconds that one is told without others having their turn. */
    private const TURN = 30;

    public function __construct(private Telling $telling)
    {
    }

    /** Tells it all that happened, until something is not answered. */
    public function tell(Webhook $webhook): void
    {
        $end = time() + self::TURN;
        while ($webhook->stopped_at === null && time() < $end && Telling::isBehind($webhook)) {
            ['told' => $told, 'to' => $to] = $this->telling->next($webhook);
            foreach ($told as ['entry' => $entry, 'body' => $body]) {
                $fault = self::call($webhook, $body);
                if ($fault !== null) {
                    self::failed($webhook, $fault);

                    return;
                }
                self::come($webhook, $entry, ['told_at' => now(), 'tries' => 0, 'next_at' => null, 'fault' => '']);
                if (time() >= $end) {
                    return;
                }
            }
            self::come($webhook, $to);
        }
    }

    /**
     * Tells it something that did not happen, so that its maker sees whether it is heard.
     *
     * @throws Refused when it is not
     */
    public function tryOut(Webhook $webhook): void
    {
        $fault = self::call($webhook, ['id' => 0, 'at' => Changes::now(), 'kind' => 'tried', 'document' => null]);
        $fault === null || throw new Refused("It was not heard: {$fault}.");
    }

    /**
     * One call.
     *
     * @param  array<string, mixed>  $body
     * @return string|null what was wrong
     */
    private static function call(Webhook $webhook, array $body): ?string
    {
        $pinned = OpenNetwork::pinned($webhook->address);
        if ($pinned === null) {
            return 'the address is on this machine or in a private network, where nothing is sent to (BRENVIC_PRIVATE_NETWORKS allows it)';
        }
        $json = json_encode($body, JSON_UNESCAPED_UNICODE | JSON_UNESCAPED_SLASHES | JSON_THROW_ON_ERROR);
        $digest = MessageSignature::digest($json);
        $signed = (new MessageSignature('brenvic', "webhook-{$webhook->id}", $webhook->secret))->headers(
            ['@method' => 'POST', '@target-uri' => $webhook->address, 'content-digest' => $digest],
            now()->getTimestamp(),
        );
        $large = static fn (mixed $handle, int $size, int $had): int => $had > self::LARGEST ? 1 : 0;
        try {
            $response = Http::connectTimeout(self::CONNECT)
                ->timeout(self::ANSWER)
                ->withoutRedirecting()
                ->withUserAgent('Brenvic')
                ->withHeaders(['Content-Digest' => $digest, ...$signed])
                ->withOptions(['curl' => [CURLOPT_NOPROGRESS => false, CURLOPT_XFERINFOFUNCTION => $large] + $pinned])
                ->withBody($json, 'application/json')
                ->post($webhook->address);
        } catch (ConnectionException) {
            return 'it cannot be reached, or does not answer in '.self::ANSWER.' seconds';
        }

        return $response->successful() ? null : "it answers {$response->status()}";
    }

    /** @param  array<string, mixed>  $more */
    private static function come(Webhook $webhook, int $to, array $more = []): void
    {
        $webhook->update(['told_to' => $to, ...$more]);
    }

    private static function failed(Webhook $webhook, string $fault): void
    {
        $wait = self::AGAIN[$webhook->tries] ?? null;
        DB::transaction(static function () use ($webhook, $fault, $wait): void {
            $webhook->update([
                'tries' => $webhook->tries + 1,
                'fault' => mb_substr($fault, 0, 300),
                'next_at' => $wait === null ? null : now()->addSeconds($wait),
                'stopped_at' => $wait === null ? now() : null,
            ]);
            $wait === null &&
                Notices::tell(
                    [$webhook->user],
                    NoticeKind::Webhook,
                    ['text' => "The webhook “{$webhook->name}” stopped: {$fault}. It goes on from where it is when you start it again."],
                    '/me',
                );
        });
    }
}
