<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Models\User;
use App\Reports\Asked;
use App\Reports\Report;
use App\Reports\Reports;
use Brenvic\Core\Exchange\OdsSheet;
use Brenvic\Core\Reports\Column;
use Brenvic\Core\Reports\ReportRow;
use Brenvic\Core\Reports\ReportTable;
use Brenvic\Core\Reports\Span;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Http\Response;
use Illuminate\Validation\ValidationException;
use Symfony\Component\HttpFoundation\BinaryFileResponse;

/** Reports about the collection. */
final readonly class ReportController
{
    public function __construct(private Reports $reports)
    {
    }

    public function show(Request $request, string $report): JsonResponse
    {
        $of = $this->report($report);
        $asked = $this->asked($request);

        return new JsonResponse([
            'name' => $of->name(),
            'from' => $of->hasPeriod() ? $asked->span->first() : null,
            'until' => $of->hasPeriod() ? $asked->span->last() : null,
            'narrowed_by' => $of->narrowedBy(),
            'tables' => array_map(self::shaped(...), $of->tables(User::of($request), $asked)),
        ]);
    }

    /** One table of a report. */
    public function csv(Request $request, string $report): Response
    {
        $of = $this->report($report);
        $number = (int) ($request->validate(['table' => 'nullable|integer|min:0|max:20'])['table'] ?? 0);
        $table = $of->tables(User::of($request), $this->asked($request))[$number] ?? null;
        abort_if($table === null, 404);

        return new Response($table->csv(), 200, [
            'Content-Type' => 'text/csv; charset=utf-8',
            'Content-Disposition' => 'attachment; filename="'.self::fileName($of, $table->name).'.csv"',
        ]);
    }

    /** All tables, each a sheet. */
    public function ods(Request $request, string $report): BinaryFileResponse
    {
        $of = $this->report($report);

        return (new BinaryFileResponse($this->reports->ods($of->tables(User::of($request), $this->asked($request))), 200, [
            'Content-Type' => OdsSheet::MIME,
            'Content-Disposition' => 'attachment; filename="'.self::fileName($of).'.ods"',
        ]))->deleteFileAfterSend();
    }

    private function report(string $code): Report
    {
        $report = $this->reports->find($code);
        abort_if($report === null, 404);

        return $report;
    }

    /** The last thirty days where no period is given. */
    private function asked(Request $request): Asked
    {
        $given = $request->validate(
            [
                'from' => 'nullable|date_format:Y-m-d',
                'until' => 'nullable|date_format:Y-m-d|after_or_equal:from',
                'library' => 'nullable|string|max:40',
                'type' => 'nullable|string|max:40',
            ],
            ['until.after_or_equal' => 'The last day is before the first.'],
        );
        $library = $given['library'] ?? null;
        if (! $this->reports->knows(User::of($request), $library)) {
            throw ValidationException::withMessages(['library' => 'There is no such library.']);
        }
        $until = (string) ($given['until'] ?? now()->toDateString());
        $from = (string) ($given['from'] ?? min($until, now()->subDays(29)->toDateString()));

        return new Asked(new Span($from, $until), $library, $given['type'] ?? null);
    }

    private static function fileName(Report $report, string $table = ''): string
    {
        return trim((string) preg_replace('/[^a-z0-9]+/', '-', strtolower("{$report->name()} {$table}")), '-');
    }

    /** @return array<string, mixed> */
    private static function shaped(ReportTable $table): array
    {
        return [
            'name' => $table->name,
            'says' => $table->says,
            'columns' => array_map(
                static fn (Column $of): array => ['name' => $of->name, 'measure' => $of->measure->value],
                $table->columns,
            ),
            'rows' => array_map(static fn (ReportRow $of): array => ['cells' => $of->cells, 'search' => $of->search], $table->rows),
            'plot' => $table->plot === null ? null : ['kind' => $table->plot->kind, 'along' => $table->plot->along, 'of' => $table->plot->of],
        ];
    }
}
