<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Access\WaitingSight;
use App\Catalog\Catalog;
use App\Http\Requests\SortingInput;
use App\Models\Document;
use App\Models\User;
use App\Sorting\PageSign;
use App\Sorting\PageSigns;
use App\Sorting\SeparatorSheet;
use App\Sorting\Sorting;
use App\Sorting\Thumb;
use Brenvic\Core\Pages\SeparatorCode;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Http\Response;
use Illuminate\Support\Facades\Gate;
use Symfony\Component\HttpFoundation\BinaryFileResponse;

/** Page work on what waits in intake. */
final readonly class SortingController
{
    /** What is seen of the pages of waiting documents; those that were not looked at are from now on. */
    public function index(Request $request, PageSigns $signs): JsonResponse
    {
        $input = $request->validate(['of' => 'required|array|min:1|max:100', 'of.*' => 'required|string|max:40']);
        $found = WaitingSight::of(User::of($request))
            ->where('state', Document::WAITING)
            ->whereNull('parent_id')
            ->whereIn('ref', $input['of'])
            ->orderBy('id')
            ->get();
        abort_if($found->isEmpty(), 404);
        foreach ($found as $document) {
            $signs->ask($document);
        }

        return new JsonResponse([
            'documents' => $found->map(static fn (Document $document): array => [
                'ref' => $document->ref,
                'file_name' => $document->file_name,
                'file_kind' => $document->file_kind,
                'page_count' => $document->page_count,
                'version' => $document->version,
                'text_state' => $document->text_state,
                'fault' => $signs->fault($document->sha256),
                'signs' => array_map(self::shape(...), $signs->of($document->sha256)),
            ])->all(),
        ]);
    }

    public function store(SortingInput $request, Sorting $sorting): JsonResponse
    {
        return new JsonResponse(['work' => $sorting->sort(User::of($request), $request->sources(), $request->wanted())]);
    }

    public function undo(Request $request, Sorting $sorting, int $work): JsonResponse
    {
        $sorting->undo(User::of($request), $work);

        return new JsonResponse(null, 204);
    }

    /** Separator sheets to be printed. */
    public function sheets(Request $request, Catalog $catalog): Response
    {
        $input = $request->validate([
            'library' => 'nullable|string|max:60',
            'type' => 'nullable|string|max:60',
            'dossier' => 'nullable|string|max:40',
            'count' => 'nullable|integer|min:1|max:50',
        ]);
        $user = User::of($request);
        $library = $catalog->libraries()->firstWhere('code', $input['library'] ?? null);
        $type = $catalog->typeOrNone($user, $input['type'] ?? null);
        abort_if(isset($input['type']) && $type === null, 404);
        abort_if(isset($input['library']) && ($library === null || ! isset($user->libraryRights()[$library->id])), 404);
        $dossier = $input['dossier'] ?? null;
        $lines = array_filter([
            $library === null ? '' : "Library: {$library->name}",
            $type === null ? '' : "Document type: {$type->name}",
            $dossier === null ? '' : "Dossier: {$dossier}",
        ]);

        return new Response(
            SeparatorSheet::pdf(
                new SeparatorCode($library?->code, $type?->code, $dossier),
                array_values($lines),
                (int) ($input['count'] ?? 1),
            ),
            200,
            [
                'Content-Type' => 'application/pdf',
                'Content-Disposition' => 'inline; filename="separator-sheets.pdf"',
                'Cache-Control' => 'private, no-store',
            ],
        );
    }

    /** The first page of a waiting document in small. */
    public function thumb(Document $document, Thumb $thumb): BinaryFileResponse
    {
        Gate::authorize('view', $document);
        abort_if($document->state !== Document::WAITING, 404);

        return new BinaryFileResponse($thumb->of($document) ?? abort(404), 200, [
            'Content-Type' => 'image/jpeg',
            'Content-Security-Policy' => 'sandbox',
            'X-Content-Type-Options' => 'nosniff',
            'Cache-Control' => 'private, no-store',
        ], public: false);
    }

    /** @return array<string, mixed> */
    private static function shape(PageSign $sign): array
    {
        return [
            'page' => $sign->number,
            'blank' => $sign->isBlank,
            'skew' => $sign->skew,
            'turn' => $sign->turn,
            'separator' => $sign->separator === null
                ? null
                : ['library' => $sign->separator->library, 'type' => $sign->separator->type, 'dossier' => $sign->separator->dossier],
        ];
    }
}
