<?php

declare(strict_types=1);

namespace App\Jobs;

use App\Models\Delivery;
use App\Retrieve\DeliveryMaker;

/** Makes a delivery in the background. Made anew when it was stopped in the middle. */
final class Deliver extends BackgroundJob
{
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

    public function about(): int
    {
        return $this->delivery;
    }

    protected function givenUp(string $reason): void
    {
        Delivery::query()->whereKey($this->delivery)->whereIn('state', [Delivery::WAITING, Delivery::RUNNING])
            ->update(['state' => Delivery::FAILED, 'message' => "It could not be made: {$reason}. Nothing of it was kept."]);
        DeliveryMaker::clear($this->delivery);
    }
}
