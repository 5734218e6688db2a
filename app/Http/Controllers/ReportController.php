<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Models\User;
use App\Reports\Finding;
use App\Reports\Quality;
use Brenvic\Core\Exchange\CsvRow;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Http\Response;

/** Reports about the collection. */
final readonly class ReportController
{
    private const NARROWED = ['library' => 'nullable|string|max:40', 'type' => 'nullable|string|max:40'];

    public function __construct(private Quality $quality)
    {
    }

    public function quality(Request $request): JsonResponse
    {
        $input = $request->validate(self::NARROWED);
        ['documents' => $documents, 'findings' => $findings] = $this->quality->of(User::of($request), $input['library'] ?? null, $input['type'] ?? null);

        return new JsonResponse([
            'documents' => $documents,
            'findings' => array_map(static fn (Finding $finding): array => self::named($finding), $findings),
        ]);
    }

    public function qualityTable(Request $request): Response
    {
        $input = $request->validate(self::NARROWED);
        $findings = $this->quality->of(User::of($request), $input['library'] ?? null, $input['type'] ?? null)['findings'];
        $rows = array_map(static function (Finding $finding): string {
            $of = self::named($finding);

            return CsvRow::forSpreadsheet([$of['group'], $of['words'], (string) $of['documents'], $of['cql']]);
        }, $findings);

        return new Response(CsvRow::of(['group', 'finding', 'documents', 'cql']).implode('', $rows), 200, [
            'Content-Type' => 'text/csv; charset=utf-8',
            'Content-Disposition' => 'attachment; filename="indexing-quality.csv"',
        ]);
    }

    /** @return array{group: string, words: string, documents: int, cql: string} without the number that groups are ordered by */
    private static function named(Finding $finding): array
    {
        return [...$finding->toArray(), 'group' => substr($finding->group, 2)];
    }
}
