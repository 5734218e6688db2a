<?php

declare(strict_types=1);

namespace App\Reports;

use App\Access\Rights;
use App\Catalog\Catalog;
use App\Find\Searching;
use App\Health\DiskDays;
use App\Models\Document;
use App\Models\User;
use Brenvic\Core\Capture\FileKind;
use Brenvic\Core\Query\SearchClause;
use Brenvic\Core\Reports\Column;
use Brenvic\Core\Reports\DiskForecast;
use Brenvic\Core\Reports\Measure;
use Brenvic\Core\Reports\Plot;
use Brenvic\Core\Reports\ReportRow;
use Brenvic\Core\Reports\ReportTable;
use Brenvic\Core\Search\Asking\Criterion;
use DateTimeImmutable;
use Illuminate\Database\Query\Builder;
use Illuminate\Support\Facades\DB;

/** What the documents take of the disk, by what they are and how old, how that grows, and when the disk is full. */
final readonly class StorageReport implements Report
{
    /** Days from which it is told when the disk is full. */
    private const DAYS = 90;

    /** What is kept of a document beside its present file, by table. */
    private const BESIDE = ['versions' => 'Earlier versions', 'renditions' => 'Redacted copies'];

    public function __construct(private Rights $rights, private Catalog $catalog, private Searching $searching)
    {
    }

    public function code(): string
    {
        return 'storage';
    }

    public function name(): string
    {
        return 'Storage';
    }

    public function hasPeriod(): bool
    {
        return false;
    }

    public function narrowedBy(): array
    {
        return ['library'];
    }

    public function tables(User $user, Asked $asked): array
    {
        [$seen, $unseen] = $this->searching->snapshot(function () use ($user, $asked): array {
            $all = $this->rights->allFound(
                $asked->library === null
                    ? SearchClause::everything()
                    : new SearchClause('library', '==', Criterion::escaped($asked->library)),
            );
            $sight = $this->rights->sight($user);

            return [$all->and($sight)->documents(), $all->minus($sight)->documents()];
        });
        $library = $asked->library === null ? null : (int) ($this->catalog->libraries()->firstWhere('code', $asked->library)->id ?? 0);
        $kinds = $months = [];
        foreach ($this->present($seen, $unseen, $library) as [$row, $sign]) {
            $kind = FileKind::from((string) $row->kind)->label();
            $kinds[$kind] = [($kinds[$kind][0] ?? 0) + $sign * (int) $row->files, ($kinds[$kind][1] ?? 0) + $sign * (int) $row->bytes];
            $month = (string) $row->month;
            $months[$month] = [
                ($months[$month][0] ?? 0) + $sign * (int) $row->files,
                ($months[$month][1] ?? 0) + $sign * (int) $row->bytes,
            ];
        }
        foreach (self::BESIDE as $table => $name) {
            $beside = self::beside($table, $seen, $unseen, $library);
            $beside[0] > 0 && ($kinds[$name] = $beside);
        }
        $kinds = array_filter($kinds, static fn (array $of): bool => $of[0] > 0);
        $months = array_filter($months, static fn (array $of): bool => $of[0] > 0);
        uasort($kinds, static fn (array $a, array $b): int => $b[1] <=> $a[1]);
        ksort($months);

        return [self::byKind($kinds), self::byYear($months), self::growth($months), self::disk()];
    }

    /**
     * @param  list<int>  $seen
     * @param  list<int>  $unseen
     * @return iterable<array{\stdClass, int}> the files of documents by kind and the month in which they were filed
     */
    private function present(array $seen, array $unseen, ?int $library): iterable
    {
        return SeenOnly::of(
            $seen,
            $unseen,
            static fn (?array $ids): iterable => DB::table('documents')
                ->where('state', Document::FILED)
                ->whereNull('deleted_at')
                ->when($library !== null, static fn (Builder $of) => $of->where('library_id', $library))
                ->when($ids !== null, static fn (Builder $of) => $of->whereIntegerInRaw('id', (array) $ids))
                ->groupBy('file_kind', 'month')
                ->selectRaw('file_kind AS kind, SUBSTR(filed_at, 1, 7) AS month, COUNT(*) AS files, SUM(bytes) AS bytes')
                ->get(),
        );
    }

    /**
     * @param  list<int>  $seen
     * @param  list<int>  $unseen
     * @return array{int, int} files and bytes
     */
    private static function beside(string $table, array $seen, array $unseen, ?int $library): array
    {
        $sum = [0, 0];
        $sums = static fn (?array $ids): iterable => DB::table($table)
            ->join('documents', 'documents.id', '=', "{$table}.document_id")
            ->where('state', Document::FILED)
            ->whereNull('deleted_at')
            // The present version stands among the others as well.
            ->whereColumn("{$table}.sha256", '!=', 'documents.sha256')
            ->when($library !== null, static fn (Builder $of) => $of->where('library_id', $library))
            ->when($ids !== null, static fn (Builder $of) => $of->whereIntegerInRaw("{$table}.document_id", (array) $ids))
            ->selectRaw("COUNT(*) AS files, COALESCE(SUM({$table}.bytes), 0) AS bytes")
            ->get();
        foreach (SeenOnly::of($seen, $unseen, $sums) as [$row, $sign]) {
            $sum = [$sum[0] + $sign * (int) $row->files, $sum[1] + $sign * (int) $row->bytes];
        }

        return $sum;
    }

    /** @param  array<string, array{int, int}>  $kinds */
    private static function byKind(array $kinds): ReportTable
    {
        $all = array_sum(array_column($kinds, 1));

        return new ReportTable(
            'By kind',
            'Of documents that you may see. A file that several documents have is stored once.',
            [Column::text('Kind'), new Column('Files'), new Column('Size', Measure::Bytes), new Column('Share', Measure::Percent)],
            array_map(
                static fn (string $kind, array $of): ReportRow => new ReportRow([
                    $kind,
                    $of[0],
                    $of[1],
                    round((100 * $of[1]) / max(1, $all), 1),
                ]),
                array_keys($kinds),
                $kinds,
            ),
            new Plot(Plot::BARS, 0, [2]),
        );
    }

    /** @param  array<string, array{int, int}>  $months */
    private static function byYear(array $months): ReportTable
    {
        $years = [];
        foreach ($months as $month => [$files, $bytes]) {
            $year = substr($month, 0, 4);
            $years[$year] = [($years[$year][0] ?? 0) + $files, ($years[$year][1] ?? 0) + $bytes];
        }

        return new ReportTable(
            'By age',
            'By the year in which they were filed.',
            [Column::text('Year'), new Column('Files'), new Column('Size', Measure::Bytes)],
            array_map(
                static fn (string $year, array $of): ReportRow => new ReportRow([$year, ...$of]),
                array_map(strval(...), array_keys($years)),
                $years,
            ),
            new Plot(Plot::COLUMNS, 0, [2]),
        );
    }

    /** @param  array<string, array{int, int}>  $months */
    private static function growth(array $months): ReportTable
    {
        $rows = [];
        $sum = 0;
        foreach ($months as $month => [$files, $bytes]) {
            $sum += $bytes;
            $rows[] = new ReportRow([$month, $files, $bytes, $sum]);
        }

        return new ReportTable(
            'Growth',
            'Present files by the month in which their documents were filed; what was destroyed since is not among them.',
            [
                new Column('Month', Measure::Day),
                new Column('Files'),
                new Column('Added', Measure::Bytes),
                new Column('Together', Measure::Bytes),
            ],
            $rows,
            new Plot(Plot::COLUMNS, 0, [2, 3]),
        );
    }

    private static function disk(): ReportTable
    {
        $days = DiskDays::latest(self::DAYS);
        $last = $days === [] ? null : $days[count($days) - 1];
        $forecast = DiskForecast::of(array_column($days, 'used', 'day'), $last['all'] ?? 0);

        return new ReportTable(
            'The disk of the documents',
            match (true) {
                $forecast->bytesADay === null => 'What it holds is noted once a day; after '.
                    DiskForecast::LEAST.
                    ' days it is told when it is full.',
                $forecast->full !== null => 'At the rate of these days it is full on '.
                    (new DateTimeImmutable($forecast->full))->format('j M Y').
                    '.',
                $forecast->bytesADay <= 0 => 'It does not grow.',
                default => 'At the rate of these days it is not full within ten years.',
            },
            [new Column('Day', Measure::Day), new Column('Used', Measure::Bytes), new Column('Free', Measure::Bytes)],
            array_map(static fn (array $of): ReportRow => new ReportRow([$of['day'], $of['used'], max(0, $of['all'] - $of['used'])]), $days),
            $days === [] ? null : new Plot(Plot::COLUMNS, 0, [1]),
        );
    }
}
