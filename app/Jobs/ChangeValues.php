<?php

declare(strict_types=1);

namespace App\Jobs;

use App\Intake\ManyValues;
use App\Models\ValueAct;
use Illuminate\Contracts\Queue\ShouldQueue;
use Illuminate\Foundation\Queue\Queueable;

/** Does an act on the values of many documents, or takes it back, a piece at a time. Stopped, it goes on where it was. */
final class ChangeValues implements ShouldQueue
{
    use Queueable;

    public int $tries = 3;

    public int $timeout = 3_500;

    public function __construct(private readonly int $act)
    {
    }

    public function handle(ManyValues $many): void
    {
        $act = ValueAct::query()->find($this->act);
        while ($act !== null && $many->step($act)) {
            // Each piece is a transaction of its own, so that others get their turn.
        }
    }
}
