<?php

declare(strict_types=1);

namespace App\Webhooks;

use App\Jobs\BackgroundJob;
use App\Jobs\Urgency;
use App\Models\Right;
use App\Models\Webhook;
use Carbon\CarbonInterface;
use Illuminate\Support\Facades\Cache;

/** Tells one program what happened since it was told last. */
final class TellPrograms extends BackgroundJob
{
    public int $tries = 1;

    /** Seconds; more than its turn, so that what a killed worker held is soon free again. */
    public int $timeout = 90;

    /** Seconds that one waits for its turn without another being begun. */
    private const WAITS = 300;

    public function __construct(public readonly int $webhook)
    {
    }

    /** Each that is behind and whose turn it is. */
    public static function look(): void
    {
        $due = Webhook::query()
            ->whereNull('stopped_at')
            ->where(static fn ($of) => $of->whereNull('next_at')->orWhere('next_at', '<=', now()))
            ->whereHas('user', static fn ($user) => $user->whereNull('out_of_use_at'))
            ->get();
        foreach ($due as $webhook) {
            if (Telling::isBehind($webhook) && Cache::add(self::waiting($webhook->id), 1, self::WAITS)) {
                self::dispatch($webhook->id)->onQueue(Urgency::Bulk->value);
            }
        }
    }

    private static function waiting(int $webhook): string
    {
        return "webhook/{$webhook}/waiting";
    }

    public function handle(Calling $calling): void
    {
        Cache::forget(self::waiting($this->webhook));
        // Where another is at it already, nothing is told twice.
        Cache::lock("webhook/{$this->webhook}", $this->timeout)->get(function () use ($calling): void {
            $webhook = Webhook::query()->with('user')->find($this->webhook);
            $mayAsk = $webhook?->user->out_of_use_at === null && $webhook?->user->may(Right::Read) === true;
            if ($webhook !== null && $mayAsk && $webhook->next_at?->isFuture() !== true) {
                $calling->tell($webhook);
            }
        });
    }

    public function about(): int
    {
        return $this->webhook;
    }

    public static function unfinished(CarbonInterface $before): array
    {
        return [];
    }

    /** The next look begins it anew; what is amiss with the program itself is said meanwhile. */
    protected function givenUp(string $reason): void
    {
        Webhook::query()->whereKey($this->webhook)->update(['fault' => mb_substr($reason, 0, 300)]);
    }
}
