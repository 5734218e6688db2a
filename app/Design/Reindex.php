<?php

declare(strict_types=1);

namespace App\Design;

use App\Index\Indexer;
use App\Intake\Filing;
use App\Jobs\BackgroundJob;
use App\Jobs\Urgency;
use App\Models\Document;
use App\Models\Reindexing;
use App\Support\Column;
use Carbon\CarbonInterface;
use Illuminate\Contracts\Foundation\Application;
use Illuminate\Database\Eloquent\Builder;
use Illuminate\Support\Facades\DB;

/**
 * Brings titles and index up to date after a change of the design, a piece at a time so that searching and filing go on.
 * Each document is done whole or not at all; stopped work can go on later where it was.
 */
final class Reindex extends BackgroundJob
{
    private const PIECE = 200;

    /** The same where nothing but how long they are kept differs: no text is read. */
    private const KEPT_PIECE = 5_000;

    public function __construct(private readonly int $work)
    {
    }

    public static function begin(int $work): void
    {
        self::dispatch($work)->onQueue(Urgency::Bulk->value)->afterCommit();
    }

    public function handle(Application $application): void
    {
        // The design may have been read before it was changed.
        $application->forgetScopedInstances();
        DB::transaction(function () use ($application): void {
            $work = Reindexing::query()->find($this->work);
            if ($work === null || $work->state !== Reindexing::RUNNING) {
                return;
            }
            $ids = Column::numbers(self::documents($work)->where('id', '>', $work->reached)->orderBy('id')->limit($work->only_retention ? self::KEPT_PIECE : self::PIECE)->pluck('id'));
            if ($ids === []) {
                $work->update(['state' => Reindexing::DONE]);

                return;
            }
            if ($work->only_retention) {
                $application->make(Indexer::class)->retention($ids);
            } else {
                $application->make(Filing::class)->retitle($ids);
                $application->make(Indexer::class)->update($ids);
            }
            $work->update(['reached' => (int) end($ids), 'done' => $work->done + count($ids)]);
            self::begin($this->work);
        });
    }

    public static function unfinished(CarbonInterface $before): array
    {
        return self::ids(Reindexing::query()->where('state', Reindexing::RUNNING)->where('updated_at', '<', $before));
    }

    public function about(): int
    {
        return $this->work;
    }

    protected function givenUp(string $reason): void
    {
        Reindexing::query()
            ->whereKey($this->work)
            ->where('state', Reindexing::RUNNING)
            ->update(['state' => Reindexing::STOPPED, 'says' => "It stopped: {$reason}."]);
    }

    /** @return Builder<Document> all documents that some work touches */
    public static function documents(Reindexing $work): Builder
    {
        return Document::query()->where('state', Document::FILED)->where(
            fn (Builder $any) => $any
                ->whereIntegerInRaw('document_type_id', $work->types)
                ->orWhereIntegerInRaw('library_id', $work->libraries)
                ->orWhereIn('id', DB::table('document_values')->whereIntegerInRaw('field_id', $work->fields)->select('document_id'))
                ->orWhereIn(
                    'id',
                    DB::table('document_dossier')
                        ->join('dossiers', 'dossiers.id', '=', 'document_dossier.dossier_id')
                        ->leftJoin('dossier_values', 'dossier_values.dossier_id', '=', 'dossiers.id')
                        ->where(
                            fn ($q) => $q
                                ->whereIn('kind', $work->dossier_kinds)
                                ->orWhereIntegerInRaw('dossier_values.field_id', $work->fields),
                        )
                        ->select('document_id'),
                ),
        );
    }
}
