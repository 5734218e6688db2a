<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Catalog\Catalog;
use App\Design\Draft;
use App\Models\User;
use App\Tables\ReferenceTables;
use Brenvic\Core\Design\TablePart;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;

/** Reference tables: looked up while indexing, read from files and tried out while designing. */
final class TableController
{
    /** What a key that was typed, or changed, makes of the fields it fills. */
    public function lookUp(Request $request, ReferenceTables $tables, Catalog $catalog): JsonResponse
    {
        $input = $request->validate([
            'field' => 'required|string|max:40',
            'value' => 'nullable|string|max:1000',
            'was' => 'nullable|string|max:1000',
            'now' => 'array|max:100',
            'now.*' => 'nullable|string|max:10000',
        ]);
        $now = array_map(strval(...), $input['now'] ?? []);

        $found = $tables->follow(
            $input['field'],
            (string) ($input['was'] ?? ''),
            (string) ($input['value'] ?? ''),
            $now,
            $catalog->fieldsFor(User::of($request)),
        );

        return new JsonResponse([...$found, 'takes' => (object) $found['takes'], 'asks' => (object) $found['asks']]);
    }

    public function state(Draft $draft, string $code): JsonResponse
    {
        return new JsonResponse(ReferenceTables::state($draft->design()->one(TablePart::class, $code) ?? abort(404)));
    }

    /** Reads a CSV file into the shape of a table; nothing is changed by it. */
    public function read(Request $request, Draft $draft): JsonResponse
    {
        return new JsonResponse(ReferenceTables::read($request->getContent(), $draft->design()->fields()));
    }
}
