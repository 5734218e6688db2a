<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Models\User;
use App\Procedures\Figures;
use Brenvic\Core\Design\ProcedurePart;
use Brenvic\Core\Exchange\CsvRow;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Http\Response;

/** Figures of procedures, for those who look after them, oversee or design. */
final readonly class FigureController
{
    public function __construct(private Figures $figures)
    {
    }

    public function index(Request $request): JsonResponse
    {
        [$from, $until] = self::period($request);
        $user = User::of($request);

        return new JsonResponse([
            'from' => $from,
            'until' => $until,
            'procedures' => array_values(
                array_map(
                    fn (ProcedurePart $part): array => [
                        'code' => $part->code,
                        'name' => $part->name,
                        ...$this->figures->of($part, $user, $from, $until),
                    ],
                    $this->figures->open($user),
                ),
            ),
        ]);
    }

    public function csv(Request $request): Response
    {
        [$from, $until] = self::period($request);
        $user = User::of($request);
        $rows = [self::row(['procedure', 'step', 'waiting', 'overdue', 'oldest', 'person', 'decided', 'late', 'median_hours', 'slowest_hours'])];
        foreach ($this->figures->open($user) as $part) {
            foreach ($this->figures->of($part, $user, $from, $until)['steps'] as $step) {
                $rows[] = self::row([
                    $part->name, $step['name'], $step['waiting'], $step['overdue'], $step['oldest'] ?? '', '', $step['decided'], $step['late'],
                    $step['hours'] ?? '', $step['slowest'] ?? '',
                ]);
                foreach ($step['people'] as $person) {
                    $rows[] = self::row([$part->name, $step['name'], '', '', '', $person['name'], $person['decided'], '', $person['hours'], '']);
                }
            }
        }

        return new Response(implode('', $rows), 200, [
            'Content-Type' => 'text/csv; charset=utf-8',
            'Content-Disposition' => "attachment; filename=\"procedures-{$from}-{$until}.csv\"",
        ]);
    }

    /** @param  list<string|int|float>  $cells */
    private static function row(array $cells): string
    {
        return CsvRow::forSpreadsheet(array_map(strval(...), $cells));
    }

    /** @return array{string, string} the last three months where nothing is said */
    private static function period(Request $request): array
    {
        $given = $request->validate(['from' => 'nullable|date_format:Y-m-d', 'until' => 'nullable|date_format:Y-m-d|after_or_equal:from'], [
            'until.after_or_equal' => 'The last day is before the first.',
        ]);

        return [(string) ($given['from'] ?? now()->subMonths(3)->toDateString()), (string) ($given['until'] ?? now()->toDateString())];
    }
}
