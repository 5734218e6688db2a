<?php

declare(strict_types=1);

namespace App\Backup;

use Carbon\CarbonInterface;
use Illuminate\Support\Carbon;
use RuntimeException;

/** What one backup holds. */
final readonly class Snapshot
{
    /** How a backup, and whatever else is of one moment, is named by its time. */
    private const FORM = 'Y-m-d\THis\Z';

    /**
     * @param  string  $name  its time, as 2026-11-30T214500Z
     * @param  string  $migration  the last one of the database
     * @param  string  $database  SHA-256
     * @param  array<string, int>  $rows  how many by table
     * @param  array<string, array{string, int}>  $files  SHA-256 and bytes by path below the data folder
     * @param  list<string>  $faults  files that were not what their names say, or were gone
     */
    public function __construct(
        public string $name,
        public string $migration,
        public string $database,
        public array $rows,
        public array $files,
        public array $faults,
    ) {
    }

    public static function nameOf(CarbonInterface $time): string
    {
        return $time->utc()->format(self::FORM);
    }

    /** The time that is in a name. */
    public static function timeOf(string $name): Carbon
    {
        return Carbon::createFromFormat(self::FORM, $name, 'UTC') ?? throw new RuntimeException('Not the name of a backup.');
    }

    public function bytes(): int
    {
        return array_sum(array_column($this->files, 1));
    }

    public function json(): string
    {
        return json_encode(
            ['format' => 'brenvic-backup 1', ...get_object_vars($this)],
            JSON_THROW_ON_ERROR | JSON_UNESCAPED_SLASHES | JSON_INVALID_UTF8_SUBSTITUTE,
        );
    }

    public static function of(string $json): self
    {
        /**
         * @var array{
         *     name: string, migration: string, database: string, rows: array<string, int>, files: array<string, array{string, int}>,
         *     faults: list<string>,
         * } $read
         */
        $read = json_decode($json, true, flags: JSON_THROW_ON_ERROR);

        return new self($read['name'], $read['migration'], $read['database'], $read['rows'], $read['files'], $read['faults']);
    }
}
