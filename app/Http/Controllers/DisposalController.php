<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Disposal\CertificatePdf;
use App\Disposal\Disposals;
use App\Disposal\WorkOnDisposal;
use App\Http\Resources\DisposalResource;
use App\Jobs\Urgency;
use App\Models\Disposal;
use App\Models\User;
use App\Support\Refused;
use Brenvic\Core\Retention\Disposal\Decision;
use Brenvic\Core\Retention\Disposal\DisposalState;
use Brenvic\Core\Retention\RetentionAction;
use Closure;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Http\Response;
use Illuminate\Support\Facades\DB;
use Illuminate\Validation\Rule;

/** Disposals: preparing, reviewing, approving, and what came of them. */
final readonly class DisposalController
{
    public function __construct(private Disposals $disposals, private DisposalResource $resource)
    {
    }

    public function index(): JsonResponse
    {
        $all = Disposal::query()->with(['preparer', 'delivery'])->orderByDesc('id')->limit(500)->get();
        $all->each($this->disposals->lookAtBag(...));

        return new JsonResponse(['disposals' => array_values($all->map($this->resource->row(...))->all())]);
    }

    public function store(Request $request): JsonResponse
    {
        $input = $request->validate([
            'name' => 'required|string|max:200',
            'action' => ['required', Rule::in(['review', 'destroy', 'hand_over'])],
            'until' => 'required|date_format:Y-m-d',
            'criteria' => 'array|max:20',
            'criteria.*' => 'string|max:2000',
        ], ['name.required' => 'Give the disposal a name.']);
        $disposal = $this->disposals->prepare(
            User::of($request),
            (string) $input['name'],
            RetentionAction::from((string) $input['action']),
            (string) $input['until'],
            array_values(array_map(strval(...), (array) ($input['criteria'] ?? []))),
        );

        return $this->shaped($request, $this->known($disposal->id), 201);
    }

    public function show(Request $request, int $disposal): JsonResponse
    {
        $found = $this->known($disposal);
        $this->disposals->lookAtBag($found);

        return $this->shaped($request, $found);
    }

    public function items(Request $request, int $disposal): JsonResponse
    {
        $input = $request->validate([
            'which' => ['nullable', Rule::in(['all', 'undecided', 'released', 'postponed', 'kept', 'left_out', 'done'])],
            'offset' => 'integer|min:0',
        ]);

        return new JsonResponse(
            $this->resource->items($this->known($disposal), User::of($request), (string) ($input['which'] ?? 'all'), (int) ($input['offset'] ?? 0)),
        );
    }

    public function review(Request $request, int $disposal): JsonResponse
    {
        $input = $request->validate([
            'documents' => 'nullable|array|max:1000',
            'documents.*' => 'string|max:40',
            'decision' => ['required', Rule::enum(Decision::class)],
            'reason' => 'nullable|string|max:1000',
            'until' => 'nullable|date_format:Y-m-d',
            'lock_version' => 'required|integer',
        ]);

        return $this->changed($request, $disposal, fn (User $user, Disposal $of) => $this->disposals->review(
            $user,
            $of,
            isset($input['documents']) ? array_values(array_map(strval(...), $input['documents'])) : null,
            Decision::from((string) $input['decision']),
            (string) ($input['reason'] ?? ''),
            $input['until'] ?? null,
        ));
    }

    public function submit(Request $request, int $disposal): JsonResponse
    {
        return $this->changed($request, $disposal, $this->disposals->submit(...));
    }

    public function approve(Request $request, int $disposal): JsonResponse
    {
        return $this->changed($request, $disposal, $this->disposals->approve(...));
    }

    public function sendBack(Request $request, int $disposal): JsonResponse
    {
        $reason = (string) $request->validate(['reason' => 'required|string|max:250'], ['reason.required' => 'Say what has to be looked at again.'])['reason'];

        return $this->changed($request, $disposal, fn (User $user, Disposal $of) => $this->disposals->sendBack($user, $of, $reason));
    }

    public function cancel(Request $request, int $disposal): JsonResponse
    {
        return $this->changed($request, $disposal, $this->disposals->cancel(...));
    }

    public function receive(Request $request, int $disposal): JsonResponse
    {
        $receipt = (string) ($request->validate(['receipt' => 'nullable|string|max:1000'])['receipt'] ?? '');

        return $this->changed($request, $disposal, fn (User $user, Disposal $of) => $this->disposals->receive($user, $of, $receipt));
    }

    /** Goes on with what stopped. */
    public function goOn(Request $request, int $disposal): JsonResponse
    {
        $found = $this->known($disposal);
        if ($found->state !== DisposalState::Running || $found->says === '') {
            throw new Refused('It has not stopped.');
        }
        $found->update(['says' => '']);
        WorkOnDisposal::dispatch($found->id)->onQueue(Urgency::Bulk->value);

        return $this->shaped($request, $found);
    }

    /** It names every document, so it is for whoever may see them all. */
    public function certificate(Request $request, int $disposal, string $form): Response
    {
        $found = $this->known($disposal);
        $json = $found->certificate ?? abort(404);
        abort_unless($this->disposals->isSeenWhole(User::of($request), $found), 404);
        $name = "disposal-{$found->id}-certificate.{$form}";

        return new Response($form === 'json' ? $json : CertificatePdf::of($found, $json), 200, [
            'Content-Type' => $form === 'json' ? 'application/json' : 'application/pdf',
            'Content-Disposition' => "attachment; filename=\"{$name}\"",
        ]);
    }

    private function known(int $disposal): Disposal
    {
        return Disposal::query()->with(['preparer', 'submitter', 'approver', 'delivery'])->findOrFail($disposal);
    }

    /** @param  Closure(User, Disposal): mixed  $change */
    private function changed(Request $request, int $disposal, Closure $change): JsonResponse
    {
        $seen = (int) $request->validate(['lock_version' => 'required|integer'])['lock_version'];
        DB::transaction(function () use ($request, $disposal, $seen, $change): void {
            $found = $this->known($disposal);
            Disposals::fresh($found, $seen, $this->resource->of($found, User::of($request)));
            $change(User::of($request), $found);
        });

        return $this->shaped($request, $this->known($disposal));
    }

    private function shaped(Request $request, Disposal $disposal, int $status = 200): JsonResponse
    {
        return new JsonResponse($this->resource->of($disposal, User::of($request)), $status);
    }
}
