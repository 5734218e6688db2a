<?php

declare(strict_types=1);

namespace App\Intake;

use App\Jobs\BackgroundJob;
use App\Jobs\Urgency;
use App\Models\ValueAct;
use Carbon\CarbonInterface;

/** Does an act on the values of many documents, or takes it back, a piece at a time. Stopped, it goes on where it was. */
final class ChangeValues extends BackgroundJob
{
    /** Seconds that one turn takes at most; then others have theirs. */
    private const TURN = 20;

    public function __construct(public readonly int $act)
    {
    }

    /** Has an act done, as urgently as it is large. */
    public static function begin(ValueAct $act): void
    {
        self::dispatch($act->id)->onQueue(Urgency::of($act->total)->value)->afterCommit();
    }

    public function handle(ManyValues $many): void
    {
        $act = ValueAct::query()->find($this->act);
        $until = microtime(true) + self::TURN;
        while ($act !== null && $many->step($act)) {
            // Each piece is a transaction of its own, so that others get to write.
            if (microtime(true) > $until) {
                self::begin($act);

                return;
            }
        }
    }

    public static function unfinished(CarbonInterface $before): array
    {
        return self::ids(
            ValueAct::query()
                ->whereIn('state', [ValueAct::RUNNING, ValueAct::UNDOING])
                ->where('stopped', '')
                ->where('updated_at', '<', $before),
        );
    }

    public function about(): int
    {
        return $this->act;
    }

    protected function givenUp(string $reason): void
    {
        ValueAct::query()
            ->whereKey($this->act)
            ->whereIn('state', [ValueAct::RUNNING, ValueAct::UNDOING])
            ->update(['stopped' => "It stopped: {$reason}. What was done stays done; the rest is as it was."]);
    }
}
