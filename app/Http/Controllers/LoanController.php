<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Http\Requests\VersionInput;
use App\Loans\Loans;
use App\Loans\SimulatedTeamSpace;
use App\Models\DeliveryForm;
use App\Models\Document;
use App\Models\Loan;
use App\Models\User;
use App\Redaction\Redactions;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\RedirectResponse;
use Illuminate\Http\Request;
use Illuminate\Http\Response;
use Illuminate\Support\Facades\Gate;
use Illuminate\Validation\Rule;
use Symfony\Component\HttpFoundation\BinaryFileResponse;
use Symfony\Component\HttpFoundation\HeaderUtils;

/** Copies lent to a team space outside; and the page that the simulated space shows to people there. */
final readonly class LoanController
{
    public function __construct(private Loans $loans, private Redactions $redactions)
    {
    }

    public function index(Request $request, Document $document): JsonResponse
    {
        abort_if($this->redactions->binds(User::of($request), $document), 404);

        return $this->all($document);
    }

    public function store(Request $request, Document $document): JsonResponse
    {
        Gate::authorize('update', $document);
        $input = $request->validate(
            [
                'borrower' => 'required|string|max:200',
                'form' => ['nullable', Rule::enum(DeliveryForm::class)],
                'due_on' => 'nullable|date_format:Y-m-d|after_or_equal:today',
            ],
            ['borrower.required' => 'Say whom it is lent to.', 'due_on.after_or_equal' => 'This day has passed.'],
        );
        $this->loans->lend(
            $document,
            User::of($request),
            trim($input['borrower']),
            DeliveryForm::from($input['form'] ?? DeliveryForm::AsItIs->value),
            $input['due_on'] ?? null,
        );

        return $this->all($document);
    }

    public function return(Request $request, Document $document, int $loan): JsonResponse
    {
        Gate::authorize('update', $document);
        $this->loans->return($this->one($document, $loan), User::of($request), $request->boolean('anyway'));

        return $this->all($document->refresh());
    }

    public function end(Request $request, Document $document, int $loan): JsonResponse
    {
        Gate::authorize('update', $document);
        $this->loans->end($this->one($document, $loan), User::of($request));

        return $this->all($document);
    }

    /** What people in the team space see of a copy. */
    public function outside(string $key): Response
    {
        $loan = Loan::query()->where('key', $key)->first();
        $copy = $loan?->isOpen() === true ? app(SimulatedTeamSpace::class)->copy($key) : null;

        return new Response(
            view('team-space', [
                'copy' => $copy,
                'key' => $key,
                'due' => $loan?->due_on?->format('j M Y'),
                'from' => config('brenvic.organisation'),
            ]),
            $copy === null ? 404 : 200,
            ['Cache-Control' => 'no-store', 'X-Robots-Tag' => 'noindex'],
        );
    }

    public function outsideFile(string $key): BinaryFileResponse
    {
        $copy = Loan::query()->where('key', $key)->first()?->isOpen() === true ? app(SimulatedTeamSpace::class)->copy($key) : null;
        $copy ?? abort(404);

        return new BinaryFileResponse(
            $copy['path'],
            200,
            [
                'Content-Type' => 'application/octet-stream',
                'Content-Disposition' => HeaderUtils::makeDisposition('attachment', $copy['name'], 'copy'),
                'X-Content-Type-Options' => 'nosniff',
                'Cache-Control' => 'no-store',
            ],
            false,
        );
    }

    public function outsideChange(VersionInput $request, string $key): RedirectResponse
    {
        $loan = Loan::query()->where('key', $key)->first();
        abort_unless($loan?->isOpen() === true, 404);
        /** @var \Illuminate\Http\UploadedFile $file */
        $file = $request->file('file');
        $path = (string) $file->getRealPath();
        app(SimulatedTeamSpace::class)->change($key, $path, $file->getClientOriginalName());
        $this->loans->noticeChange($loan, (string) hash_file('sha256', $path));

        return new RedirectResponse("/team-space/{$key}?changed=1");
    }

    private function one(Document $document, int $loan): Loan
    {
        return Loan::query()->with('user')->where('document_id', $document->id)->findOrFail($loan);
    }

    private function all(Document $document): JsonResponse
    {
        // Whoever has the address can change the copy, and so the document.
        $mayChange = Gate::allows('update', $document);

        return new JsonResponse([
            'loans' => array_map(
                fn (Loan $loan): array => [
                    'id' => $loan->id,
                    'version' => $loan->version,
                    'borrower' => $loan->borrower,
                    'form' => $loan->form->words(),
                    'by' => $loan->user->name,
                    'lent_at' => $loan->lent_at->toIso8601String(),
                    'due_on' => $loan->due_on?->format('Y-m-d'),
                    'state' => $loan->state,
                    'says' => $loan->says,
                    'returned_version' => $loan->returned_version,
                    'ended_at' => $loan->ended_at?->toIso8601String(),
                    'copy' => $loan->isOpen() ? $this->loans->stateOf($loan) : null,
                    'address' => $loan->isOpen() && $mayChange ? $this->loans->address($loan) : null,
                ],
                $this->loans->of($document),
            ),
            'version' => $document->version,
        ]);
    }
}
