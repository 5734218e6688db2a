<?php

declare(strict_types=1);

namespace App\Console\Commands;

use App\Console\PlainCommand;
use App\Index\Health;
use App\Models\Document;
use App\Models\Reindexing;

final class CheckCommand extends PlainCommand
{
    protected $signature = 'brenvic:check {--json : machine-readable}';

    protected $description = 'Compares the search index with the documents and says what differs';

    private const SHOWN = 20;

    public function handle(Health $health): int
    {
        $bar = $this->option('json') ? null : $this->output->createProgressBar();
        $found = $health->check(static function (int $done, int $all) use ($bar): void {
            $bar?->setMaxSteps($all);
            $bar?->setProgress($done);
        });
        $bar?->clear();
        $isSound = $found === ['missing' => [], 'surplus' => [], 'different' => [], 'keys' => []];
        if ($this->option('json')) {
            $this->json(['sound' => $isSound, ...$found]);
        } elseif ($isSound) {
            $this->info('The index and the documents agree.');
        } else {
            $this->report('Not in the index', $found['missing']);
            $this->report('In the index, but not filed', $found['surplus']);
            $this->report('Indexed with other words or values', $found['different']);
            foreach (array_slice($found['keys'], 0, self::SHOWN, true) as $key => $documents) {
                $this->report('Wrong in the '.Health::describe($key), $documents);
            }
            $work = Reindexing::query()->where('state', Reindexing::RUNNING)->first();
            $this->line(
                $work === null
                    ? 'php artisan brenvic:rebuild makes the index anew.'
                    : "A change of the design is still being carried out ({$work->done} of {$work->total} documents): check again when it is done.",
            );
        }

        return $isSound ? self::SUCCESS : self::AMISS;
    }

    /** @param  list<int>  $ids */
    private function report(string $what, array $ids): void
    {
        if ($ids !== []) {
            $references = array_map(Document::refOf(...), array_slice($ids, 0, self::SHOWN));
            $this->line("{$what}: ".count($ids).' ('.implode(', ', $references).(count($ids) > self::SHOWN ? ' …' : '').')');
        }
    }
}
