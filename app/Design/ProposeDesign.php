<?php

declare(strict_types=1);

namespace App\Design;

use App\Jobs\BackgroundJob;
use App\Jobs\Urgency;
use App\Models\Proposal;
use Carbon\CarbonInterface;

/** Reads a table and proposes a design from it. Done anew when it was stopped in the middle. */
final class ProposeDesign extends BackgroundJob
{
    public function __construct(public readonly int $proposal)
    {
    }

    public static function begin(Proposal $proposal): void
    {
        self::dispatch($proposal->id)->onQueue(Urgency::Awaited->value)->afterCommit();
    }

    public function handle(Proposals $proposals): void
    {
        $proposal = Proposal::query()->find($this->proposal);
        if ($proposal !== null && $proposal->state === Proposal::WAITING) {
            $proposals->read($proposal);
        }
    }

    public static function unfinished(CarbonInterface $before): array
    {
        return self::ids(Proposal::query()->where('state', Proposal::WAITING)->where('updated_at', '<', $before)->toBase());
    }

    public function about(): int
    {
        return $this->proposal;
    }

    protected function givenUp(string $reason): void
    {
        Proposal::query()
            ->whereKey($this->proposal)
            ->where('state', Proposal::WAITING)
            ->update([
                'state' => Proposal::FAILED,
                'says' => mb_substr("The table could not be read: {$reason}. Nothing was changed.", 0, 500),
            ]);
    }
}
