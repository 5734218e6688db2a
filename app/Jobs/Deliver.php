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
            ->update(['state' => Delivery::FAILED, 'message' => 'It could not be made: '.($fault?->getMessage() ?? 'it was stopped three times').'. Nothing of it was kept.']);
    }
}
