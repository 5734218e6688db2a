<?php

declare(strict_types=1);

namespace App\Backup;

use App\Support\Refused;
use FilesystemIterator;
use Illuminate\Support\Facades\DB;
use PDO;
use PDOStatement;
use RecursiveDirectoryIterator;
use RecursiveIteratorIterator;
use RuntimeException;
use SplFileInfo;

/**
 * Backups in a folder: contents once, under their SHA-256, and for each backup a snapshot of the database with a list of what files there
 * were. Nothing has to be stopped: files are never changed once they are there, and each is there before the database names it.
 *
 *     contents/ab/ab12…       files of documents, and all else below the data folder
 *     snapshots/TIME/database  a copy of the database as it was at one moment
 *     snapshots/TIME/list      what there was, with hashes (Snapshot)
 *     snapshots/TIME/settings  .env, with the keys of the application
 */
final readonly class Backups
{
    private const NAME = '/^\d{4}-\d{2}-\d{2}T\d{6}Z$/';

    /** Of the data folder, what is made anew or is no part of what is kept. */
    private const LEFT_OUT = '#^(?:brenvic\.sqlite(?:-wal|-shm|-journal)?|workers/.*|before-upgrade/.*|backup-work.*|.*\.lock)$#';

    private Sealed $sealed;

    /** @throws Refused where no folder is set */
    public function __construct(private string $folder, ?string $key, private string $data)
    {
        if ($folder === '') {
            throw new Refused('Say where backups are kept: set BRENVIC_BACKUP to a folder on another disk.');
        }
        $this->sealed = new Sealed($key);
    }

    public static function set(): self
    {
        $key = (string) config('brenvic.backup.key');

        return new self(
            (string) config('brenvic.backup.folder'),
            $key === '' ? null : ((string) base64_decode($key, true) ?: throw new Refused('BRENVIC_BACKUP_KEY is not in base64.')),
            (string) config('brenvic.data'),
        );
    }

    /** @throws Refused while another one is made */
    public function make(): Snapshot
    {
        return $this->alone(function (): Snapshot {
            // One a second, so that each has a name of its own.
            for (; is_dir("{$this->folder}/snapshots/".($name = Snapshot::nameOf(now())));) {
                usleep(100_000);
            }
            $work = "{$this->data}/backup-work";
            is_dir($work) || mkdir($work, 0700, true);
            $database = "{$work}/database";
            // What was left when one was killed.
            @unlink($database);
            foreach (glob("{$this->folder}/snapshots/*.part") ?: [] as $left) {
                self::delete($left);
            }
            $part = "{$this->folder}/snapshots/{$name}.part";
            mkdir($part, 0700, true);
            try {
                // First most of the files, then the database, then the files that it names and that came meanwhile.
                $faults = [];
                $this->files($faults);
                DB::statement('VACUUM INTO ?', [$database]);
                $faults = [];
                $files = $this->files($faults);
                [$rows, $migration] = self::told($database);
                array_push($faults, ...self::missing($database, $files));
                $snapshot = new Snapshot($name, $migration, (string) hash_file('sha256', $database), $rows, $files, $faults);
                copy($database, "compress.zlib://{$database}.gz") || throw new RuntimeException('The disk of the documents is full.');
                $this->sealed->seal("{$database}.gz", "{$part}/database");
                is_file(base_path('.env')) && $this->sealed->seal(base_path('.env'), "{$part}/settings");
                file_put_contents("{$work}/list", $snapshot->json());
                $this->sealed->seal("{$work}/list", "{$part}/list");
                rename($part, "{$this->folder}/snapshots/{$name}") || throw new RuntimeException('The folder of backups cannot be written to.');

                return $snapshot;
            } finally {
                self::delete($part);
                self::delete($work);
            }
        });
    }

    /** @return list<string> names, the latest first */
    public function names(): array
    {
        $names = array_map(basename(...), glob("{$this->folder}/snapshots/*", GLOB_ONLYDIR) ?: []);
        $names = array_values(array_filter($names, static fn (string $name): bool => preg_match(self::NAME, $name) === 1));
        rsort($names);

        return $names;
    }

    /** @throws Refused where there is none */
    public function snapshot(?string $name = null): Snapshot
    {
        $name ??= $this->names()[0] ?? throw new Refused('There is no backup yet.');
        if (! in_array($name, $this->names(), true)) {
            throw new Refused("There is no backup “{$name}”.");
        }

        return Snapshot::of($this->sealed->text("{$this->folder}/snapshots/{$name}/list"));
    }

    /**
     * Writes a backup into an empty folder and holds everything against what was noted.
     *
     * @return list<string> what is wrong with it; nothing if all of it is as it was
     *
     * @throws Refused where there is something in the folder
     */
    public function restore(Snapshot $snapshot, string $into): array
    {
        if (is_dir($into) && (new FilesystemIterator($into))->valid()) {
            throw new Refused("{$into} is not empty. Restore into a new folder, and start from there once it is whole.");
        }
        is_dir($into) || mkdir($into, 0750, true) || throw new Refused("{$into} cannot be made.");
        $faults = [];
        foreach ($snapshot->files as $path => [$sha256]) {
            $folder = dirname("{$into}/{$path}");
            is_dir($folder) || mkdir($folder, 0750, true);
            try {
                $is = $this->sealed->open($this->content($sha256), "{$into}/{$path}");
                $is === $sha256 || ($faults[] = "{$path} is not what was kept.");
            } catch (RuntimeException $fault) {
                $faults[] = "{$path}: {$fault->getMessage()}";
            }
        }
        $at = "{$this->folder}/snapshots/{$snapshot->name}";
        is_file("{$at}/settings") && $this->sealed->open("{$at}/settings", "{$into}/settings.env");
        // The database last: a folder without one was not restored to its end.
        $this->database($snapshot, "{$into}/brenvic.sqlite");
        [$rows] = self::told("{$into}/brenvic.sqlite");
        $rows === $snapshot->rows || ($faults[] = 'The tables of the database have other numbers of rows.');

        return $faults;
    }

    /**
     * Restores a backup into a folder of its own, holds it against what was noted, and takes the folder away again.
     *
     * @return list<string> what is wrong with it
     */
    public function verify(Snapshot $snapshot, string $work): array
    {
        try {
            return $this->restore($snapshot, $work);
        } finally {
            self::delete($work);
        }
    }

    /**
     * Takes backups away that are kept no longer, and contents that no backup has any more. Of each day, each week and each month the
     * latest is kept, for as many of these as are said.
     *
     * @return list<string> names of those that were taken away
     */
    public function prune(int $days, int $weeks, int $months): array
    {
        return $this->alone(function () use ($days, $weeks, $months): array {
            $names = $this->names();
            $gone = array_values(array_diff($names, self::kept($names, $days, $weeks, $months)));
            foreach ($gone as $name) {
                self::delete("{$this->folder}/snapshots/{$name}");
            }
            $used = [];
            foreach ($this->names() as $name) {
                foreach ($this->snapshot($name)->files as [$sha256]) {
                    $used[$this->sealed->name($sha256)] = true;
                }
            }
            foreach (glob("{$this->folder}/contents/*/*") ?: [] as $file) {
                isset($used[basename($file)]) || unlink($file);
            }

            return $gone;
        });
    }

    /**
     * @param  list<string>  $names  the latest first
     * @return list<string>
     */
    public static function kept(array $names, int $days, int $weeks, int $months): array
    {
        $kept = array_slice($names, 0, 1);
        foreach (['Y-m-d' => $days, 'o-W' => $weeks, 'Y-m' => $months] as $form => $most) {
            $periods = [];
            foreach ($names as $name) {
                $period = Snapshot::timeOf($name)->format($form);
                if (! isset($periods[$period]) && count($periods) < $most) {
                    $periods[$period] = $name;
                }
            }
            array_push($kept, ...array_values($periods));
        }

        return array_values(array_unique($kept));
    }

    /** Writes one of the kept contents to where it belongs, as a file that was damaged or lost. */
    public function mend(string $sha256, string $target): bool
    {
        $content = $this->content($sha256);
        if (! is_file($content)) {
            return false;
        }
        $temporary = $target.'.part'.getmypid();
        is_dir(dirname($target)) || mkdir(dirname($target), 0750, true);
        try {
            return $this->sealed->open($content, $temporary) === $sha256 && rename($temporary, $target);
        } catch (RuntimeException) {
            return false;
        } finally {
            @unlink($temporary);
        }
    }

    /** The database of a backup, written to where it can be read. */
    public function database(Snapshot $snapshot, string $target): void
    {
        try {
            $this->sealed->open("{$this->folder}/snapshots/{$snapshot->name}/database", "{$target}.gz");
            if (! copy("compress.zlib://{$target}.gz", "{$target}.part") || hash_file('sha256', "{$target}.part") !== $snapshot->database) {
                throw new RuntimeException('The database is not what was kept.');
            }
            rename("{$target}.part", $target);
        } finally {
            @unlink("{$target}.gz");
            @unlink("{$target}.part");
        }
    }

    /**
     * Keeps every file below the data folder.
     *
     * @param  list<string>  $faults
     * @return array<string, array{string, int}> SHA-256 and bytes by path
     */
    private function files(array &$faults): array
    {
        $files = [];
        $all = new RecursiveIteratorIterator(new RecursiveDirectoryIterator($this->data, FilesystemIterator::SKIP_DOTS));
        /** @var SplFileInfo $file */
        foreach ($all as $file) {
            $path = substr($file->getPathname(), strlen($this->data) + 1);
            if ($file->isLink() || ! $file->isFile() || preg_match(self::LEFT_OUT, $path) === 1) {
                continue;
            }
            // The name of a file of a document is its hash: what is kept already is not read again.
            $named = preg_match('#^files/[0-9a-f]{2}/([0-9a-f]{64})$#', $path, $m) === 1 ? $m[1] : null;
            if ($named !== null && is_file($this->content($named))) {
                $files[$path] = [$named, (int) $file->getSize()];

                continue;
            }
            $sha256 = @hash_file('sha256', $file->getPathname());
            if ($sha256 === false) {
                // Taken away meanwhile.
                continue;
            }
            if ($named !== null && $named !== $sha256) {
                $faults[] = "{$path} is damaged: it is not what was stored.";
            }
            $content = $this->content($sha256);
            if (! is_file($content)) {
                is_dir(dirname($content)) || mkdir(dirname($content), 0700, true);
                try {
                    $sha256 = $this->sealed->seal($file->getPathname(), $content);
                } catch (RuntimeException $fault) {
                    if (! is_file($file->getPathname())) {
                        continue;
                    }
                    throw $fault;
                }
            }
            $files[$path] = [$sha256, (int) $file->getSize()];
        }
        ksort($files);

        return $files;
    }

    private function content(string $sha256): string
    {
        $name = $this->sealed->name($sha256);

        return "{$this->folder}/contents/{$name[0]}{$name[1]}/{$name}";
    }

    /** @return array{array<string, int>, string} rows by table, and the last migration */
    private static function told(string $database): array
    {
        $pdo = self::pdo($database);
        if (self::asked($pdo, 'PRAGMA integrity_check')->fetchColumn() !== 'ok') {
            throw new RuntimeException('The database is damaged.');
        }
        $rows = [];
        $tables = self::asked($pdo, "SELECT name FROM sqlite_master WHERE type = 'table' AND name NOT LIKE 'sqlite_%' ORDER BY name");
        foreach ($tables->fetchAll(PDO::FETCH_COLUMN) as $table) {
            $rows[(string) $table] = (int) self::asked($pdo, "SELECT count(*) FROM \"{$table}\"")->fetchColumn();
        }

        return [$rows, (string) self::asked($pdo, 'SELECT migration FROM migrations ORDER BY id DESC LIMIT 1')->fetchColumn()];
    }

    /**
     * @param  array<string, array{string, int}>  $files
     * @return list<string> files that the database names and that are not there
     */
    private static function missing(string $database, array $files): array
    {
        $faults = [];
        $pdo = self::pdo($database);
        $named = self::asked(
            $pdo,
            'SELECT ref, sha256 FROM documents '.
                'UNION SELECT d.ref, v.sha256 FROM versions v JOIN documents d ON d.id = v.document_id',
        );
        foreach ($named->fetchAll(PDO::FETCH_NUM) as [$ref, $sha256]) {
            $path = 'files/'.substr((string) $sha256, 0, 2)."/{$sha256}";
            isset($files[$path]) || ($faults[] = "A file of {$ref} is missing.");
        }

        return array_values(array_unique($faults));
    }

    public static function asked(PDO $pdo, string $sql): PDOStatement
    {
        return $pdo->query($sql) ?: throw new RuntimeException('The database of the backup cannot be read.');
    }

    public static function pdo(string $database): PDO
    {
        return new PDO("sqlite:{$database}", options: [PDO::ATTR_ERRMODE => PDO::ERRMODE_EXCEPTION]);
    }

    /**
     * @template T
     *
     * @param  callable(): T  $act
     * @return T
     */
    private function alone(callable $act): mixed
    {
        is_dir($this->folder) || @mkdir($this->folder, 0700, true) || throw new Refused("The folder of backups {$this->folder} cannot be made.");
        foreach (['snapshots', 'contents'] as $below) {
            is_dir("{$this->folder}/{$below}") || mkdir("{$this->folder}/{$below}", 0700);
        }
        $lock = fopen("{$this->folder}/lock", 'cb') ?: throw new Refused('The folder of backups cannot be written to.');
        if (! flock($lock, LOCK_EX | LOCK_NB)) {
            throw new Refused('A backup is being made already.');
        }
        try {
            return $act();
        } finally {
            fclose($lock);
        }
    }

    private static function delete(string $path): void
    {
        is_dir($path) && (new \Illuminate\Filesystem\Filesystem())->deleteDirectory($path);
    }
}
