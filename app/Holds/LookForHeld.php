<?php

declare(strict_types=1);

namespace App\Holds;

use App\Access\HoldSearches;
use App\Alarms\Alarms;
use App\Jobs\BackgroundJob;
use App\Jobs\OfOffice;
use App\Jobs\Urgency;
use Carbon\CarbonInterface;
use Illuminate\Contracts\Foundation\Application;
use Illuminate\Support\Facades\DB;

/** Covers what the searches of holds find since documents changed. */
final class LookForHeld extends BackgroundJob
{
    use OfOffice;

    /** Some documents changed, within the transaction that changed them. */
    public static function changed(): void
    {
        HoldSearches::changed() > 0 && self::dispatch()->onQueue(Urgency::Awaited->value)->afterCommit();
    }

    public function handle(Application $application): void
    {
        $application->forgetScopedInstances();
        $application->make(HoldSearches::class)->catchUp();
    }

    public static function unfinished(CarbonInterface $before): array
    {
        return DB::table('holds')->where('wants_look', true)->exists() ? [self::ONE] : [];
    }

    protected function givenUp(string $reason): void
    {
        Alarms::raise('hold', "The searches of holds could not be asked: {$reason}. What came in since may not be covered.");
    }
}
