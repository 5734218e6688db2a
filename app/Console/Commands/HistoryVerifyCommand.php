<?php

declare(strict_types=1);

namespace App\Console\Commands;

use App\Console\PlainCommand;
use App\History\History;

final class HistoryVerifyCommand extends PlainCommand
{
    protected $signature = 'brenvic:history:verify {--json : the result as JSON}';

    protected $description = 'Checks that no entry of the history was changed, removed or added';

    public function handle(): int
    {
        ['entries' => $entries, 'broken' => $broken, 'cut' => $cut] = History::verify();
        if ($this->isForPrograms()) {
            $this->json(['entries' => $entries, 'broken_at' => $broken, 'cut_at' => $cut]);

            return $broken === null && $cut === null ? self::SUCCESS : self::AMISS;
        }
        if ($broken !== null) {
            $this->error("The chain is broken at entry {$broken}; the {$entries} entries before it hold.");

            return self::AMISS;
        }
        if ($cut !== null) {
            $this->error(
                $cut === 0
                    ? "The {$entries} entries hold, but the note of their end (history.end, beside the database) is gone: whether any were cut off cannot be told."
                    : "The end of the history was cut off: entry {$cut}, which was noted, is there no more. The {$entries} entries before it hold.",
            );

            return self::AMISS;
        }
        $this->info("All {$entries} entries hold.");

        return self::SUCCESS;
    }
}
