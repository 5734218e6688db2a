<?php

declare(strict_types=1);

namespace App\Scanning;

use App\Catalog\Catalog;
use App\Jobs\BackgroundJob;
use App\Models\Scan;
use App\Support\ExternalProgram;
use App\Support\Refused;
use Brenvic\Core\Design\SourcePart;
use Brenvic\Core\Exchange\Escl\ScanSettings;
use Carbon\CarbonInterface;
use Illuminate\Support\Sleep;

/**
 * Fetches the pages of a stack from its scanner, each into the store as it comes. Killed in the middle it goes on with the
 * scanner’s own job. What needs a hand at the scanner stops it, and is said.
 */
final class ScanStack extends BackgroundJob
{
    /** Looks at a scanner that says it is at work but gives no page, and seconds between them. */
    private const LOOKS = 20;

    private const PAUSE = 2;

    public function __construct(public readonly int $scan)
    {
    }

    public function handle(Scans $scans, Catalog $catalog): void
    {
        $scan = Scan::query()->find($this->scan);
        if ($scan === null || $scan->state !== Scan::RUNNING) {
            return;
        }
        try {
            $source = $catalog->design()->one(SourcePart::class, $scan->source) ?? throw new Refused('Its source is no longer there.');
            $this->fetch($scan, $scans, new Scanner($source));
        } catch (Refused $fault) {
            $scan->update(['state' => Scan::STOPPED, 'says' => mb_substr($fault->getMessage(), 0, 500), 'job' => '']);
        }
    }

    private function fetch(Scan $scan, Scans $scans, Scanner $scanner): void
    {
        if ($scan->job === '') {
            ['dots' => $dots, 'colour' => $isColour, 'duplex' => $isDuplex, 'fed' => $isFed] = $scan->settings;
            $scan->update(['job' => $scanner->begin(new ScanSettings($dots, $isColour, $isDuplex, $isFed), $scanner->capabilities())]);
        }
        ExternalProgram::inFolder(static function (string $folder) use ($scan, $scans, $scanner): void {
            $looks = 0;
            while (true) {
                $page = $scanner->next($scan->job, "{$folder}/page");
                if ($page !== null) {
                    $scans->add($scan, $page);
                    $looks = 0;
                } elseif (self::isOver($scan, $scanner, ++$looks)) {
                    return;
                } else {
                    Sleep::for(self::PAUSE)->seconds();
                }
                if (Scan::query()->whereKey($scan->id)->value('state') !== Scan::RUNNING) {
                    // Somebody stopped it.
                    $scanner->end($scan->job);

                    return;
                }
            }
        });
        if (Scan::query()->whereKey($scan->id)->value('state') === Scan::RUNNING) {
            $scans->keep($scan->refresh());
        }
    }

    /** Whether there are no more pages; what needs a hand is refused with what is to be done. */
    private static function isOver(Scan $scan, Scanner $scanner, int $looks): bool
    {
        $status = $scanner->status();
        $trouble = $status->trouble();
        if ($trouble !== null) {
            throw new Refused($trouble);
        }
        $job = $status->job($scan->job);
        if (in_array($job, ['Aborted', 'Canceled'], true)) {
            throw new Refused('The scanner has stopped. Look at it, and go on.');
        }
        $isAtWork = $status->isBusy() || in_array($job, ['Pending', 'Processing'], true);
        if ($isAtWork && $looks > self::LOOKS) {
            throw new Refused('The scanner gives no more pages. Look at it, and go on.');
        }
        if (! $isAtWork && Scans::count($scan) === 0) {
            throw new Refused(
                $status->isEmpty()
                    ? 'There is no paper in the feeder. Lay it in, and go on.'
                    : 'The scanner gave no page. Look at it, and go on.',
            );
        }

        return ! $isAtWork;
    }

    public static function unfinished(CarbonInterface $before): array
    {
        return self::ids(Scan::query()->where('state', Scan::RUNNING)->where('updated_at', '<', $before));
    }

    public function about(): int
    {
        return $this->scan;
    }

    protected function givenUp(string $reason): void
    {
        Scan::query()
            ->whereKey($this->scan)
            ->where('state', Scan::RUNNING)
            ->update(['state' => Scan::STOPPED, 'says' => "Scanning stopped: {$reason}. What came is kept.", 'job' => '']);
    }
}
