<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Design\Catalog;
use App\Models\Document;
use App\Models\User;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Support\Facades\DB;

/** The start page: what was read last, what came in last, the libraries with their counts. */
final class DeskController
{
    private const ROWS = 8;

    public function __invoke(Request $request, Catalog $catalog): JsonResponse
    {
        /** @var User $user */
        $user = $request->user();
        $mine = array_keys($user->libraryRights());
        $counts = DB::table('documents')->where('state', Document::FILED)->whereNull('deleted_at')->whereIntegerInRaw('library_id', $mine)
            ->groupBy('library_id')->pluck(DB::raw('count(*)'), 'library_id');
        $libraries = [];
        foreach ($catalog->libraries()->only($mine) as $library) {
            $libraries[] = ['code' => $library->code, 'name' => $library->name, 'repository' => $library->repository->name, 'note' => $library->note, 'documents' => (int) ($counts[$library->id] ?? 0)];
        }
        $filed = Document::query()->where('state', Document::FILED)->whereIntegerInRaw('library_id', $mine)->whereNull('parent_id');
        $read = (clone $filed)->join('recent_documents', 'recent_documents.document_id', '=', 'documents.id')
            ->where('recent_documents.user_id', $user->id)->orderByDesc('read_at')->limit(self::ROWS)->select('documents.*', 'read_at as moment')->get();
        $new = $filed->orderByDesc('id')->limit(self::ROWS)->select('documents.*', 'filed_at as moment')->get();
        $row = static fn (Document $document): array => [
            'ref' => $document->ref, 'title' => $document->title,
            'library' => $catalog->libraries()->get($document->library_id)->name ?? '',
            'type' => $catalog->types()->get((int) $document->document_type_id)->name ?? '',
            'moment' => $document->getAttribute('moment'),
        ];

        return new JsonResponse([
            'libraries' => $libraries,
            'read' => $read->map($row)->all(),
            'filed' => $new->map($row)->all(),
            'waiting' => $user->role->mayFile() ? Document::query()->where('state', Document::WAITING)->whereNull('parent_id')->where('created_by', $user->id)->count() : 0,
            'reading' => Document::query()->where('state', Document::FILED)->whereIntegerInRaw('library_id', $mine)->where('text_state', Document::TEXT_PENDING)->count(),
        ]);
    }
}
