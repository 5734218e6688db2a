<?php

declare(strict_types=1);

namespace App\Health;

use App\Alarms\Alarms;
use Illuminate\Support\Carbon;
use Illuminate\Support\Facades\DB;

/** Figures in the text format of OpenMetrics 1.0 (as it was before, Prometheus exposition 0.0.4), which monitoring programs read. */
final class Metrics
{
    public static function text(): string
    {
        $data = (string) config('brenvic.data');
        $made = NightlyBackup::last()['made'] ?? null;
        $at = $made === null ? null : Carbon::createFromFormat('Y-m-d\THis\Z', $made, 'UTC');
        $figures = [
            ['documents', 'Documents by state.', 'state', DB::table('documents')->groupBy('state')->selectRaw('state, count(*) AS n')->pluck('n', 'state')->all()],
            ['texts', 'Documents by whether their text was read.', 'state', DB::table('documents')->groupBy('text_state')->selectRaw('text_state, count(*) AS n')->pluck('n', 'text_state')->all()],
            ['jobs_waiting', 'Jobs that wait or run, by queue.', 'queue', DB::table('jobs')->groupBy('queue')->selectRaw('queue, count(*) AS n')->pluck('n', 'queue')->all()],
            ['jobs_failed', 'Jobs that were given up.', '', ['' => DB::table('failed_jobs')->count()]],
            ['sessions', 'Sessions of people who are signed in.', '', ['' => DB::table('sessions')->count()]],
            ['alarms', 'Alarms that nobody has looked after.', '', ['' => Alarms::count()]],
            ['disk_free_bytes', 'Free on the disk of the documents.', '', ['' => (int) @disk_free_space($data)]],
            ['database_bytes', 'The database on disk.', '', ['' => (int) @filesize((string) DB::connection()->getDatabaseName())]],
            ['backup_age_seconds', 'Since the last backup.', 'backup', array_filter(['last' => $at === null ? null : (int) $at->diffInSeconds(now())], is_int(...))],
            ['worker_beat_age_seconds', 'Since somebody in the background was last there.', 'worker', array_filter(
                ['1' => Beats::age('1'), '2' => Beats::age('2'), 'watch' => Beats::age('watch'), 'care' => Beats::age('care')],
                is_int(...),
            )],
        ];
        $lines = [];
        foreach ($figures as [$name, $help, $label, $values]) {
            $lines[] = "# HELP brenvic_{$name} {$help}";
            $lines[] = "# TYPE brenvic_{$name} gauge";
            foreach ($values as $of => $value) {
                $lines[] = "brenvic_{$name}".($of === '' ? '' : "{{$label}=\"{$of}\"}")." {$value}";
            }
        }

        return implode("\n", $lines)."\n";
    }
}
