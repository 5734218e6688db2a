<?php

declare(strict_types=1);

namespace App\Procedures;

use App\Jobs\BackgroundJob;
use App\Jobs\OfOffice;
use App\Jobs\Urgency;
use Carbon\CarbonInterface;
use Illuminate\Contracts\Foundation\Application;
use Illuminate\Support\Facades\DB;

/** Looks at the documents that changed, whether a procedure begins with them. What a piece begins is there with it, or not at all. */
final class LookForCases extends BackgroundJob
{
    use OfOffice;

    /** Seconds that one turn takes at most; then others have theirs. */
    private const TURN = 20;

    public static function begin(): void
    {
        self::dispatch()->onQueue(Urgency::Awaited->value)->afterCommit();
    }

    public function handle(Application $application): void
    {
        $application->forgetScopedInstances();
        $beginning = $application->make(Beginning::class);
        $until = microtime(true) + self::TURN;
        while ($beginning->look()) {
            if (microtime(true) > $until) {
                self::begin();

                return;
            }
        }
    }

    public static function unfinished(CarbonInterface $before): array
    {
        return DB::table('procedure_looks')->exists() ? [self::ONE] : [];
    }

    protected function givenUp(string $reason): void
    {
        \App\Alarms\Alarms::raise('procedure', "Procedures do not begin by themselves: {$reason}.");
    }
}
