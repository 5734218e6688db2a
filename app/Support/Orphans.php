<?php

declare(strict_types=1);

namespace App\Support;

use App\Jobs\BackgroundJob;
use App\Jobs\ChangeValues;
use App\Jobs\Deliver;
use App\Jobs\MakeRedacted;
use App\Jobs\ReadText;
use App\Jobs\Reindex;
use App\Models\Delivery;
use App\Models\Document;
use App\Models\Reindexing;
use App\Models\ValueAct;
use Illuminate\Support\Facades\Cache;
use Illuminate\Support\Facades\DB;

/**
 * Work that says it is going on while no job is there to do it: who began it, or gave it up, was killed between the two. It is
 * begun once more; what is found so again is given up, so that somebody sees it.
 */
final class Orphans
{
    /** Seconds within which a job may still be on its way. */
    private const AGE = 120;

    private const REMEMBERED = 86_400;

    public static function adopt(): void
    {
        $jobs = self::jobs();
        foreach (self::unfinished() as $class => $ids) {
            foreach (array_diff($ids, $jobs[$class] ?? []) as $id) {
                $job = new $class($id);
                if (Cache::add("adopted/{$class}/{$id}", 1, self::REMEMBERED)) {
                    dispatch($job);
                } else {
                    $job->failed(null);
                }
            }
        }
    }

    /** @return array<class-string<BackgroundJob>, list<int>> */
    private static function unfinished(): array
    {
        $before = now()->subSeconds(self::AGE);
        $ids = static fn ($query): array => array_values(array_map(intval(...), $query->pluck('id')->all()));

        return [
            Deliver::class => $ids(Delivery::query()->whereIn('state', [Delivery::WAITING, Delivery::RUNNING])->where('updated_at', '<', $before)),
            ReadText::class => $ids(Document::query()->where('text_state', Document::TEXT_PENDING)->where('updated_at', '<', $before)),
            ChangeValues::class => $ids(ValueAct::query()->whereIn('state', [ValueAct::RUNNING, ValueAct::UNDOING])->where('stopped', '')->where('updated_at', '<', $before)),
            Reindex::class => $ids(Reindexing::query()->where('state', Reindexing::RUNNING)->where('updated_at', '<', $before)),
            // A copy is missing where something is removed and neither a copy nor a fault is kept.
            MakeRedacted::class => $ids(DB::table('documents')->whereNull('deleted_at')
                ->whereIn('id', DB::table('redactions')->where('made_at', '<', $before)->select('document_id'))
                ->whereNotIn('id', DB::table('renditions')->where('form', 'redacted')->select('document_id'))),
        ];
    }

    /** @return array<string, list<int>> by class, what the waiting and running jobs are about */
    private static function jobs(): array
    {
        $jobs = [];
        foreach (DB::table('jobs')->orderBy('id')->lazy(1_000) as $row) {
            $command = json_decode((string) $row->payload, true)['data']['command'] ?? '';
            $job = is_string($command) ? @unserialize($command) : false;
            $about = $job instanceof BackgroundJob ? $job->about() : null;
            if ($about !== null) {
                $jobs[$job::class][] = $about;
            }
        }

        return $jobs;
    }
}
