<?php

declare(strict_types=1);

namespace App\Loans;

use App\Access\Rights;
use App\Files\FileStore;
use App\Files\NewFile;
use App\History\Act;
use App\History\History;
use App\Intake\Arrivals;
use App\Jobs\Urgency;
use App\Models\DeliveryForm;
use App\Models\Document;
use App\Models\Loan;
use App\Models\MadeHow;
use App\Models\User;
use App\Notices\NoticeKind;
use App\Notices\Notices;
use App\Retrieve\Outgoing;
use App\Support\Refused;
use App\Versions\NewVersion;
use App\Versions\Versions;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Str;

/** Lends copies to a team space outside and takes them back as new versions, by hand or on a set day. */
final readonly class Loans
{
    public function __construct(
        private TeamSpace $space,
        private Outgoing $outgoing,
        private Versions $versions,
        private FileStore $files,
        private Rights $rights,
    ) {
    }

    public function lend(Document $document, User $by, string $borrower, DeliveryForm $form, ?string $dueOn): Loan
    {
        $file = $this->outgoing->file($by, $document, $form);
        $key = Str::random(40);
        // The copy is there before the row that names it.
        $this->space->put($key, $file->path, $file->name);

        return DB::transaction(function () use ($document, $by, $borrower, $form, $dueOn, $file, $key): Loan {
            $loan = Loan::query()->create([
                'document_id' => $document->id,
                'version' => $document->version,
                'user_id' => $by->id,
                'borrower' => $borrower,
                'form' => $form,
                'key' => $key,
                'sha256' => $file->sha256,
                'due_on' => $dueOn,
                'lent_at' => now(),
            ]);
            History::record(Act::Lent, $by, $document, [
                'to' => $borrower,
                'form' => $form->value,
                'version' => $document->version,
                ...$dueOn === null ? [] : ['due' => $dueOn],
            ]);
            if ($dueOn !== null) {
                ReturnLoan::dispatch($loan->id)->onQueue(Urgency::Started->value)->delay($loan->due_on?->endOfDay())->afterCommit();
            }

            return $loan;
        });
    }

    /** @return list<Loan> the open ones first */
    public function of(Document $document): array
    {
        return array_values(
            Loan::query()
                ->with('user')
                ->where('document_id', $document->id)
                ->orderByRaw("state IN ('lent', 'conflict') DESC")
                ->orderByDesc('id')
                ->limit(50)
                ->get()
                ->all(),
        );
    }

    /**
     * How the copy is out there.
     *
     * @return 'unchanged'|'changed'|'gone'
     */
    public function stateOf(Loan $loan): string
    {
        $copy = $this->space->copy($loan->key);

        return $copy === null ? 'gone' : (hash_file('sha256', $copy['path']) === $loan->sha256 ? 'unchanged' : 'changed');
    }

    public function address(Loan $loan): string
    {
        return $this->space->address($loan->key);
    }

    /**
     * Takes the copy back: a changed one as a new version. When the document got another version meanwhile nothing is
     * overwritten; somebody decides.
     *
     * @param  bool  $anyway  on top of what came meanwhile
     *
     * @throws Refused
     */
    public function return(Loan $loan, User $by, bool $anyway = false): void
    {
        $copy =
            $this->space->copy($loan->key) ??
            throw new Refused('The team space cannot be reached, or no longer has the copy. The loan stays open.');
        $isChanged = hash_file('sha256', $copy['path']) !== $loan->sha256;
        $taken = $isChanged ? $this->files->take($copy['path']) : null;
        DB::transaction(function () use ($loan, $by, $anyway, $copy, $taken): void {
            $loan->refresh();
            if (! $loan->isOpen()) {
                throw new Refused('The copy has already been returned.');
            }
            $document = $loan->document()->firstOrFail();
            if ($taken !== null && $loan->form !== DeliveryForm::AsItIs) {
                throw new Refused(
                    'A copy that was lent '.
                        $loan->form->words().
                        ' cannot become a version: it is not the whole document. End the loan, and keep what was changed another way.',
                );
            }
            if ($taken !== null && $document->version !== $loan->version && ! $anyway) {
                $loan->update([
                    'state' => Loan::CONFLICT,
                    'says' => "Version {$document->version} came while version {$loan->version} was lent.",
                ]);

                return;
            }
            if ($taken !== null) {
                [$sha256, $bytes] = $taken;
                $through = ['outside' => $loan->borrower, 'loan' => $loan->id, 'lent' => $loan->lent_at->format('Y-m-d')];
                $file = new NewFile($sha256, $bytes, Arrivals::safeName($copy['name']));
                $made = new NewVersion(MadeHow::Returned, "Returned by {$loan->borrower}", $through);
                $this->versions->add($document, $by, $file, $made);
            }
            $loan->update([
                'state' => Loan::RETURNED,
                'says' => $taken === null ? 'It came back as it was.' : '',
                'returned_version' => $taken === null ? null : $document->refresh()->version,
                'ended_at' => now(),
            ]);
            History::record(Act::Returned, $by, $document, ['from' => $loan->borrower, 'changed' => $taken !== null]);
            $lender = $loan->user_id === $by->id ? null : User::query()->whereNull('out_of_use_at')->find($loan->user_id);
            $lender === null || Notices::tell(
                $this->rights->seers([$lender], $document),
                NoticeKind::Loan,
                ['text' => "{$loan->borrower} returned “{$document->title}”".($taken === null ? ', unchanged.' : ', changed.')],
                "/documents/{$document->ref}",
                $document,
            );
            DB::afterCommit(fn () => $this->space->remove($loan->key));
        });
    }

    /**
     * Records that another file was put in the place of the copy out there. Whoever did so is not known here by name: the
     * history says that it came from outside, and through which loan.
     */
    public function noticeChange(Loan $loan, string $sha256): void
    {
        History::record(Act::ChangedOutside, null, $loan->document()->firstOrFail(), [
            'outside' => $loan->borrower,
            'loan' => $loan->id,
            'lent' => $loan->lent_at->format('Y-m-d'),
            'sha256' => $sha256,
        ]);
    }

    /** Takes the copy away out there without making a version of it. */
    public function end(Loan $loan, User $by): void
    {
        DB::transaction(function () use ($loan, $by): void {
            $loan->refresh();
            if (! $loan->isOpen()) {
                throw new Refused('The copy has already been returned.');
            }
            $loan->update(['state' => Loan::ENDED, 'says' => 'Ended; changes made outside were discarded.', 'ended_at' => now()]);
            History::record(Act::LoanEnded, $by, $loan->document()->firstOrFail(), ['of' => $loan->borrower]);
            DB::afterCommit(fn () => $this->space->remove($loan->key));
        });
    }
}
