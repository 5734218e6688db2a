<?php

declare(strict_types=1);

namespace App\Jobs;

use App\Models\Delivery;
use App\Retrieve\DeliveryMaker;
use Illuminate\Contracts\Queue\ShouldQueue;
use Illuminate\Foundation\Queue\Queueable;
use Throwable;

/** Makes a delivery in the background. Made anew when it was stopped in the middle. */
final class Deliver implements ShouldQueue
{
    use Queueable;

    public int $tries = 3;

    public int $timeout = 3_500;

    public function __construct(public readonly int $delivery)
    {
    }

    public function handle(DeliveryMaker $maker): void
    {
        $delivery = Delivery::query()->with(['list', 'user'])->find($this->delivery);
        if ($delivery !== null && in_array($delivery->state, [Delivery::WAITING, Delivery::RUNNING], true)) {
            $maker->make($delivery);
        }
    }

    public function failed(?Throwable $fault): void
    {
        Delivery::query()->whereKey($this->delivery)->whereIn('state', [Delivery::WAITING, Delivery::RUNNING])
            ->update(['state' => Delivery::FAILED, 'message' => 'It could not be made: '.rtrim(self::words($fault), '.').'. Nothing of it was kept.']);
    }

    private static function words(?Throwable $fault): string
    {
        $message = $fault?->getMessage() ?? 'it was stopped three times';

        // However it was noticed (ENOSPC), by PHP, by the archive or by a program.
        return preg_match('/errno=28\b|no space left|out of free disk space/i', $message) === 1 ? 'the disk is full' : $message;
    }
}
