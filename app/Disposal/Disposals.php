<?php

declare(strict_types=1);

namespace App\Disposal;

use App\Access\Rights;
use App\Catalog\Catalog;
use App\Find\Finder;
use App\History\Act;
use App\History\History;
use App\Jobs\Urgency;
use App\Models\Delivery;
use App\Models\DeliveryForm;
use App\Models\Disposal;
use App\Models\Document;
use App\Models\PullList;
use App\Models\User;
use App\Retrieve\Deliver;
use App\Support\Column;
use App\Support\Refused;
use App\Support\StaleWrite;
use Brenvic\Core\Index\DocumentSet;
use Brenvic\Core\Retention\Disposal\Decision;
use Brenvic\Core\Retention\Disposal\DisposalState;
use Brenvic\Core\Retention\RetentionAction;
use Brenvic\Core\Search\Asking\KeptSearch;
use Illuminate\Database\Query\Builder;
use Illuminate\Support\Facades\DB;

/**
 * What falls due together: prepared, reviewed document by document, approved by somebody who had no part in it, and carried
 * out in the background (WorkOnDisposal).
 */
final readonly class Disposals
{
    /** Documents of one disposal. */
    public const MOST = 50_000;

    private const CHUNK = 1_000;

    public function __construct(
        private Finder $finder,
        private Rights $rights,
        private Obstacles $obstacles,
        private Catalog $catalog,
    ) {
    }

    /**
     * Begins to gather what is due.
     *
     * @param  list<string>  $criteria  CQL lines that narrow it
     * @param  string  $until  the day by which it is due
     */
    public function prepare(User $by, string $name, RetentionAction $action, string $until, array $criteria): Disposal
    {
        if ($action === RetentionAction::Keep) {
            throw new Refused('What is kept permanently never falls due.');
        }
        $lines = ["retention_due <= {$until}", "retention_action == {$action->value}", ...$criteria];
        $search = KeptSearch::of(['criteria' => array_map(static fn (string $cql): array => ['cql' => $cql], $lines)]);
        $search->read($this->catalog->schema($by));

        return DB::transaction(function () use ($by, $name, $action, $search): Disposal {
            $disposal = Disposal::query()->create([
                'name' => $name,
                'action' => $action,
                'state' => DisposalState::Preparing,
                'criterion' => (string) json_encode($search),
                'prepared_by' => $by->id,
            ]);
            WorkOnDisposal::dispatch($disposal->id)->onQueue(Urgency::Started->value)->afterCommit();

            return $disposal;
        });
    }

    /** Gathers what the search of a disposal finds, and names what cannot go. Done again when it was stopped. */
    public function gather(Disposal $disposal): void
    {
        $search = self::searchOf($disposal);
        $found = $this->finder->documents($disposal->preparer, $search)->documents();
        if (count($found) > self::MOST) {
            $disposal->update(['state' => DisposalState::Cancelled, 'says' => 'More than 50 000 documents are due. Narrow it to a library or a rule.']);

            return;
        }
        if ($found === []) {
            $disposal->update(['state' => DisposalState::Cancelled, 'says' => 'Nothing was due.']);

            return;
        }
        DB::transaction(function () use ($disposal, $found): void {
            $disposal->items()->delete();
            foreach (array_chunk($found, self::CHUNK) as $chunk) {
                [$keepings, $obstacles] = $this->obstacles->of($chunk, PHP_INT_MAX, $disposal->id);
                $refs = Document::query()->whereIntegerInRaw('id', $chunk)->pluck('ref', 'id');
                $rows = [];
                foreach ($chunk as $id) {
                    $keeping = $keepings[$id] ?? null;
                    $rows[] = [
                        'disposal_id' => $disposal->id,
                        'document_id' => $id,
                        'ref' => (string) ($refs[$id] ?? Document::refOf($id)),
                        'state' => isset($obstacles[$id]) ? Disposal::OUT : Disposal::IN,
                        'rule' => $keeping?->rule?->code,
                        'rule_says' => $keeping->reason ?? '',
                        'due' => $keeping?->dueOn()?->iso(),
                        'says' => $obstacles[$id] ?? null,
                    ];
                }
                foreach (array_chunk($rows, 200) as $some) {
                    DB::table('disposal_items')->insert($some);
                }
            }
            $disposal->update(['state' => DisposalState::Review]);
            // How many are due is told to nobody who may not see them: whoever reads the history may see fewer.
            History::record(Act::DisposalPrepared, $disposal->preparer, null, ['disposal' => $disposal->id, 'name' => $disposal->name]);
        });
    }

    /**
     * Decides about documents of a disposal.
     *
     * @param  list<string>|null  $refs  null for all that nothing is decided about
     * @return int how many
     */
    public function review(User $by, Disposal $disposal, ?array $refs, Decision $decision, string $reason, ?string $until): int
    {
        self::must($disposal, DisposalState::Review, 'is under review');
        if ($decision->needsReason() && trim($reason) === '') {
            throw new Refused('Give a reason. It stands in the certificate.');
        }
        if ($decision === Decision::Postpone && ($until === null || $until <= now()->toDateString())) {
            throw new Refused('Give a day to come, to which it is postponed.');
        }

        return DB::transaction(function () use ($by, $disposal, $refs, $decision, $reason, $until): int {
            $rows = $disposal->items()->where('state', Disposal::IN);
            $refs === null ? $rows->whereNull('decision') : $rows->whereIn('ref', $refs);
            $seen = $this->rights->seen($by, Column::numbers($rows->pluck('document_id')));
            foreach (array_chunk($seen, 500) as $chunk) {
                $disposal
                    ->items()
                    ->whereIntegerInRaw('document_id', $chunk)
                    ->update([
                        'decision' => $decision->value,
                        'reason' => $decision->needsReason() ? trim($reason) : null,
                        'until' => $decision === Decision::Postpone ? $until : null,
                        'decided_by' => $by->id,
                    ]);
            }
            $disposal->update(['lock_version' => $disposal->lock_version + 1]);

            return count($seen);
        });
    }

    public function submit(User $by, Disposal $disposal): void
    {
        self::must($disposal, DisposalState::Review, 'is under review');
        $open = $disposal->items()->where('state', Disposal::IN)->whereNull('decision')->count();
        if ($open > 0) {
            throw new Refused($open === 1 ? 'Nothing is decided about 1 document.' : "Nothing is decided about {$open} documents.");
        }
        if ($disposal->items()->where('state', Disposal::IN)->doesntExist()) {
            throw new Refused('Every document was left out: there is nothing to approve.');
        }
        $disposal->update([
            'state' => DisposalState::Approval,
            'submitted_by' => $by->id,
            'submitted_at' => now(),
            'lock_version' => $disposal->lock_version + 1,
        ]);
    }

    /** Somebody who neither prepared nor reviewed it lets it be carried out. */
    public function approve(User $by, Disposal $disposal): void
    {
        self::must($disposal, DisposalState::Approval, 'waits for approval');
        $why = $this->whyNotApprove($by, $disposal);
        if ($why !== null) {
            throw new Refused($why);
        }
        DB::transaction(function () use ($by, $disposal): void {
            $released = $disposal->items()->where('state', Disposal::IN)->where('decision', Decision::Release->value);
            $isPacked = $disposal->action === RetentionAction::HandOver && $released->exists();
            $disposal->update([
                'state' => $isPacked ? DisposalState::Packing : DisposalState::Running,
                'approved_by' => $by->id,
                'approved_at' => now(),
                'lock_version' => $disposal->lock_version + 1,
            ]);
            History::record(Act::DisposalApproved, $by, null, ['disposal' => $disposal->id, 'name' => $disposal->name]);
            $isPacked ? $this->pack($disposal) : $this->go($disposal);
        });
    }

    /** Why a person may not approve it; null when they may. */
    public function whyNotApprove(User $by, Disposal $disposal): ?string
    {
        $hasDecided = $disposal->items()->where('decided_by', $by->id)->exists();
        if ($disposal->prepared_by === $by->id || $disposal->submitted_by === $by->id || $hasDecided) {
            return 'You prepared or reviewed it. Someone else approves it.';
        }
        $ids = Column::numbers($disposal->items()->where('state', Disposal::IN)->pluck('document_id'));

        return count($this->rights->seen($by, $ids)) === count($ids) ? null : 'You may not see all of its documents. Someone who does approves it.';
    }

    public function sendBack(User $by, Disposal $disposal, string $reason): void
    {
        self::must($disposal, DisposalState::Approval, 'waits for approval');
        DB::transaction(function () use ($by, $disposal, $reason): void {
            $disposal->update(['state' => DisposalState::Review, 'says' => $reason, 'lock_version' => $disposal->lock_version + 1]);
            History::record(Act::DisposalReturned, $by, null, ['disposal' => $disposal->id, 'name' => $disposal->name, 'reason' => $reason]);
        });
    }

    public function cancel(User $by, Disposal $disposal): void
    {
        if (! $disposal->state->canBeCancelled()) {
            throw new Refused("It is {$this->lower($disposal->state)}: it cannot be cancelled any more.");
        }
        DB::transaction(static function () use ($by, $disposal): void {
            $disposal->update(['state' => DisposalState::Cancelled, 'lock_version' => $disposal->lock_version + 1]);
            History::record(Act::DisposalCancelled, $by, null, ['disposal' => $disposal->id, 'name' => $disposal->name]);
        });
    }

    /** The archive has said that it has the bag: only now may what was handed over be destroyed here. */
    public function receive(User $by, Disposal $disposal, string $receipt): void
    {
        self::must($disposal, DisposalState::Receipt, 'waits for a receipt');
        if (trim($receipt) === '') {
            throw new Refused('Write down what the archive said: a number, a name, a day.');
        }
        DB::transaction(function () use ($by, $disposal, $receipt): void {
            $disposal->update([
                'state' => DisposalState::Running,
                'receipt' => trim($receipt),
                'receipt_by' => $by->id,
                'receipt_at' => now(),
                'lock_version' => $disposal->lock_version + 1,
            ]);
            $this->go($disposal);
        });
    }

    /** Notes whether the bag of what is handed over is there. */
    public function lookAtBag(Disposal $disposal): void
    {
        $delivery = $disposal->state === DisposalState::Packing ? $disposal->delivery : null;
        if ($delivery?->state === Delivery::DONE) {
            $disposal->update(['state' => DisposalState::Receipt, 'says' => '']);
        } elseif ($delivery !== null && in_array($delivery->state, [Delivery::FAILED, Delivery::EXPIRED, Delivery::CANCELLED], true)) {
            $disposal->update(['state' => DisposalState::Approval, 'says' => "The bag could not be made. {$delivery->message}"]);
        }
    }

    /** @return Builder the items of a disposal that a person may see */
    public function seen(User $user, Disposal $disposal): Builder
    {
        $sight = $this->rights->sight($user);
        $ids = Column::numbers($disposal->items()->pluck('document_id'));

        return $disposal->items()->whereIntegerInRaw('document_id', $sight->and(DocumentSet::of($ids))->documents());
    }

    /**
     * Whether a person may see all that a disposal has or had. Of what is in the bin it is said to whoever enters its library; of
     * what is there no more there is nothing left to be seen.
     */
    public function isSeenWhole(User $user, Disposal $disposal): bool
    {
        $has = fn () => $disposal->items()->join('documents', 'documents.id', '=', 'document_id');
        $there = Column::numbers($has()->whereNull('deleted_at')->pluck('document_id'));
        $isEntered = $has()->whereNotNull('deleted_at')->whereNotIn('library_id', array_keys($user->libraryRights()))->doesntExist();

        return $isEntered && count($this->rights->seen($user, $there)) === count($there);
    }

    public static function searchOf(Disposal $disposal): KeptSearch
    {
        return KeptSearch::of((array) json_decode($disposal->criterion, true));
    }

    /** @throws StaleWrite when it was changed since somebody looked */
    public static function fresh(Disposal $disposal, int $seen, mixed $shown): void
    {
        if ($disposal->lock_version !== $seen) {
            throw new StaleWrite($shown);
        }
    }

    private function pack(Disposal $disposal): void
    {
        $list = PullList::query()->create([
            'user_id' => $disposal->prepared_by,
            'name' => mb_substr("Handed over: {$disposal->name}", 0, 200),
            'frozen_at' => now(),
        ]);
        $ids = Column::numbers(
            $disposal->items()->where('state', Disposal::IN)->where('decision', Decision::Release->value)->orderBy('id')->pluck('document_id'),
        );
        foreach (array_chunk($ids, 500, true) as $chunk) {
            $rows = [];
            foreach ($chunk as $i => $id) {
                $rows[] = ['pull_list_id' => $list->id, 'document_id' => $id, 'position' => $i + 1];
            }
            DB::table('pull_list_items')->insert($rows);
        }
        $delivery = Delivery::query()->create([
            'pull_list_id' => $list->id,
            'user_id' => $disposal->prepared_by,
            'name' => $list->name,
            'format' => 'bag',
            'settings' => ['names' => '{reference} {file}', 'levels' => [], 'form' => DeliveryForm::AsItIs->value, 'labels' => false, 'spreadsheet' => false],
        ]);
        $disposal->update(['pull_list_id' => $list->id, 'delivery_id' => $delivery->id]);
        Deliver::dispatch($delivery->id)->onQueue(Urgency::of(count($ids))->value)->afterCommit();
    }

    private function go(Disposal $disposal): void
    {
        $count = $disposal->items()->where('state', Disposal::IN)->count();
        WorkOnDisposal::dispatch($disposal->id)->onQueue(Urgency::of($count)->value)->afterCommit();
    }

    private static function must(Disposal $disposal, DisposalState $state, string $words): void
    {
        if ($disposal->state !== $state) {
            throw new Refused("That can be done while it {$words}; now it is: {$disposal->state->label()}.");
        }
    }

    private function lower(DisposalState $state): string
    {
        return lcfirst($state->label());
    }
}
