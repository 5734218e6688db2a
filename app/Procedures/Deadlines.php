<?php

declare(strict_types=1);

namespace App\Procedures;

use App\Models\ProcedureCase;
use App\Models\Task;
use Brenvic\Core\Procedures\Machine;
use Brenvic\Core\Procedures\Record\CaseState;
use Brenvic\Core\Procedures\Record\Event;
use Closure;
use Illuminate\Database\Eloquent\Builder;
use Illuminate\Support\Facades\Log;
use Throwable;

/** Looks for deadlines that are near or over, and has happen what the procedures say. */
final readonly class Deadlines
{
    /** Of each kind in one look; the rest has the next. */
    private const MOST = 1_000;

    public function __construct(private Cases $cases)
    {
    }

    /** @return int how many there were */
    public function check(): int
    {
        $today = now()->toDateString();
        // What is overdue is not reminded of as well.
        $over = $this->each(
            Task::query()->whereNull('closed_at')->where('is_overdue', false)->where('due', '<', $today)->orderBy('due'),
            static fn (Machine $machine, CaseState $state, int $task): array => $machine->overdue($state, $task),
        );

        return $over + $this->each(
            Task::query()->whereNull('closed_at')->whereNotNull('remind')->where('remind', '<=', $today)->orderBy('remind'),
            static fn (Machine $machine, CaseState $state, int $task): array => $machine->remind($state, $task),
        );
    }

    /**
     * @param  Builder<Task>  $tasks
     * @param  Closure(Machine, CaseState, int): list<Event>  $what
     */
    private function each(Builder $tasks, Closure $what): int
    {
        $found = $tasks->limit(self::MOST)->get(['id', 'case_id', 'number']);
        $cases = ProcedureCase::query()->findMany($found->pluck('case_id')->unique()->all())->keyBy('id');
        foreach ($found as $task) {
            $case = $cases->get($task->case_id);
            try {
                $case === null || $this->cases->act($case, static fn (Machine $machine, CaseState $state): array => $what($machine, $state, $task->number));
            } catch (Throwable $fault) {
                // One case that cannot go on keeps no other from it.
                Log::error('A deadline could not be looked after.', ['case' => $task->case_id, 'exception' => $fault]);
            }
        }

        return $found->count();
    }
}
