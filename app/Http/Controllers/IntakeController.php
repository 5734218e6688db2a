<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Access\WaitingSight;
use App\Catalog\Catalog;
use App\Http\Requests\ChosenInput;
use App\Http\Requests\FilingInput;
use App\Http\Requests\UploadInput;
use App\Http\Resources\DocumentResource;
use App\Http\Resources\SourceResource;
use App\Intake\Arrivals;
use App\Intake\Filing;
use App\Models\Document;
use App\Models\User;
use App\Support\Refused;
use Illuminate\Database\Eloquent\Builder;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Http\UploadedFile;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Gate;

/** What has arrived and waits to be filed, each person's own. */
final class IntakeController
{
    public function __construct(private readonly Catalog $catalog, private readonly Filing $filing)
    {
    }

    public function index(Request $request, DocumentResource $resource): JsonResponse
    {
        return $this->waiting($request, $resource);
    }

    public function store(UploadInput $request, Arrivals $arrivals, Catalog $catalog, DocumentResource $resource): JsonResponse
    {
        $user = User::of($request);
        $library = $catalog->libraries()->firstWhere('code', $request->validated('library')) ?? abort(404);
        Gate::authorize('file', $library);
        /** @var UploadedFile $file */
        $file = $request->file('file');
        $document = $arrivals->receive((string) $file->getRealPath(), $file->getClientOriginalName(), $library, $user);

        return new JsonResponse($resource->of($document->refresh(), $user), 201);
    }

    public function file(FilingInput $request, Filing $filing, Catalog $catalog, DocumentResource $resource): JsonResponse
    {
        $documents = $this->own($request)->where('state', Document::WAITING)->whereIn('ref', $request->validated('documents'))->get();
        if ($documents->count() !== count($request->validated('documents'))) {
            throw new Refused(
                'Some of these documents were filed or taken away in the meantime. Nothing was filed; look at the list again.',
            );
        }
        foreach ($documents as $document) {
            Gate::authorize('file', $catalog->libraries()->get($document->library_id));
        }
        $type = $request->type($catalog) ?? throw new Refused('Choose a document type first.');
        $name = $request->validated('name');
        $filing->file(
            array_values($documents->all()),
            $type,
            $request->sheet(),
            User::of($request),
            $name === null || $name === '' ? null : (string) $name,
        );

        return $this->waiting($request, $resource);
    }

    public function discard(ChosenInput $request, DocumentResource $resource): JsonResponse
    {
        $this->own($request)->where('state', Document::WAITING)->whereIn('ref', $request->validated('documents'))->delete();

        return $this->waiting($request, $resource);
    }

    /** Gives what waits to another library. */
    public function move(Request $request, DocumentResource $resource): JsonResponse
    {
        $input = $request->validate([
            'documents' => 'required|array|min:1|max:500',
            'documents.*' => 'string',
            'library' => 'required|string',
        ]);
        $library = $this->catalog->libraries()->firstWhere('code', $input['library']) ?? abort(404);
        Gate::authorize('file', $library);
        DB::transaction(function () use ($request, $input, $library): void {
            $found = $this->own($request)->where('state', Document::WAITING)->whereNull('parent_id')->whereIn('ref', $input['documents']);
            foreach ($found->get() as $document) {
                foreach ([$document, ...$this->filing->below($document->id)] as $one) {
                    $one->update(['library_id' => $library->id]);
                }
            }
        });

        return $this->waiting($request, $resource);
    }

    /** Takes back a discard. */
    public function restore(ChosenInput $request, DocumentResource $resource): JsonResponse
    {
        $this->own($request)->withTrashed()->where('state', Document::WAITING)->whereIn('ref', $request->validated('documents'))->restore();

        return $this->waiting($request, $resource);
    }

    private function waiting(Request $request, DocumentResource $resource): JsonResponse
    {
        $user = User::of($request);
        $documents = $this->own($request)->where('state', Document::WAITING)->whereNull('parent_id')->orderBy('id')->limit(500)->get();

        return new JsonResponse([
            'documents' => $resource->waiting($documents, $user),
            'sources' => SourceResource::troubled($this->catalog->design(), $user),
        ]);
    }

    /** @return Builder<Document> */
    private function own(Request $request): Builder
    {
        return WaitingSight::of(User::of($request));
    }
}
