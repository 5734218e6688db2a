<?php

declare(strict_types=1);

namespace App\Procedures;

use App\Access\Rights;
use App\Catalog\Catalog;
use App\Models\Right;
use App\Models\User;
use Brenvic\Core\Design\ProcedurePart;
use Brenvic\Core\Index\DocumentSet;
use Brenvic\Core\Procedures\Plan\AskStep;
use Illuminate\Support\Facades\DB;

/** How many cases are in each step, how long they are there, by whom they are decided and how many are late: of the documents that a person sees. */
final readonly class Figures
{
    public function __construct(private Catalog $catalog, private Rights $rights, private TaskList $list)
    {
    }

    /** @return array<string, ProcedurePart> those whose figures a person may see: which they look after, or all */
    public function open(User $user): array
    {
        $all = $user->may(Right::Oversee) || $user->may(Right::Design);

        $parts = $all ? $this->catalog->design()->parts(ProcedurePart::class) : $this->list->kept($user);
        $known = $this->catalog->known($user)?->procedures;

        // A name says something, too.
        return $known === null ? $parts : array_intersect_key($parts, array_flip($known));
    }

    /**
     * @param  string  $from  a day, as $until: what was decided between them, both included
     * @return array{begun: int, ended: list<array{name: string, cases: int}>, steps: list<array{code: string, name: string, waiting: int, overdue: int, oldest: string|null, decided: int, late: int, hours: float|null, slowest: float|null, people: list<array{name: string, decided: int, hours: float}>}>}
     */
    public function of(ProcedurePart $part, User $user, string $from, string $until): array
    {
        $sight = $this->rights->sight($user);
        $waiting = $closed = [];
        foreach ($this->tasks($part->code, $from, $until) as $row) {
            if ($sight->has((int) $row->document_id)) {
                $row->closed_at === null ? ($waiting[(string) $row->step][] = $row) : ($closed[(string) $row->step][] = $row);
            }
        }
        $names = DB::table('users')->pluck('name', 'id')->all();
        $steps = [];
        foreach ($part->procedure->steps as $code => $step) {
            if ($step instanceof AskStep) {
                $steps[] = ['code' => (string) $code, 'name' => $step->name, ...self::step($waiting[$code] ?? [], $closed[$code] ?? [], $names)];
            }
        }

        $ended = $this->count($part->code, 'ended_at', $from, $until, $sight);

        return [
            'begun' => $this->count($part->code, 'begun_at', $from, $until, $sight)[''] ?? 0,
            'ended' => array_values(
                array_filter(
                    array_map(
                        static fn ($step, int $cases): array => ['name' => $step->name, 'cases' => $cases],
                        $part->procedure->steps,
                        array_map(static fn (string|int $code): int => $ended[$code] ?? 0, array_keys($part->procedure->steps)),
                    ),
                    static fn (array $end): bool => $end['cases'] > 0,
                ),
            ),
            'steps' => $steps,
        ];
    }

    /** @return iterable<\stdClass> the tasks that are open, and those that were decided in a period */
    private function tasks(string $procedure, string $from, string $until): iterable
    {
        return DB::table('tasks')
            ->where('procedure', $procedure)
            ->where(
                static fn ($q) => $q
                    ->whereNull('closed_at')
                    ->orWhere(static fn ($of) => $of->whereNotNull('decision')->where('closed_at', '>=', $from)->where('closed_at', '<', self::after($until))),
            )
            ->get(['document_id', 'step', 'opened_at', 'closed_at', 'decided_by', 'is_overdue']);
    }

    /** @return array<string, int> how many cases began or ended, by the step that they are at; all of those that began under '' */
    private function count(string $procedure, string $when, string $from, string $until, DocumentSet $sight): array
    {
        $counts = [];
        foreach (
            DB::table('cases')
                ->where('procedure', $procedure)
                ->where($when, '>=', $from)
                ->where($when, '<', self::after($until))
                ->get(['document_id', 'step', 'status']) as $row
        ) {
            if ($sight->has((int) $row->document_id)) {
                $key = $when === 'begun_at' ? '' : ($row->status === 'given_up' ? '!' : (string) $row->step);
                $counts[$key] = ($counts[$key] ?? 0) + 1;
            }
        }

        return $counts;
    }

    /**
     * @param  list<\stdClass>  $waiting
     * @param  list<\stdClass>  $closed
     * @param  array<int, string>  $names
     * @return array{waiting: int, overdue: int, oldest: string|null, decided: int, late: int, hours: float|null, slowest: float|null, people: list<array{name: string, decided: int, hours: float}>}
     */
    private static function step(array $waiting, array $closed, array $names): array
    {
        $hours = array_map(Took::hours(...), $closed);
        $people = [];
        foreach ($closed as $i => $row) {
            $people[$row->decided_by === null ? 'by the deadline' : $names[(int) $row->decided_by] ?? ''][] = $hours[$i];
        }
        $shown = array_map(
            static fn (string $name, array $took): array => ['name' => $name, 'decided' => count($took), 'hours' => (float) Took::median($took)],
            array_keys($people),
            $people,
        );
        usort($shown, static fn (array $a, array $b): int => $b['decided'] <=> $a['decided'] ?: strcmp($a['name'], $b['name']));
        $opened = array_map(static fn (\stdClass $row): string => (string) $row->opened_at, $waiting);

        return [
            'waiting' => count($waiting),
            'overdue' => count(array_filter($waiting, static fn (\stdClass $row): bool => (bool) $row->is_overdue)),
            'oldest' => $opened === [] ? null : substr(min($opened), 0, 10),
            'decided' => count($closed),
            'late' => count(array_filter($closed, static fn (\stdClass $row): bool => (bool) $row->is_overdue)),
            'hours' => Took::median($hours),
            'slowest' => $hours === [] ? null : round(max($hours), 1),
            'people' => $shown,
        ];
    }

    private static function after(string $day): string
    {
        return (new \DateTimeImmutable($day))->modify('+1 day')->format('Y-m-d');
    }
}
