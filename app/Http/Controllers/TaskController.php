<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Access\Rights;
use App\Http\Resources\CaseResource;
use App\Intake\InvalidSheet;
use App\Models\Document;
use App\Models\ProcedureCase;
use App\Models\Task;
use App\Models\User;
use App\Procedures\Deciding;
use App\Procedures\TaskList;
use App\Procedures\TaskPart;
use App\Support\Refused;
use Brenvic\Core\Procedures\Machine;
use Brenvic\Core\Procedures\Record\CaseState;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Validation\Rule;

/** What waits for people, and what they do with it. */
final readonly class TaskController
{
    /** Tasks that are decided at once. */
    private const MANY = 200;

    public function __construct(
        private TaskList $list,
        private CaseResource $resource,
        private Deciding $deciding,
        private Rights $rights,
    ) {
    }

    public function index(Request $request): JsonResponse
    {
        $given = $request->validate(['part' => ['required', Rule::enum(TaskPart::class)], 'offset' => 'nullable|integer|min:0']);
        $user = User::of($request);
        $found = $this->list->page($user, TaskPart::from((string) $given['part']), (int) ($given['offset'] ?? 0));

        return new JsonResponse([
            'total' => $found['total'],
            'tasks' => $this->resource->tasks($found['ids'], $user),
            'counts' => $found['counts'],
            'stopped' => $given['part'] === TaskPart::Others->value ? $this->stopped($user) : [],
        ]);
    }

    public function show(Request $request, int $task): JsonResponse
    {
        [$one, $document] = $this->find($request, $task);

        return new JsonResponse($this->resource->task($one, $document, User::of($request)));
    }

    /** Those whom a task can be given to, or who can be asked: who sees the document. */
    public function people(Request $request, int $task): JsonResponse
    {
        [$one, $document] = $this->find($request, $task);
        $me = User::of($request);
        $people = User::query()->whereNull('out_of_use_at')->where('id', '!=', $me->id)->orderBy('name')->get();

        return new JsonResponse([
            'people' => array_map(
                static fn (User $person): array => [
                    'sign_in' => $person->sign_in,
                    'name' => $person->name,
                    'may_decide' => ! in_array($person->id, $one->excluded, true),
                ],
                $this->rights->seers($people, $document),
            ),
        ]);
    }

    public function take(Request $request, int $task): JsonResponse
    {
        [$one] = $this->find($request, $task);
        $user = User::of($request);

        return $this->done($request, $one, static fn (Machine $machine, CaseState $state): array => $machine->take($state, $one->number, $user->id));
    }

    public function putBack(Request $request, int $task): JsonResponse
    {
        [$one] = $this->find($request, $task);
        $user = User::of($request);

        return $this->done($request, $one, static fn (Machine $machine, CaseState $state): array => $machine->putBack($state, $one->number, $user->id));
    }

    public function give(Request $request, int $task): JsonResponse
    {
        [$one, $document] = $this->find($request, $task);
        $given = $request->validate(['to' => 'required|string|max:100', 'note' => 'nullable|string|max:2000'], ['to.required' => 'Choose somebody.']);
        $to = $this->person((string) $given['to'], $document);
        $note = trim((string) ($given['note'] ?? ''));
        $user = User::of($request);

        return $this->done(
            $request,
            $one,
            static fn (Machine $machine, CaseState $state): array => $machine->give($state, $one->number, $user->id, $to->id, $note),
        );
    }

    public function ask(Request $request, int $task): JsonResponse
    {
        [$one, $document] = $this->find($request, $task);
        $given = $request->validate(
            ['to' => 'required|string|max:100', 'text' => 'required|string|max:2000'],
            ['to.required' => 'Choose somebody.', 'text.required' => 'Write what you want to know.'],
        );
        $to = $this->person((string) $given['to'], $document);
        $user = User::of($request);

        return $this->done(
            $request,
            $one,
            static fn (Machine $machine, CaseState $state): array => $machine->question($state, $one->number, $user->id, $to->id, (string) $given['text']),
        );
    }

    public function answer(Request $request, int $task): JsonResponse
    {
        [$one] = $this->find($request, $task);
        $given = $request->validate(['text' => 'required|string|max:2000'], ['text.required' => 'Write an answer.']);
        $user = User::of($request);

        return $this->done(
            $request,
            $one,
            static fn (Machine $machine, CaseState $state): array => $machine->answer($state, $one->number, $user->id, (string) $given['text']),
        );
    }

    public function decide(Request $request, int $task): JsonResponse
    {
        [$one] = $this->find($request, $task);
        $given = $request->validate([
            'decision' => 'required|string|max:40',
            'comment' => 'nullable|string|max:4000',
            'values' => 'nullable|array|max:100',
            'values.*' => 'array|max:200',
            'values.*.*' => 'nullable|string|max:10000',
            'lock_version' => 'nullable|integer',
        ]);
        /** @var array<string, list<string|null>> $values */
        $values = $given['values'] ?? [];
        $case = $this->deciding->decide(
            $one,
            User::of($request),
            (string) $given['decision'],
            (string) ($given['comment'] ?? ''),
            array_map(static fn (array $list): array => array_map(strval(...), $list), $values),
            isset($given['lock_version']) ? (int) $given['lock_version'] : null,
        );

        return $this->decided($request, $case);
    }

    public function decideMany(Request $request): JsonResponse
    {
        $given = $request->validate([
            'tasks' => 'required|array|min:1|max:'.self::MANY,
            'tasks.*' => 'integer|distinct',
            'decision' => 'required|string|max:40',
            'comment' => 'nullable|string|max:4000',
        ]);
        $user = User::of($request);
        $done = 0;
        $left = [];
        foreach ($given['tasks'] as $id) {
            try {
                [$one] = $this->find($request, (int) $id);
                if (($this->resource->tasks([$one->id], $user)[0]['together'] ?? null) === null) {
                    throw new Refused('This step is decided one by one.');
                }
                $this->deciding->decide($one, $user, (string) $given['decision'], (string) ($given['comment'] ?? ''), [], null);
                $done++;
            } catch (Refused $why) {
                $left[] = ['task' => (int) $id, 'why' => $why->getMessage()];
            } catch (InvalidSheet $why) {
                $left[] = ['task' => (int) $id, 'why' => (string) (array_values($why->faults)[0] ?? '')];
            }
        }

        return new JsonResponse(['done' => $done, 'left' => $left]);
    }

    /** @return list<array<string, mixed>> the cases that stopped and are the person’s to look after */
    private function stopped(User $user): array
    {
        return array_values(
            ProcedureCase::query()
                ->with(['tasks.holder', 'document'])
                ->findMany($this->list->stopped($user))
                ->filter(static fn (ProcedureCase $case): bool => $case->document !== null)
                ->map(static fn (ProcedureCase $case): array => [
                    'id' => $case->id,
                    'document' => ['ref' => (string) $case->document?->ref, 'title' => (string) $case->document?->title],
                    'fault' => $case->fault,
                    'since' => $case->since->toIso8601String(),
                ])
                ->all(),
        );
    }

    /** @param  \Closure(Machine, CaseState): list<\Brenvic\Core\Procedures\Record\Event>  $what */
    private function done(Request $request, Task $task, \Closure $what): JsonResponse
    {
        $this->deciding->act($task, $what);
        $fresh = Task::query()->with(['case', 'document.type', 'holder'])->findOrFail($task->id);

        return new JsonResponse($this->resource->task($fresh, $fresh->document ?? abort(404), User::of($request)));
    }

    private function decided(Request $request, ProcedureCase $case): JsonResponse
    {
        $fresh = ProcedureCase::query()->with(['tasks.holder', 'document'])->findOrFail($case->id);

        return new JsonResponse(['case' => $this->resource->of($fresh, $fresh->document ?? abort(404), User::of($request))]);
    }

    /** @return array{Task, Document} a task about a document that the person sees, of a part that it is in for them */
    private function find(Request $request, int $task): array
    {
        $one = Task::query()->with(['case', 'document.type', 'holder'])->findOrFail($task);
        $document = $one->document;
        abort_if($document === null || ! $this->rights->sees(User::of($request), $document), 404);

        return [$one, $document];
    }

    private function person(string $signIn, Document $document): User
    {
        $person = User::query()->whereNull('out_of_use_at')->where('sign_in', $signIn)->first();
        if ($person === null || ! $this->rights->sees($person, $document)) {
            throw new Refused('They may not see the document. Choose somebody who may.');
        }

        return $person;
    }
}
