<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Access\WaitingSight;
use App\Catalog\Catalog;
use App\Catalog\OwnValues;
use App\Dossiers\FilingInto;
use App\Http\Requests\ChosenInput;
use App\Http\Requests\FilingInput;
use App\Http\Requests\SheetInput;
use App\Http\Requests\UploadInput;
use App\Http\Requests\ValuesTableInput;
use App\Http\Resources\DocumentResource;
use App\Http\Resources\WaitingResource;
use App\Import\ValuesForWaiting;
use App\Intake\Arrivals;
use App\Intake\AtWork;
use App\Intake\Completed;
use App\Intake\Filing;
use App\Intake\InvalidSheet;
use App\Intake\LiftedValues;
use App\Models\Document;
use App\Models\DocumentType;
use App\Models\Group;
use App\Models\Library;
use App\Models\Right;
use App\Models\User;
use App\Support\Refused;
use App\Support\StaleWrite;
use Illuminate\Database\Eloquent\Builder;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Http\UploadedFile;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Gate;

/** What has arrived and waits to be filed: each person's own, and that of their groups. */
final class IntakeController
{
    private const GONE = 'Some of these documents were filed or taken away in the meantime. Nothing was filed; look at the list again.';

    /** The list, and that one is at a document now; `stamp` is that of the list that one has. */
    public function index(Request $request, WaitingResource $resource, AtWork $atWork): JsonResponse
    {
        $input = $request->validate(['stamp' => 'nullable|string|max:40', 'at' => 'nullable|string|max:40']);
        if (isset($input['at'])) {
            $document = $this->waiting($request)->where('ref', $input['at'])->value('id');
            $atWork->note(User::of($request), $document === null ? null : (int) $document);
        }

        return new JsonResponse($resource->of(User::of($request), $input['stamp'] ?? null));
    }

    public function count(Request $request): JsonResponse
    {
        return new JsonResponse(['waiting' => $this->waiting($request)->whereNull('parent_id')->count()]);
    }

    public function store(UploadInput $request, Arrivals $arrivals, Catalog $catalog, DocumentResource $resource): JsonResponse
    {
        $user = User::of($request);
        $library = $this->library($catalog, (string) $request->validated('library'));
        /** @var UploadedFile $file */
        $file = $request->file('file');
        $path = trim((string) ($request->validated('path') ?? ''), '/');
        $document = $arrivals->receive((string) $file->getRealPath(), $file->getClientOriginalName(), $library, $user, mb_scrub($path));

        return new JsonResponse($resource->of($document->refresh(), $user), 201);
    }

    /** Keeps the sheet of a waiting document until it is filed. */
    public function keep(SheetInput $request, Document $document, Filing $filing, Catalog $catalog, WaitingResource $resource): JsonResponse
    {
        $waiting = $this->waiting($request)->find($document->id) ?? abort(404);
        Gate::authorize('file', $catalog->libraries()->get($waiting->library_id));
        if ($request->integer('lock_version') !== $waiting->lock_version) {
            throw new StaleWrite($resource->of(User::of($request)));
        }
        $faults = $filing->keepSheet($waiting, $request->type($catalog), $request->sheet(), User::of($request));
        LiftedValues::note($waiting, $catalog->fieldIds(), $request->lifted());

        return new JsonResponse(['faults' => (object) $faults, ...$resource->of(User::of($request))]);
    }

    /** Puts what a table says of files onto the sheets of those that wait. */
    public function values(ValuesTableInput $request, ValuesForWaiting $values, WaitingResource $resource): JsonResponse
    {
        /** @var UploadedFile $table */
        $table = $request->file('file');
        $report = $values->put(User::of($request), (string) $table->getRealPath(), $request->documents());

        return new JsonResponse(['report' => $report, ...$resource->of(User::of($request))]);
    }

    /** Files documents with the same sheet. */
    public function file(
        FilingInput $request,
        Filing $filing,
        FilingInto $into,
        Catalog $catalog,
        WaitingResource $resource,
    ): JsonResponse {
        $user = User::of($request);
        $type = $request->type($catalog) ?? throw new Refused('Choose a document type first.');
        $documents = $this->chosen($request, $request->validated('documents'), $catalog);
        $values = $filing->checked($type, $request->sheet(), null, $user);
        $name = (string) ($request->validated('name') ?? '');
        $completed = array_map(
            static fn (Document $document): Completed => new Completed($document, $type, $values, $name === '' ? null : $name),
            $documents,
        );
        $section = $request->validated('section');
        if (count($documents) === 1) {
            LiftedValues::note($documents[0], $catalog->fieldIds(), $request->lifted());
        }
        $act = $into->file($completed, (string) ($request->validated('dossier') ?? ''), $section === null ? null : (int) $section, $user);

        return new JsonResponse(['act' => $act, ...$resource->of($user)]);
    }

    /** Files those documents whose own sheets are complete, as one act, and says of the others why not. */
    public function fileComplete(ChosenInput $request, Filing $filing, Catalog $catalog, WaitingResource $resource): JsonResponse
    {
        $user = User::of($request);
        $documents = $this->chosen($request, $request->validated('documents'), $catalog);
        $present = OwnValues::of(array_map(static fn (Document $d): int => $d->id, $documents));
        $completed = $left = [];
        foreach ($documents as $document) {
            $type = $catalog->types()->get((int) $document->document_type_id);
            try {
                $completed[] = self::complete($filing, $document, $type, $present[$document->id] ?? [], $user);
            } catch (InvalidSheet $fault) {
                $left[] = ['ref' => $document->ref, 'why' => array_values($fault->faults)[0] ?? $fault->getMessage()];
            }
        }
        $act = $completed === [] ? null : $filing->fileAll($completed, $user);

        return new JsonResponse(['act' => $act, 'filed' => count($completed), 'left' => $left, ...$resource->of($user)]);
    }

    /**
     * @param  array<string, list<string>>  $values
     *
     * @throws InvalidSheet
     */
    private static function complete(Filing $filing, Document $document, ?DocumentType $type, array $values, User $by): Completed
    {
        if ($type === null) {
            throw new InvalidSheet(['type' => 'It has no document type.']);
        }

        return new Completed($document, $type, $filing->checked($type, $values, $values, $by));
    }

    public function discard(ChosenInput $request, WaitingResource $resource): JsonResponse
    {
        $this->waiting($request)->whereIn('ref', $request->validated('documents'))->get()->each->delete();

        return new JsonResponse($resource->of(User::of($request)));
    }

    /** Gives what waits to another library. */
    public function move(Request $request, Filing $filing, Catalog $catalog, WaitingResource $resource): JsonResponse
    {
        $input = $request->validate([
            'documents' => 'required|array|min:1|max:500',
            'documents.*' => 'string',
            'library' => 'required|string',
        ]);
        $library = $this->library($catalog, $input['library']);
        $this->each($request, $input['documents'], $filing, static fn (Document $one) => $one->update(['library_id' => $library->id]));

        return new JsonResponse($resource->of(User::of($request)));
    }

    /** To whom what waits can be handed over. */
    public function hands(Request $request): JsonResponse
    {
        $user = User::of($request);
        $people = User::query()
            ->whereNull('out_of_use_at')
            ->whereKeyNot($user->id)
            ->orderBy('name')
            ->get()
            ->filter(static fn (User $person): bool => $person->may(Right::File));

        return new JsonResponse([
            'people' => $people->map(static fn (User $person): array => ['sign_in' => $person->sign_in, 'name' => $person->name])->values(),
            'groups' => Group::query()->orderBy('name')->pluck('name'),
        ]);
    }

    /** Hands what waits over to a colleague or to a group. */
    public function handOver(Request $request, Filing $filing, Catalog $catalog, WaitingResource $resource): JsonResponse
    {
        $input = $request->validate([
            'documents' => 'required|array|min:1|max:500',
            'documents.*' => 'string',
            'person' => 'nullable|string|required_without:group',
            'group' => 'nullable|string',
        ]);
        $group = isset($input['group']) ? (Group::query()->where('name', $input['group'])->value('name') ?? abort(404)) : null;
        $person = $group !== null ? null : User::query()->where('sign_in', $input['person'])->whereNull('out_of_use_at')->first() ?? abort(404);
        $hands = $person === null
            ? User::query()->whereNull('out_of_use_at')->whereRelation('groups', 'name', $group)->get()
            : collect([$person]);
        $to = $person->name ?? (string) $group;
        $given = $person === null ? ['intake_group' => $group] : ['intake_group' => null, 'created_by' => $person->id];
        $this->each($request, $input['documents'], $filing, static function (Document $one) use ($given, $hands, $to, $catalog): void {
            $library = $catalog->libraries()->get($one->library_id);
            // What nobody there may file would be seen by nobody.
            if (! $hands->contains(static fn (User $person): bool => Gate::forUser($person)->allows('file', $library))) {
                throw new Refused("{$to} may not file in the library of “{$one->file_name}”. Nothing was handed over.");
            }
            $one->update($given);
        });

        return new JsonResponse($resource->of(User::of($request)));
    }

    /** Takes back a discard. */
    public function restore(ChosenInput $request, WaitingResource $resource): JsonResponse
    {
        WaitingSight::of(User::of($request))
            ->onlyTrashed()
            ->where('state', Document::WAITING)
            ->whereIn('ref', $request->validated('documents'))
            ->restore();

        return new JsonResponse($resource->of(User::of($request)));
    }

    /** @return Builder<Document> */
    private function waiting(Request $request): Builder
    {
        return WaitingSight::of(User::of($request))->where('state', Document::WAITING);
    }

    private function library(Catalog $catalog, string $code): Library
    {
        $library = $catalog->libraries()->firstWhere('code', $code) ?? abort(404);
        Gate::authorize('file', $library);

        return $library;
    }

    /**
     * @param  list<string>  $refs
     * @return list<Document> in the order of arrival
     */
    private function chosen(Request $request, array $refs, Catalog $catalog): array
    {
        $documents = $this->waiting($request)->whereIn('ref', $refs)->orderBy('id')->get();
        if ($documents->count() !== count($refs)) {
            throw new Refused(self::GONE);
        }
        foreach ($documents as $document) {
            Gate::authorize('file', $catalog->libraries()->get($document->library_id));
        }

        return array_values($documents->all());
    }

    /**
     * Does something to documents and what is attached to them.
     *
     * @param  list<string>  $refs
     * @param  \Closure(Document): mixed  $act
     */
    private function each(Request $request, array $refs, Filing $filing, \Closure $act): void
    {
        DB::transaction(function () use ($request, $refs, $filing, $act): void {
            foreach ($this->waiting($request)->whereNull('parent_id')->whereIn('ref', $refs)->get() as $document) {
                foreach ([$document, ...$filing->below($document->id)] as $one) {
                    $act($one);
                }
            }
        });
    }
}
