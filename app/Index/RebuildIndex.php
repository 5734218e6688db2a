<?php

declare(strict_types=1);

namespace App\Index;

use App\Alarms\Alarms;
use App\Jobs\BackgroundJob;
use App\Jobs\OfOffice;
use App\Jobs\Urgency;
use Carbon\CarbonInterface;
use Illuminate\Support\Facades\DB;

/** Makes the index anew while it is searched. Stopped, it goes on where it was. */
final class RebuildIndex extends BackgroundJob
{
    use OfOffice;

    public int $timeout = 3_500;

    public static function begin(): void
    {
        self::dispatch()->onQueue(Urgency::Bulk->value)->afterCommit();
    }

    public function handle(Rebuild $rebuild): void
    {
        $rebuild->run(static fn () => null);
    }

    public static function unfinished(CarbonInterface $before): array
    {
        return DB::table('ix_state')->whereNotNull('building')->exists() ? [self::ONE] : [];
    }

    protected function givenUp(string $reason): void
    {
        Alarms::raise('index', "The index was not made anew: {$reason}. The old one is searched; go on under Oversight, Health.");
    }
}
