<?php

declare(strict_types=1);

namespace App\Reports;

use App\Catalog\Catalog;
use App\Exchange\OdsFile;
use App\Models\User;
use Brenvic\Core\Exchange\OdsSheet;
use Brenvic\Core\Reports\ReportTable;

/** The reports that there are. */
final readonly class Reports
{
    /** @var array<string, Report> by code */
    private array $all;

    public function __construct(
        QualityReport $quality,
        UseReport $use,
        SearchesReport $searches,
        IntakeReport $intake,
        TasksReport $tasks,
        StorageReport $storage,
        private Catalog $catalog,
    ) {
        $this->all = array_column(
            array_map(static fn (Report $report): array => [$report->code(), $report], [
                $quality,
                $use,
                $searches,
                $intake,
                $tasks,
                $storage,
            ]),
            1,
            0,
        );
    }

    /** @return array<string, Report> by code, in their order */
    public function all(): array
    {
        return $this->all;
    }

    public function find(string $code): ?Report
    {
        return $this->all[$code] ?? null;
    }

    /** Whether somebody may ask about a library, or need not know that there is one. */
    public function knows(User $user, ?string $library): bool
    {
        return $library === null || $this->catalog->libraries()->only(array_keys($user->libraryRights()))->contains('code', $library);
    }

    /**
     * A report as a spreadsheet, each of its tables a sheet.
     *
     * @param  list<ReportTable>  $tables
     * @return string path of a file that whoever asked removes
     */
    public function ods(array $tables): string
    {
        $sheets = '';
        foreach ($tables as $i => $table) {
            $sheets .= ($i === 0 ? OdsSheet::head($table->name) : OdsSheet::next($table->name)).$table->sheetRows();
        }

        $target = (string) tempnam(sys_get_temp_dir(), 'report');
        $content = "{$target}.xml";
        try {
            file_put_contents($content, $sheets.OdsSheet::foot());
            OdsFile::pack($content, $target);
        } finally {
            @unlink($content);
        }

        return $target;
    }
}
