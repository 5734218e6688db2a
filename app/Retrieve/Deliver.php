<?php

declare(strict_types=1);

namespace App\Retrieve;

use App\Jobs\BackgroundJob;
use App\Models\Delivery;
use Carbon\CarbonInterface;

/** Makes a delivery in the background. Made anew when it was stopped in the middle. */
final class Deliver extends BackgroundJob
{
    public int $timeout = 3_500;

    public function __construct(public readonly int $delivery)
    {
    }

    public function handle(DeliveryMaker $maker): void
    {
        $delivery = Delivery::query()
            ->with(['list', 'user'])
            ->find($this->delivery);
        if ($delivery !== null && in_array($delivery->state, [Delivery::WAITING, Delivery::RUNNING], true)) {
            $maker->make($delivery);
        }
    }

    public static function unfinished(CarbonInterface $before): array
    {
        return self::ids(
            Delivery::query()
                ->whereIn('state', [Delivery::WAITING, Delivery::RUNNING])
                ->where('updated_at', '<', $before),
        );
    }

    public function about(): int
    {
        return $this->delivery;
    }

    protected function givenUp(string $reason): void
    {
        $given = Delivery::query()
            ->whereKey($this->delivery)
            ->whereIn('state', [Delivery::WAITING, Delivery::RUNNING])
            ->update(['state' => Delivery::FAILED, 'message' => "It could not be made: {$reason}. Nothing of it was kept."]);
        $given > 0 && DeliveryMaker::tellFailed($this->delivery);
        DeliveryMaker::clear($this->delivery);
    }
}
