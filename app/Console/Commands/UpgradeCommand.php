<?php

declare(strict_types=1);

namespace App\Console\Commands;

use App\Backup\Backups;
use App\Backup\Snapshot;
use App\Console\PlainCommand;
use App\Support\Refused;
use Illuminate\Database\Migrations\Migrator;
use Illuminate\Support\Facades\Artisan;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Schema;
use RuntimeException;

final class UpgradeCommand extends PlainCommand
{
    protected $signature = 'brenvic:upgrade {--json : the result as JSON}';

    protected $description = 'Brings the database up to this version, after a copy of it was made; refuses one of a newer version';

    /** Copies of the database from before earlier upgrades that are kept. */
    private const KEPT = 2;

    public function handle(Migrator $migrator): int
    {
        $known = array_keys($migrator->getMigrationFiles(database_path('migrations')));
        $done = Schema::hasTable('migrations') ? DB::table('migrations')->pluck('migration')->all() : [];
        $newer = array_diff($done, $known);
        if ($newer !== []) {
            $this->error(
                'This database was made by a newer version of Brenvic ('.
                    end($newer).
                    '). Start that version, or restore a backup of this one.',
            );

            return self::FAILURE;
        }
        $left = array_diff($known, $done);
        if ($left === []) {
            $this->isForPrograms() && $this->json(['changes' => 0, 'copy' => null]);

            return self::SUCCESS;
        }
        try {
            $copy = $done === [] ? null : $this->copy();
        } catch (Refused|RuntimeException $fault) {
            $this->error("Nothing was changed: there is no backup to go back to. {$fault->getMessage()}");

            return self::FAILURE;
        }

        $isDone = Artisan::call('migrate', ['--force' => true, '--quiet' => true]) === 0;
        $this->isForPrograms() &&
            $this->json(
                $isDone
                    ? ['changes' => count($left), 'copy' => $copy]
                    : ['error' => 'The database could not be brought up to this version.'],
            );

        return $isDone ? self::SUCCESS : self::FAILURE;
    }

    /** To a backup where the office has set a folder for these, beside the database where it has not. */
    private function copy(): string
    {
        if ((string) config('brenvic.backup.folder') !== '') {
            $backup = Backups::set()->make()->name;
            $this->isForPrograms() || $this->line("A backup is made before the upgrade: {$backup}");

            return $backup;
        }
        $folder = config('brenvic.data').'/before-upgrade';
        is_dir($folder) || mkdir($folder, 0700, true);
        $copy = "{$folder}/".Snapshot::nameOf(now()).'.sqlite';
        DB::statement('VACUUM INTO ?', [$copy]);
        $copies = glob("{$folder}/*.sqlite") ?: [];
        rsort($copies);
        array_map(unlink(...), array_slice($copies, self::KEPT));
        $this->isForPrograms() || $this->line("A copy of the database from before the upgrade is at {$copy}");

        return $copy;
    }
}
