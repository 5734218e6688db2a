<?php

declare(strict_types=1);

namespace App\Health;

use App\Alarms\Alarms;
use Illuminate\Support\Facades\DB;

/** Figures in the text format of OpenMetrics 1.0 (as it was before, Prometheus exposition 0.0.4), which monitoring programs read. */
final class Metrics
{
    public static function text(): string
    {
        $ages = ['1' => Beats::age('1'), '2' => Beats::age('2'), 'watch' => Beats::age('watch'), 'care' => Beats::age('care')];
        $made = NightlyBackup::madeAt();

        return implode('', [
            self::figure('documents', 'Documents by state.', self::counts('documents', 'state'), 'state'),
            self::figure('texts', 'Documents by whether their text was read.', self::counts('documents', 'text_state'), 'state'),
            self::figure('jobs_waiting', 'Jobs that wait or run, by queue.', self::counts('jobs', 'queue'), 'queue'),
            self::figure('jobs_failed', 'Jobs that were given up.', ['' => DB::table('failed_jobs')->count()]),
            self::figure('sessions', 'Sessions of people who are signed in.', ['' => DB::table('sessions')->count()]),
            self::figure('alarms', 'Alarms that nobody has looked after.', ['' => Alarms::count()]),
            self::figure('disk_free_bytes', 'Free on the disk of the documents.', ['' => (int) @disk_free_space((string) config('brenvic.data'))]),
            self::figure('database_bytes', 'The database on disk.', ['' => (int) @filesize((string) DB::connection()->getDatabaseName())]),
            self::figure('backup_age_seconds', 'Since the last backup.', $made === null ? [] : ['last' => (int) $made->diffInSeconds(now())], 'backup'),
            self::figure('worker_beat_age_seconds', 'Since somebody in the background was last there.', array_filter($ages, is_int(...)), 'worker'),
        ]);
    }

    /**
     * @param  array<int|string, int>  $values  by what the label says; by nothing where there is one only
     */
    private static function figure(string $name, string $help, array $values, string $label = ''): string
    {
        $text = "# HELP brenvic_{$name} {$help}\n# TYPE brenvic_{$name} gauge\n";
        foreach ($values as $of => $value) {
            $text .= "brenvic_{$name}".($label === '' ? '' : "{{$label}=\"{$of}\"}")." {$value}\n";
        }

        return $text;
    }

    /** @return array<int|string, int> how many rows of a table have each value of a column */
    private static function counts(string $table, string $column): array
    {
        return array_map(intval(...), DB::table($table)->groupBy($column)->selectRaw("{$column}, count(*) AS n")->pluck('n', $column)->all());
    }
}
