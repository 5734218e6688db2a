<?php

declare(strict_types=1);

namespace App\Reports;

use App\Access\Rights;
use App\Catalog\Catalog;
use App\Find\Searching;
use App\Models\Document;
use App\Models\User;
use App\Procedures\Took;
use Brenvic\Core\Design\SourcePart;
use Brenvic\Core\Reports\Column;
use Brenvic\Core\Reports\Measure;
use Brenvic\Core\Reports\Plot;
use Brenvic\Core\Reports\ReportRow;
use Brenvic\Core\Reports\ReportTable;
use Illuminate\Database\Query\Builder;
use Illuminate\Support\Facades\DB;

/** What came in and was filed, by the way it came and the day. */
final readonly class IntakeReport implements Report
{
    /** Sources that have a column of their own. */
    private const MOST = 6;

    private const BY_HAND = 'Brought by people';

    private const IMPORTED = 'Imported';

    public function __construct(private Catalog $catalog, private Rights $rights, private Searching $searching)
    {
    }

    public function code(): string
    {
        return 'intake';
    }

    public function name(): string
    {
        return 'Intake';
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
        $sources = $days = $hours = [];
        foreach ($this->searching->snapshot(fn (): array => $this->filed($user, $asked)) as $row) {
            $source = $this->named($row);
            $of = $sources[$source] ?? ['documents' => 0, 'attachments' => 0, 'pages' => 0];
            $sources[$source] = [
                'documents' => $of['documents'] + 1,
                'attachments' => $of['attachments'] + ($row->parent_id === null ? 0 : 1),
                'pages' => $of['pages'] + (int) $row->page_count,
            ];
            $hours[$source][] = max(0, strtotime((string) $row->filed_at) - strtotime((string) $row->created_at)) / 3600;
            $day = $asked->span->piece((string) $row->filed_at);
            $days[$day][$source] = ($days[$day][$source] ?? 0) + 1;
        }
        uasort($sources, static fn (array $a, array $b): int => $b['documents'] <=> $a['documents']);
        $names = array_map(strval(...), array_keys($sources));
        $shown = array_slice($names, 0, self::MOST);

        return [
            new ReportTable(
                'By source',
                'Documents that you may see, by the day on which they were filed.',
                [
                    Column::text('Source'),
                    new Column('Documents'),
                    new Column('Attachments among them'),
                    new Column('Pages'),
                    new Column('Half were filed within', Measure::Hours),
                ],
                array_map(
                    static fn (string $name): ReportRow => new ReportRow([
                        $name,
                        $sources[$name]['documents'],
                        $sources[$name]['attachments'],
                        $sources[$name]['pages'],
                        Took::median($hours[$name]),
                    ]),
                    $names,
                ),
                new Plot(Plot::BARS, 0, [1]),
            ),
            new ReportTable(
                $asked->span->isByDay() ? 'By day' : 'By month',
                count($names) > self::MOST ? 'The sources that most came by have a column of their own.' : '',
                [
                    new Column($asked->span->isByDay() ? 'Day' : 'Month', Measure::Day),
                    new Column('All'),
                    ...array_map(static fn (string $name): Column => new Column($name), $shown),
                ],
                array_map(
                    static fn (string $day): ReportRow => new ReportRow([
                        $day,
                        array_sum($days[$day] ?? []),
                        ...array_map(static fn (string $name): int => $days[$day][$name] ?? 0, $shown),
                    ]),
                    $asked->span->pieces(),
                ),
                $shown === [] ? null : new Plot(Plot::COLUMNS, 0, count($shown) === 1 ? [1] : range(2, count($shown) + 1)),
            ),
        ];
    }

    /** @return list<\stdClass> */
    private function filed(User $user, Asked $asked): array
    {
        $sight = $this->rights->sight($user);
        $libraries = $this->catalog->libraries()->only(array_keys($user->libraryRights()));
        $rows = DB::table('documents')
            ->where('state', Document::FILED)
            ->where('filed_at', '>=', $asked->span->first())
            ->where('filed_at', '<', $asked->span->end())
            ->when(
                $asked->library !== null,
                static fn (Builder $of) => $of->where('library_id', (int) ($libraries->firstWhere('code', $asked->library)->id ?? 0)),
            )
            ->selectRaw(
                'id, COALESCE(source, (SELECT source FROM documents AS p WHERE p.id = documents.parent_id)) AS source, parent_id, page_count, created_at, filed_at, EXISTS (SELECT 1 FROM import_files WHERE document_id = COALESCE(documents.parent_id, documents.id)) AS imported',
            );
        $seen = [];
        foreach ($rows->cursor() as $row) {
            $sight->has((int) $row->id) && ($seen[] = $row);
        }

        return $seen;
    }

    private function named(\stdClass $row): string
    {
        return match (true) {
            $row->source !== null => $this->catalog->design()->one(SourcePart::class, (string) $row->source)->name ??
                'A source that is gone',
            (bool) $row->imported => self::IMPORTED,
            default => self::BY_HAND,
        };
    }
}
