<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Http\Requests\PagesInput;
use App\Http\Requests\VersionInput;
use App\Http\Resources\DocumentResource;
use App\Http\Resources\InProgressResource;
use App\Intake\Arrivals;
use App\Models\Document;
use App\Models\User;
use App\Models\Version;
use App\Redaction\Redactions;
use App\Support\Column;
use App\Versions\PagesWanted;
use App\Versions\PageWork;
use App\Versions\Versions;
use Brenvic\Core\Versions\DiffPiece;
use Brenvic\Core\Versions\TextDiff;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Http\UploadedFile;
use Illuminate\Support\Facades\Gate;

/** Versions of a document, and who works on the next one. */
final readonly class VersionController
{
    public function __construct(private Versions $versions, private DocumentResource $resource, private Redactions $redactions)
    {
    }

    public function index(Request $request, Document $document): JsonResponse
    {
        // Earlier versions are nobody’s who may see the redacted copy only.
        abort_if($this->redactions->binds(User::of($request), $document), 404);

        return new JsonResponse([
            'versions' => array_map(
                static fn (Version $v): array => [
                    'number' => $v->number,
                    'file_name' => $v->file_name,
                    'file_kind' => $v->file_kind,
                    'bytes' => $v->bytes,
                    'pages' => $v->number === $document->version ? $document->page_count : $v->page_count,
                    'how' => $v->how->words(),
                    'note' => $v->note,
                    'by' => $v->maker?->name,
                    'at' => $v->made_at->toIso8601String(),
                    'current' => $v->number === $document->version,
                ],
                $this->versions->of($document),
            ),
        ]);
    }

    /** What differs between the texts of two versions. */
    public function compare(Request $request, Document $document): JsonResponse
    {
        abort_if($this->redactions->binds(User::of($request), $document), 404);
        $input = $request->validate(['from' => 'required|integer|min:1', 'to' => 'required|integer|min:1|different:from']);
        [$from, $to] = [$this->versions->find($document, (int) $input['from']), $this->versions->find($document, (int) $input['to'])];
        $pieces = TextDiff::of($this->versions->text($document, $from->number), $this->versions->text($document, $to->number));

        return new JsonResponse([
            'pieces' => array_map(static fn (DiffPiece $p): array => [$p->kind->value, $p->text], $pieces),
            'unread' => array_values(
                array_map(
                    static fn (Version $v): int => $v->number,
                    array_filter([$from, $to], static fn (Version $v): bool => $v->text_state !== Document::TEXT_READ),
                ),
            ),
        ]);
    }

    public function checkOut(Request $request, Document $document): JsonResponse
    {
        Gate::authorize('update', $document);
        $this->versions->checkOut(
            $document,
            User::of($request),
            (string) ($request->validate(['note' => 'nullable|string|max:500'])['note'] ?? ''),
        );

        return $this->record($request, $document);
    }

    public function putBy(VersionInput $request, Document $document): JsonResponse
    {
        Gate::authorize('update', $document);
        [$path, $name] = self::file($request);
        $this->versions->putBy($document, User::of($request), (string) $path, $name);

        return $this->record($request, $document);
    }

    public function giveUp(Request $request, Document $document): JsonResponse
    {
        $this->versions->giveUp($document, User::of($request));

        return $this->record($request, $document);
    }

    public function checkIn(VersionInput $request, Document $document): JsonResponse
    {
        Gate::authorize('update', $document);
        [$path, $name] = self::file($request);
        $this->versions->checkIn($document, User::of($request), $path, $name, (string) ($request->validated('note') ?? ''));

        return $this->record($request, $document);
    }

    public function makeCurrent(Request $request, Document $document, int $version): JsonResponse
    {
        Gate::authorize('update', $document);
        $this->versions->makeCurrent(
            $document,
            User::of($request),
            $version,
            (string) ($request->validate(['note' => 'nullable|string|max:500'])['note'] ?? ''),
        );

        return $this->record($request, $document);
    }

    public function template(Request $request, Document $document): JsonResponse
    {
        Gate::authorize('update', $document);
        $this->versions->keepAsTemplate($document, User::of($request), $request->isMethod('PUT'));

        return $this->record($request, $document);
    }

    /** A new document made of a template, in one's intake with what the template has. */
    public function fromTemplate(Request $request, Document $document, Arrivals $arrivals): JsonResponse
    {
        abort_unless($document->is_template, 404);
        Gate::authorize('file', $document->library()->firstOrFail());
        $made = $arrivals->likeTemplate($document, User::of($request));

        return new JsonResponse(['ref' => $made->ref], 201);
    }

    public function inProgress(Request $request, InProgressResource $resource): JsonResponse
    {
        return new JsonResponse(['documents' => $resource->of(User::of($request))]);
    }

    /** The pages in a new order, as a new version. */
    public function arrange(PagesInput $request, Document $document, PageWork $work): JsonResponse
    {
        Gate::authorize('update', $document);
        $work->arrange(
            $document,
            User::of($request),
            new PagesWanted($request->pages(), array_values($request->file('files') ?? [])),
            (string) ($request->validated('note') ?? ''),
            (int) $request->validated('version'),
        );

        return $this->record($request, $document);
    }

    /** Some pages as a document of their own, in one’s intake. */
    public function split(Request $request, Document $document, PageWork $work): JsonResponse
    {
        Gate::authorize('update', $document);
        $input = $request->validate([
            'version' => 'required|integer',
            'pages' => 'required|array|min:1|max:5000',
            'pages.*' => 'integer|min:1',
        ]);

        return new JsonResponse(
            ['ref' => $work->split($document, User::of($request), Column::numbers($input['pages']), (int) $input['version'])->ref],
            201,
        );
    }

    private function record(Request $request, Document $document): JsonResponse
    {
        return new JsonResponse($this->resource->of($document->refresh(), User::of($request)));
    }

    /** @return array{string|null, string} its place and its name */
    private static function file(Request $request): array
    {
        $file = $request->file('file');

        return $file instanceof UploadedFile ? [(string) $file->getRealPath(), $file->getClientOriginalName()] : [null, ''];
    }
}
