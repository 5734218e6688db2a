<?php

declare(strict_types=1);

namespace App\Reports;

use App\Access\Rights;
use App\Find\Searching;
use App\Models\User;
use App\Procedures\Figures;
use Brenvic\Core\Reports\Column;
use Brenvic\Core\Reports\Measure;
use Brenvic\Core\Reports\Plot;
use Brenvic\Core\Reports\ReportRow;
use Brenvic\Core\Reports\ReportTable;
use Illuminate\Support\Facades\DB;

/** What waits for decisions, what was decided, by whom, and how long it took. */
final readonly class TasksReport implements Report
{
    public function __construct(private Figures $figures, private Rights $rights, private Searching $searching)
    {
    }

    public function code(): string
    {
        return 'tasks';
    }

    public function name(): string
    {
        return 'Tasks';
    }

    public function hasPeriod(): bool
    {
        return true;
    }

    public function narrowedBy(): array
    {
        return [];
    }

    public function tables(User $user, Asked $asked): array
    {
        $steps = $people = [];
        $open = $this->figures->open($user);
        foreach ($open as $part) {
            foreach ($this->figures->of($part, $user, $asked->span->first(), $asked->span->last())['steps'] as $step) {
                $steps[] = new ReportRow([
                    "{$part->name}: {$step['name']}",
                    $step['waiting'],
                    $step['overdue'],
                    $step['oldest'],
                    $step['decided'],
                    $step['late'],
                    $step['hours'],
                    $step['slowest'],
                ]);
                foreach ($step['people'] as $person) {
                    $people[] = new ReportRow([$person['name'], "{$part->name}: {$step['name']}", $person['decided'], $person['hours']]);
                }
            }
        }
        usort($people, static fn (ReportRow $a, ReportRow $b): int => [$a->cells[0], $b->cells[2]] <=> [$b->cells[0], $a->cells[2]]);

        return [
            $this->byDay($user, $asked, array_map(strval(...), array_keys($open))),
            new ReportTable(
                'By step',
                'What waits now, and what was decided in the period.',
                [
                    Column::text('Step'),
                    new Column('Waiting'),
                    new Column('Overdue'),
                    new Column('Oldest', Measure::Day),
                    new Column('Decided'),
                    new Column('Late'),
                    new Column('Half took less than', Measure::Hours),
                    new Column('Slowest', Measure::Hours),
                ],
                $steps,
                new Plot(Plot::BARS, 0, [1, 4]),
            ),
            new ReportTable(
                'By person',
                '',
                [Column::text('Person'), Column::text('Step'), new Column('Decided'), new Column('Half took less than', Measure::Hours)],
                $people,
            ),
        ];
    }

    /** @param  list<string>  $procedures */
    private function byDay(User $user, Asked $asked, array $procedures): ReportTable
    {
        $days = $this->searching->snapshot(function () use ($user, $asked, $procedures): array {
            $sight = $this->rights->sight($user);
            $days = [];
            $rows = DB::table('tasks')
                ->whereIn('procedure', $procedures)
                ->whereNotNull('decision')
                ->where('closed_at', '>=', $asked->span->first())
                ->where('closed_at', '<', $asked->span->end());
            foreach ($rows->select(['document_id', 'closed_at', 'is_overdue'])->cursor() as $row) {
                if ($sight->has((int) $row->document_id)) {
                    $day = $asked->span->piece((string) $row->closed_at);
                    $days[$day] = [($days[$day][0] ?? 0) + 1, ($days[$day][1] ?? 0) + ($row->is_overdue ? 1 : 0)];
                }
            }

            return $days;
        });

        return new ReportTable(
            $asked->span->isByDay() ? 'By day' : 'By month',
            'Decisions about documents that you may see.',
            [new Column($asked->span->isByDay() ? 'Day' : 'Month', Measure::Day), new Column('Decided'), new Column('Late')],
            array_map(static fn (string $day): ReportRow => new ReportRow([$day, ...$days[$day] ?? [0, 0]]), $asked->span->pieces()),
            new Plot(Plot::COLUMNS, 0, [1, 2]),
        );
    }
}
