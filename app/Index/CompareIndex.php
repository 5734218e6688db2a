<?php

declare(strict_types=1);

namespace App\Index;

use App\Alarms\Alarms;
use App\Jobs\BackgroundJob;
use App\Jobs\OfOffice;
use App\Jobs\Urgency;
use Carbon\CarbonInterface;
use Illuminate\Support\Facades\DB;

/** Holds the index against the documents, a short turn at a time; others have theirs in between. */
final class CompareIndex extends BackgroundJob
{
    use OfOffice;

    /** Seconds of a turn. */
    private const TURN = 15.0;

    public static function begin(): void
    {
        self::dispatch()->onQueue(Urgency::Idle->value)->afterCommit();
    }

    public function handle(Comparison $comparison): void
    {
        $comparison->goOn(self::TURN) && self::begin();
    }

    public static function unfinished(CarbonInterface $before): array
    {
        return DB::table('index_checks')->whereNull('ended_at')->where('went_on_at', '<', $before)->exists() ? [self::ONE] : [];
    }

    protected function givenUp(string $reason): void
    {
        Alarms::raise('index', "The index is not compared with the documents: {$reason}.");
        DB::table('index_checks')->whereNull('ended_at')->delete();
    }
}
