<?php

declare(strict_types=1);

namespace App\Console\Commands;

use App\Backup\Backups;
use App\Backup\DocumentRestore;
use App\Console\PlainCommand;
use App\Support\Refused;
use RuntimeException;

final class RestoreCommand extends PlainCommand
{
    protected $signature = 'brenvic:restore
        {name? : of the backup; the latest if not said}
        {--into= : an empty folder that all of it is written into}
        {--document= : the reference of one document that comes back to where it was}
        {--json : the result as JSON}';

    protected $description = 'Restores a backup into an empty folder, or one document to where it was';

    public function handle(DocumentRestore $documents): int
    {
        try {
            $backups = Backups::set();
            $snapshot = $backups->snapshot($this->argument('name'));
            [$into, $document] = [$this->option('into'), $this->option('document')];
            if (is_string($document)) {
                $done = $documents->restore($backups, $snapshot, $document);
                $this->isForPrograms()
                    ? $this->json(['backup' => $snapshot->name, 'document' => $document, ...$done])
                    : $this->line("{$document} of {$snapshot->name}: {$done['documents']} documents and {$done['files']} files came back.");

                return self::SUCCESS;
            }
            if (! is_string($into)) {
                throw new Refused('Say where to: --into=FOLDER for all of it, --document=REFERENCE for one document.');
            }
            $faults = $backups->restore($snapshot, rtrim($into, '/'));
            if ($this->isForPrograms()) {
                $this->json(['backup' => $snapshot->name, 'into' => $into, 'faults' => $faults]);

                return $faults === [] ? self::SUCCESS : self::AMISS;
            }
            array_map($this->warn(...), $faults);
            $this->line(
                $faults === [] ? "All of {$snapshot->name} is in {$into}. Start with BRENVIC_DATA={$into}." : 'Not all of it is as it was.',
            );

            return $faults === [] ? self::SUCCESS : self::AMISS;
        } catch (Refused|RuntimeException $fault) {
            $this->error($fault->getMessage());

            return self::FAILURE;
        }
    }
}
