<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Access\Rights;
use App\Catalog\Catalog;
use App\History\Act;
use App\History\History;
use App\Http\Resources\CaseResource;
use App\Models\Document;
use App\Models\ProcedureCase;
use App\Models\Right;
use App\Models\User;
use App\Procedures\Cases;
use App\Procedures\ProcedureVersions;
use App\Procedures\TaskList;
use App\Support\Refused;
use Brenvic\Core\Design\ProcedurePart;
use Brenvic\Core\Procedures\Machine;
use Brenvic\Core\Procedures\Record\CaseState;
use Brenvic\Core\Query\SyntaxError;
use Brenvic\Core\Search\Asking\SearchError;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;

/** Where documents stand in procedures, and what those do who look after these. */
final readonly class CaseController
{
    public function __construct(
        private Catalog $catalog,
        private Cases $cases,
        private CaseResource $resource,
        private ProcedureVersions $versions,
        private Rights $rights,
    ) {
    }

    public function index(Request $request, Document $document): JsonResponse
    {
        return $this->all($request, $document);
    }

    public function store(Request $request, Document $document): JsonResponse
    {
        $code = (string) $request->validate(['procedure' => 'required|string|max:40'])['procedure'];
        $user = User::of($request);
        $part = $this->beginnable($user, $document)[$code] ?? throw new Refused('This procedure does not begin with this document.');
        $this->cases->begin($part, $document, $user);

        return $this->all($request, $document, 201);
    }

    public function goOn(Request $request, int $case): JsonResponse
    {
        $one = $this->kept($request, $case);
        $user = User::of($request);
        $this->cases->act($one, static fn (Machine $machine, CaseState $state): array => $machine->resume($state, $user->id));

        return $this->all($request, $one->document ?? abort(404));
    }

    public function move(Request $request, int $case): JsonResponse
    {
        $one = $this->kept($request, $case);
        $step = (string) $request->validate(['step' => 'required|string|max:40'], ['step.required' => 'Choose a step.'])['step'];
        $user = User::of($request);
        $this->cases->move($one, $step, $user);
        History::record(Act::CaseMoved, $user, $one->document, ['procedure' => $this->versions->of($one)->name, 'step' => $step]);

        return $this->all($request, $one->document ?? abort(404));
    }

    public function giveUp(Request $request, int $case): JsonResponse
    {
        $one = $this->kept($request, $case);
        $reason = (string) $request->validate(['reason' => 'required|string|max:2000'], ['reason.required' => 'Give a reason.'])['reason'];
        $user = User::of($request);
        $this->cases->act($one, static fn (Machine $machine, CaseState $state): array => $machine->giveUp($state, $user->id, $reason));

        return $this->all($request, $one->document ?? abort(404));
    }

    private function all(Request $request, Document $document, int $status = 200): JsonResponse
    {
        $user = User::of($request);

        return new JsonResponse(
            [
                'cases' => $this->resource->ofDocument($document, $user),
                'procedures' => array_values(
                    array_map(
                        static fn (ProcedurePart $part): array => ['code' => $part->code, 'name' => $part->name],
                        $this->beginnable($user, $document),
                    ),
                ),
            ],
            $status,
        );
    }

    /** @return array<string, ProcedurePart> the procedures that a person may begin with a document */
    private function beginnable(User $user, Document $document): array
    {
        if ($document->state !== Document::FILED || ! ($user->may(Right::File) || $user->may(Right::Change))) {
            return [];
        }
        $type = $this->catalog->types()->get((int) $document->document_type_id)?->code;

        return array_filter(
            $this->catalog->design()->parts(ProcedurePart::class),
            function (ProcedurePart $part) use ($type, $document): bool {
                try {
                    return $part->isFor($type) &&
                        ! Cases::open($part->code, $document)->exists() &&
                        ($part->criterion === '' || $this->rights->matches($document, $part->criterion));
                } catch (SyntaxError|SearchError) {
                    return false;
                }
            },
        );
    }

    /** A case that the person looks after, about a document that they see. */
    private function kept(Request $request, int $case): ProcedureCase
    {
        $user = User::of($request);
        $one = ProcedureCase::query()->with('document')->findOrFail($case);
        abort_if($one->document === null || ! $this->rights->sees($user, $one->document), 404);
        abort_unless(TaskList::keeps($user, $this->versions->of($one)), 403);

        return $one;
    }
}
