<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Capture\PageStore;
use App\Design\Catalog;
use App\Files\FileStore;
use App\Find\Criteria;
use App\Http\Requests\SearchInput;
use App\Http\Requests\SheetInput;
use App\Http\Resources\DocumentResource;
use App\Intake\Filing;
use App\Models\Document;
use App\Models\Page;
use App\Models\User;
use App\Support\StaleWrite;
use Brenvic\Core\Capture\FileKind;
use Brenvic\Core\Capture\WordBox;
use Brenvic\Core\Pages\HitFinder;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Gate;
use Symfony\Component\HttpFoundation\BinaryFileResponse;
use Symfony\Component\HttpFoundation\HeaderUtils;

final class DocumentController
{
    public function show(Request $request, Document $document, DocumentResource $resource): JsonResponse
    {
        Gate::authorize('view', $document);
        /** @var User $user */
        $user = $request->user();
        if ($document->state === Document::FILED) {
            DB::table('recent_documents')->upsert(['user_id' => $user->id, 'document_id' => $document->id, 'read_at' => now()], ['user_id', 'document_id'], ['read_at']);
        }

        return new JsonResponse($resource->of($document, $user));
    }

    public function update(SheetInput $request, Document $document, DocumentResource $resource, Filing $filing, Catalog $catalog): JsonResponse
    {
        Gate::authorize('update', $document);
        /** @var User $user */
        $user = $request->user();
        DB::transaction(function () use ($request, $document, $resource, $filing, $catalog, $user): void {
            $document->refresh();
            if ($request->integer('lock_version') !== $document->lock_version) {
                throw new StaleWrite($resource->of($document, $user));
            }
            $filing->change($document, $request->type($catalog), $request->sheet(), $user);
        });

        return new JsonResponse($resource->of($document->refresh(), $user));
    }

    /** The places that a search marks: how many on each page, and in the index sheet. */
    public function hits(SearchInput $input, Document $document): JsonResponse
    {
        Gate::authorize('view', $document);
        $finder = HitFinder::forText(Criteria::of($input->words(), $input->criteria())->ledger());
        $pages = [];
        $total = 0;
        if (! $finder->findsNothing()) {
            foreach (DB::table('pages')->where('document_id', $document->id)->orderBy('number')->select(['number', 'text'])->cursor() as $page) {
                $count = count($finder->hits((string) $page->text));
                if ($count > 0) {
                    $pages[] = ['page' => (int) $page->number, 'hits' => $count];
                    $total += $count;
                }
            }
        }

        return new JsonResponse(['total' => $total, 'pages' => $pages]);
    }

    /** One page of the text layer, with the hits of a search: as pieces of the text, and as boxes on the page. */
    public function page(SearchInput $input, Document $document, int $number): JsonResponse
    {
        Gate::authorize('view', $document);
        $row = Page::query()->where('document_id', $document->id)->where('number', $number)->firstOrFail();
        $page = PageStore::page($row);
        $finder = HitFinder::forText(Criteria::of($input->words(), $input->criteria())->ledger());
        $box = static fn (WordBox $w): array => [$w->left, $w->top, $w->right, $w->bottom];

        return new JsonResponse([
            'number' => $number, 'width' => $page->width, 'height' => $page->height,
            'pieces' => $finder->pieces($page->text),
            'boxes' => array_map(static fn (array $hit): array => array_map($box, $hit), $finder->boxes($page)),
        ]);
    }

    public function file(Document $document, FileStore $files): BinaryFileResponse
    {
        Gate::authorize('view', $document);
        $head = $files->head($document->sha256);

        return new BinaryFileResponse($files->path($document->sha256), 200, [
            'Content-Type' => FileKind::from($document->file_kind)->mediaType($head),
            'Content-Disposition' => HeaderUtils::makeDisposition(request()->boolean('download') ? 'attachment' : 'inline', $document->file_name, 'document-'.$document->id),
            'Content-Security-Policy' => 'sandbox',
            'X-Content-Type-Options' => 'nosniff',
            'Cache-Control' => 'private, max-age=3600',
        ], public: false);
    }
}
