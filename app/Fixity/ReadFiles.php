<?php

declare(strict_types=1);

namespace App\Fixity;

use App\Alarms\Alarms;
use App\Jobs\BackgroundJob;
use App\Jobs\OfOffice;
use App\Jobs\Urgency;
use Carbon\CarbonInterface;
use Illuminate\Support\Facades\DB;

/** Reads stored files again, a short turn at a time; others have theirs in between. */
final class ReadFiles extends BackgroundJob
{
    use OfOffice;

    /** Seconds of a turn. */
    private const TURN = 15.0;

    public static function begin(): void
    {
        self::dispatch()->onQueue(Urgency::Idle->value)->afterCommit();
    }

    public function handle(Fixity $fixity): void
    {
        $fixity->read(self::TURN) && self::begin();
    }

    public static function unfinished(CarbonInterface $before): array
    {
        return DB::table('file_rounds')->whereNull('ended_at')->where('read_at', '<', $before)->exists() ? [self::ONE] : [];
    }

    protected function givenUp(string $reason): void
    {
        Alarms::raise('file', "Stored files are not read again: {$reason}.");
    }
}
