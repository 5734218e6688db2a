<?php

declare(strict_types=1);

namespace App\Jobs;

use App\Index\Indexer;
use App\Intake\Filing;
use App\Models\Document;
use Illuminate\Contracts\Foundation\Application;
use Illuminate\Contracts\Queue\ShouldQueue;
use Illuminate\Database\Eloquent\Builder;
use Illuminate\Foundation\Queue\Queueable;
use Illuminate\Support\Facades\DB;

/** Brings the index up to date after a change of the design, a piece at a time so that searching and filing go on. */
final class Reindex implements ShouldQueue
{
    use Queueable;

    private const PIECE = 200;

    /** @param  'field'|'type'  $of */
    public function __construct(
        private readonly string $of,
        private readonly int $id,
        private readonly int $after = 0,
        private readonly bool $retitle = false,
    ) {
    }

    public function handle(Application $application): void
    {
        // The design may have been read before it was changed.
        $application->forgetScopedInstances();
        $indexer = $application->make(Indexer::class);
        $ids = Document::query()->where('state', Document::FILED)->where('id', '>', $this->after)
            ->when($this->of === 'type', fn (Builder $q) => $q->where('document_type_id', $this->id))
            ->when($this->of === 'field', fn (Builder $q) => $q->whereIn('id', DB::table('document_values')->where('field_id', $this->id)->select('document_id')))
            ->orderBy('id')->limit(self::PIECE)->pluck('id')->all();
        if ($ids === []) {
            return;
        }
        DB::transaction(function () use ($application, $indexer, $ids): void {
            $this->retitle && $application->make(Filing::class)->retitle($ids);
            $indexer->update($ids);
            self::dispatch($this->of, $this->id, (int) end($ids), $this->retitle);
        });
    }
}
