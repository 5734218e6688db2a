<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Catalog\Catalog;
use App\Dossiers\DossierFiling;
use App\Http\Requests\ChosenInput;
use App\Http\Requests\SheetInput;
use App\Http\Resources\DossierResource;
use App\Models\Comment;
use App\Models\Document;
use App\Models\Dossier;
use App\Models\DossierSection;
use App\Models\User;
use App\Support\Refused;
use App\Support\StaleWrite;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Gate;

/** Dossiers, and what is in them. */
final readonly class DossierController
{
    private const PAGE = 50;

    public function __construct(private DossierFiling $filing, private DossierResource $resource)
    {
    }

    /** The dossiers a person may see; `q` is looked for in reference, title and comments. */
    public function index(Request $request): JsonResponse
    {
        $input = $request->validate(['kind' => 'nullable|string|max:40', 'q' => 'nullable|string|max:200', 'offset' => 'integer|min:0']);
        $user = User::of($request);
        $query = Dossier::query()->whereIntegerInRaw('library_id', array_keys($user->libraryRights()));
        if (($input['kind'] ?? '') !== '') {
            $query->where('kind', $input['kind']);
        }
        foreach (preg_split('/\s+/', trim((string) ($input['q'] ?? '')), -1, PREG_SPLIT_NO_EMPTY) ?: [] as $word) {
            $query->where(
                fn ($q) => $q
                    ->whereLike('title', '%'.addcslashes($word, '%_\\').'%')
                    ->orWhereLike('ref', addcslashes($word, '%_\\').'%')
                    ->orWhereIn(
                        'id',
                        Comment::query()
                            ->whereNotNull('dossier_id')
                            ->whereLike('text', '%'.addcslashes($word, '%_\\').'%')
                            ->select('dossier_id'),
                    ),
            );
        }

        return new JsonResponse([
            'total' => $query->count(),
            'dossiers' => $this->resource->rows(
                $query->orderBy('title')->orderBy('id')->offset((int) ($input['offset'] ?? 0))->limit(self::PAGE)->get(),
                $user,
            ),
        ]);
    }

    public function show(Request $request, string $dossier): JsonResponse
    {
        return $this->shaped($request, $this->dossier($request, $dossier));
    }

    public function store(SheetInput $request, Catalog $catalog): JsonResponse
    {
        $input = $request->validate(['kind' => 'required|string', 'library' => 'required|string']);
        $library = $catalog->libraries()->firstWhere('code', $input['library']) ?? abort(404);
        Gate::authorize('fill', $library);
        $dossier = $this->filing->make($input['kind'], $library, $request->sheet(), $request->user());

        return $this->shaped($request, $dossier, 201);
    }

    public function update(SheetInput $request, string $dossier): JsonResponse
    {
        $dossier = $this->changeable($request, $dossier);
        DB::transaction(function () use ($request, $dossier): void {
            $dossier->refresh();
            if ($request->integer('lock_version') !== $dossier->lock_version) {
                throw new StaleWrite($this->resource->of($dossier, User::of($request)));
            }
            $this->filing->change($dossier, $request->sheet(), User::of($request));
        });

        return $this->shaped($request, $dossier->refresh());
    }

    /** Closes it, which begins the period of what is kept from then on, or opens it again. */
    public function close(Request $request, string $dossier): JsonResponse
    {
        $isClosed = (bool) $request->validate(['closed' => 'required|boolean'])['closed'];
        $dossier = $this->changeable($request, $dossier);
        $this->filing->close($dossier, $isClosed, User::of($request));

        return $this->shaped($request, $dossier->refresh());
    }

    /** Puts documents in, or into another section. */
    public function put(ChosenInput $request, string $dossier): JsonResponse
    {
        $section = $request->validate(['section' => 'nullable|integer'])['section'] ?? null;
        $dossier = $this->changeable($request, $dossier);
        $of = $section === null ? null : DossierSection::query()->where('dossier_id', $dossier->id)->findOrFail((int) $section);
        $this->filing->put($dossier, $this->documents($request), $of, User::of($request));

        return $this->shaped($request, $dossier);
    }

    public function takeOut(ChosenInput $request, string $dossier): JsonResponse
    {
        $dossier = $this->changeable($request, $dossier);
        $this->filing->takeOut($dossier, $this->documents($request), $request->user());

        return $this->shaped($request, $dossier);
    }

    private function dossier(Request $request, string $ref): Dossier
    {
        $user = User::of($request);

        return Dossier::query()->where('ref', $ref)->whereIntegerInRaw('library_id', array_keys($user->libraryRights()))->first() ??
            ($request->isMethod('GET') ? abort(404) : $this->filing->find($user, $ref));
    }

    private function changeable(Request $request, string $ref): Dossier
    {
        $dossier = $this->dossier($request, $ref);
        Gate::authorize('change', $dossier->library()->firstOrFail());

        return $dossier;
    }

    /** @return list<Document> */
    private function documents(ChosenInput $request): array
    {
        $documents = Document::query()->whereIn('ref', $request->validated('documents'))->get();
        $seen = $documents->filter(static fn (Document $document): bool => Gate::allows('view', $document));
        if ($seen->count() !== count($request->validated('documents'))) {
            throw new Refused('One of these documents does not exist, or you may not see it.');
        }

        return array_values($documents->all());
    }

    private function shaped(Request $request, Dossier $dossier, int $status = 200): JsonResponse
    {
        $user = User::of($request);

        return new JsonResponse($this->resource->of($dossier, $user), $status);
    }
}
