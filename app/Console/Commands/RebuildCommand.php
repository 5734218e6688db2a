<?php

declare(strict_types=1);

namespace App\Console\Commands;

use App\Console\PlainCommand;
use App\Index\IndexState;
use App\Index\Rebuild;

final class RebuildCommand extends PlainCommand
{
    protected $signature = 'brenvic:rebuild
        {--if-needed : only when the index is of an older form}
        {--cancel : stop a rebuild that was begun and forget what it made}
        {--json : how many documents it has, as JSON, at the end}';

    protected $description = 'Makes the search index anew from the documents; searches see the old one until it is done';

    public function handle(Rebuild $rebuild): int
    {
        if ($this->option('cancel')) {
            $rebuild->cancel();

            return self::SUCCESS;
        }
        if ($this->option('if-needed') && IndexState::read()->isCurrent()) {
            return self::SUCCESS;
        }
        $bar = $this->isForPrograms() ? null : $this->output->createProgressBar();
        $documents = 0;
        $rebuild->run(static function (int $done, int $all) use ($bar, &$documents): void {
            $documents = $done;
            $bar?->setMaxSteps($all);
            $bar?->setProgress($done);
        });
        $bar?->finish();
        $bar === null ? $this->json(['documents' => $documents]) : $this->newLine();

        return self::SUCCESS;
    }
}
