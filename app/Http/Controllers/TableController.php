<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Design\Catalog;
use App\Design\Draft;
use App\Tables\ReferenceTables;
use Brenvic\Core\Design\DesignKind;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;

/** Reference tables: looked up while indexing, read from files and tried out while designing. */
final class TableController
{
    public function lookUp(Request $request, ReferenceTables $tables, Catalog $catalog): JsonResponse
    {
        $input = $request->validate(['field' => 'required|string|max:40', 'value' => 'required|string|max:1000']);

        return new JsonResponse($tables->lookUp($input['field'], $input['value'], $catalog->fieldsFor($request->user())));
    }

    public function state(Draft $draft, string $code): JsonResponse
    {
        return new JsonResponse(ReferenceTables::state($draft->design()->part(DesignKind::Table, $code) ?? abort(404)));
    }

    /** Reads a CSV file into the shape of a table; nothing is changed by it. */
    public function read(Request $request, Draft $draft): JsonResponse
    {
        return new JsonResponse(ReferenceTables::read($request->getContent(), $draft->design()->fields()));
    }
}
