<?php

declare(strict_types=1);

namespace App\Console\Commands;

use App\Backup\Backups;
use App\Console\PlainCommand;
use App\Health\NightlyBackup;
use App\Support\Refused;
use RuntimeException;

final class BackupCommand extends PlainCommand
{
    protected $signature = 'brenvic:backup
        {act=make : make, list, verify, prune or key}
        {name? : of the backup that is verified; the latest if not said}
        {--json : for programs}';

    protected $description = 'Makes backups in the folder BRENVIC_BACKUP, lists them, verifies one by restoring it, takes old ones away';

    public function handle(): int
    {
        try {
            return match ((string) $this->argument('act')) {
                'make' => $this->make(Backups::set()),
                'list' => $this->listed(Backups::set()),
                'verify' => $this->verify(Backups::set()),
                'prune' => $this->prune(),
                'key' => $this->key(),
                default => throw new Refused('Acts are make, list, verify, prune and key.'),
            };
        } catch (Refused|RuntimeException $fault) {
            $this->error($fault->getMessage());

            return self::FAILURE;
        }
    }

    private function make(Backups $backups): int
    {
        $snapshot = $backups->make();
        $this->option('json')
            ? $this->json(['name' => $snapshot->name, 'files' => count($snapshot->files), 'bytes' => $snapshot->bytes(), 'faults' => $snapshot->faults])
            : $this->line(sprintf('%s: %s files, %.1f MB', $snapshot->name, number_format(count($snapshot->files)), $snapshot->bytes() / 1e6));
        foreach ($this->option('json') ? [] : $snapshot->faults as $fault) {
            $this->warn($fault);
        }

        return $snapshot->faults === [] ? self::SUCCESS : self::AMISS;
    }

    private function listed(Backups $backups): int
    {
        foreach ($backups->names() as $name) {
            $this->option('json') ? $this->json(['name' => $name]) : $this->line($name);
        }

        return self::SUCCESS;
    }

    private function verify(Backups $backups): int
    {
        $snapshot = $backups->snapshot($this->argument('name'));
        $faults = $backups->verify($snapshot, sys_get_temp_dir().'/brenvic-verify-'.getmypid());
        $this->option('json') ? $this->json(['name' => $snapshot->name, 'faults' => $faults]) : array_map($this->warn(...), $faults);
        if ($faults === [] && ! $this->option('json')) {
            $this->line("{$snapshot->name} is whole: every file and every table is as it was.");
        }

        return $faults === [] ? self::SUCCESS : self::AMISS;
    }

    private function prune(): int
    {
        foreach (NightlyBackup::prune(Backups::set()) as $name) {
            $this->option('json') ? $this->json(['taken_away' => $name]) : $this->line("{$name} is taken away.");
        }

        return self::SUCCESS;
    }

    /** A new key; whoever loses it loses the backups. */
    private function key(): int
    {
        $key = base64_encode(random_bytes(32));
        $this->option('json') ? $this->json(['key' => $key]) : $this->line($key);

        return self::SUCCESS;
    }
}
