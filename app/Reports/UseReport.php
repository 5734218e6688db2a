<?php

declare(strict_types=1);

namespace App\Reports;

use App\Catalog\Catalog;
use App\Find\Searching;
use App\History\Act;
use App\Models\User;
use Brenvic\Core\Design\LibraryPart;
use Brenvic\Core\Reports\Column;
use Brenvic\Core\Reports\Measure;
use Brenvic\Core\Reports\Plot;
use Brenvic\Core\Reports\ReportRow;
use Brenvic\Core\Reports\ReportTable;
use DateTimeImmutable;
use DateTimeZone;
use Illuminate\Support\Facades\DB;

/** What is done with documents: when, where and by people of which groups. */
final readonly class UseReport implements Report
{
    /** What is told of, and the acts of the history that are it. */
    private const TOLD = [
        'Read' => [Act::Viewed],
        'Taken away' => [Act::Delivered, Act::Lent],
        'Filed' => [Act::Filed],
        'Changed' => [Act::Changed, Act::NewVersion, Act::Commented, Act::Annotated],
    ];

    public function __construct(private HistoryCounts $counts, private Catalog $catalog, private Searching $searching)
    {
    }

    public function code(): string
    {
        return 'use';
    }

    public function name(): string
    {
        return 'Use';
    }

    public function hasPeriod(): bool
    {
        return true;
    }

    public function narrowedBy(): array
    {
        return ['library'];
    }

    public function tables(User $user, Asked $asked): array
    {
        $told = [];
        foreach (self::TOLD as $name => $acts) {
            $told += array_fill_keys(array_map(static fn (Act $act): string => $act->value, $acts), $name);
        }
        $libraries = $this->catalog->libraries()->only(array_keys($user->libraryRights()));
        $library = $asked->library === null ? null : (int) ($libraries->firstWhere('code', $asked->library)->id ?? 0);
        [$hours, $places] = $this->searching->snapshot(fn (): array => $this->counts->of($user, array_keys($told), $asked, $library));
        $zone = new DateTimeZone((string) config('brenvic.backup.timezone'));
        $groups = $this->groups($user);
        $names = $libraries->pluck('name', 'id')->all();
        $by = ['time' => [], 'hour' => [], 'library' => [], 'group' => []];
        $people = ['library' => [], 'group' => []];
        foreach ($hours as $of) {
            $at = (new DateTimeImmutable("{$of['hour']}:00Z"))->setTimezone($zone);
            $by['time'] = self::added($by['time'], $asked->span->piece($at->format('Y-m-d')), $told[$of['act']], $of['times']);
            $by['hour'] = self::added($by['hour'], $at->format('H'), $told[$of['act']], $of['times']);
        }
        foreach ($places as $of) {
            $keys = ['library' => [$names[(int) $of['library']] ?? ''], 'group' => $groups[(int) $of['user']] ?? ['Others']];
            foreach ($keys as $what => $pieces) {
                foreach ($pieces as $piece) {
                    $by[$what] = self::added($by[$what], $piece, $told[$of['act']], $of['times']);
                    $of['user'] === null || ($people[$what][$piece][$of['user']] = true);
                }
            }
        }
        unset($by['library']['']);
        arsort($by['library']);
        $times = $asked->span->pieces();
        $clock = array_map(static fn (int $hour): string => sprintf('%02d', $hour), range(0, 23));
        $drawn = [1, 2, 3, 4];

        return [
            self::table(
                $asked->span->isByDay() ? 'By day' : 'By month',
                'How often documents that you may see were opened (once an hour and person), delivered or lent, filed, and changed or remarked on.',
                new Column($asked->span->isByDay() ? 'Day' : 'Month', Measure::Day),
                $times,
                $by['time'],
                null,
                new Plot(Plot::COLUMNS, 0, $drawn),
            ),
            self::table(
                'By hour of the day',
                "Time of {$zone->getName()}.",
                Column::text('Hour'),
                $clock,
                $by['hour'],
                null,
                new Plot(Plot::COLUMNS, 0, $drawn),
            ),
            self::table(
                'By library',
                '',
                Column::text('Library'),
                array_keys($by['library']),
                $by['library'],
                $people['library'],
                new Plot(Plot::BARS, 0, [1]),
            ),
            self::table(
                'By group',
                'Who is in several groups is counted in each. Others are in groups that have no part in your libraries, or are forgotten.',
                Column::text('Group'),
                array_keys($by['group']),
                $by['group'],
                $people['group'],
                new Plot(Plot::BARS, 0, [1]),
            ),
        ];
    }

    /**
     * @param  array<array-key, array<string, int>>  $sums
     * @return array<array-key, array<string, int>>
     */
    private static function added(array $sums, string $piece, string $name, int $times): array
    {
        $sums[$piece][$name] = ($sums[$piece][$name] ?? 0) + $times;

        return $sums;
    }

    /**
     * @param  list<string>  $keys  in their order
     * @param  array<array-key, array<string, int>>  $by
     * @param  array<array-key, array<int, true>>|null  $people
     */
    private static function table(
        string $name,
        string $says,
        Column $first,
        array $keys,
        array $by,
        ?array $people,
        Plot $plot,
    ): ReportTable {
        $columns = [
            $first,
            ...array_map(static fn (string $of): Column => new Column($of), array_keys(self::TOLD)),
            ...$people === null ? [] : [new Column('People')],
        ];
        $rows = array_map(
            static fn (string $key): ReportRow => new ReportRow([
                $key,
                ...array_map(static fn (string $of): int => $by[$key][$of] ?? 0, array_keys(self::TOLD)),
                ...$people === null ? [] : [count($people[$key] ?? [])],
            ]),
            array_map(strval(...), $keys),
        );

        return new ReportTable($name, $says, $columns, $rows, $plot);
    }

    /**
     * Of each person the groups that have a part in libraries which somebody may enter: others they need not know of.
     *
     * @return array<int, list<string>> names, by person
     */
    private function groups(User $user): array
    {
        $may = $this->catalog->libraries()->only(array_keys($user->libraryRights()))->pluck('code')->all();
        $known = $user->groupNames();
        foreach ($this->catalog->design()->parts(LibraryPart::class) as $library) {
            in_array($library->code, $may, true) && array_push($known, ...$library->memberGroups());
        }
        $groups = [];
        $rows = DB::table('memberships')
            ->join('groups', 'groups.id', '=', 'group_id')
            ->whereIn('name', $known)
            ->orderBy('name')
            ->get(['user_id', 'name']);
        foreach ($rows as $row) {
            $groups[(int) $row->user_id][] = (string) $row->name;
        }

        return $groups;
    }
}
