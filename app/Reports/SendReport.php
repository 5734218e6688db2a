<?php

declare(strict_types=1);

namespace App\Reports;

use App\Alarms\Alarms;
use App\Jobs\BackgroundJob;
use App\Jobs\Urgency;
use App\Models\KeptReport;
use Carbon\CarbonInterface;
use Illuminate\Support\Facades\Cache;

/** Makes a monthly report and sends it. */
final class SendReport extends BackgroundJob
{
    private const DAY = 86_400;

    public function __construct(public readonly int $kept)
    {
    }

    /** Once a day at most: one that failed is tried again the next day. */
    public static function soon(KeptReport $kept): void
    {
        if (Cache::add("report/{$kept->id}", 1, self::DAY - 3_600)) {
            self::dispatch($kept->id)->onQueue(Urgency::Bulk->value)->afterCommit();
        }
    }

    public function handle(KeptReports $reports): void
    {
        $kept = KeptReport::query()->find($this->kept);
        $kept === null || $reports->send($kept);
    }

    public function about(): int
    {
        return $this->kept;
    }

    public static function unfinished(CarbonInterface $before): array
    {
        return [];
    }

    protected function givenUp(string $reason): void
    {
        Alarms::raise('report', "A monthly report was not sent: {$reason}. It is tried again tomorrow.");
    }
}
