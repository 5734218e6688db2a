<?php

declare(strict_types=1);

namespace App\Http\Resources;

use App\Catalog\Catalog;
use App\Disposal\Disposals;
use App\Models\Delivery;
use App\Models\Disposal;
use App\Models\User;
use Brenvic\Core\Retention\Disposal\Decision;
use Brenvic\Core\Retention\Disposal\DisposalState;

/** Shapes disposals: of their documents, what a person may see. */
final readonly class DisposalResource
{
    private const PAGE = 100;

    public function __construct(private Disposals $disposals, private Catalog $catalog)
    {
    }

    /** @return array<string, mixed> */
    public function row(Disposal $disposal): array
    {
        return [
            'id' => $disposal->id,
            'name' => $disposal->name,
            'action' => $disposal->action->value,
            'action_label' => $disposal->action->label(),
            'state' => $disposal->state->value,
            'state_label' => $disposal->state->label(),
            'says' => $disposal->says,
            'prepared_by' => $disposal->preparer->name,
            'prepared_at' => $disposal->created_at->toIso8601String(),
            'done_at' => $disposal->done_at?->toIso8601String(),
        ];
    }

    /** @return array<string, mixed> */
    public function of(Disposal $disposal, User $user): array
    {
        $piles = $this->disposals->seen($user, $disposal)->groupBy('state', 'decision')->selectRaw('state, decision, COUNT(*) AS documents')->get();
        $count = static fn (?string $state, ?Decision ...$decisions): int => (int) $piles
            ->filter(static fn (object $pile): bool => $state === null || $pile->state === $state)
            ->filter(static fn (object $pile): bool => $decisions === [] || in_array(Decision::tryFrom((string) $pile->decision), $decisions, true))
            ->sum('documents');
        $isWaiting = $disposal->state === DisposalState::Approval;
        $whyNot = $isWaiting ? $this->disposals->whyNotApprove($user, $disposal) : null;
        $certificate = $disposal->certificate !== null && $this->disposals->isSeenWhole($user, $disposal) ? $disposal->certificate : null;

        return [
            ...$this->row($disposal),
            'covers' => Disposals::searchOf($disposal)->inWords($this->catalog->schema($user)),
            'submitted_by' => $disposal->submitter?->name,
            'submitted_at' => $disposal->submitted_at?->toIso8601String(),
            'approved_by' => $disposal->approver?->name,
            'approved_at' => $disposal->approved_at?->toIso8601String(),
            'receipt' => $disposal->receipt,
            'bag' => $disposal->delivery?->state === Delivery::DONE ? $disposal->delivery_id : null,
            'has_certificate' => $certificate !== null,
            'certificate_entry' => $certificate === null ? null : $disposal->certificate_entry,
            'certificate_sum' => $certificate === null ? null : hash('sha256', $certificate),
            'counts' => [
                'all' => $count(null),
                'undecided' => $count(Disposal::IN, null),
                'released' => $count(Disposal::IN, Decision::Release),
                'postponed' => $count(null, Decision::Postpone),
                'kept' => $count(null, Decision::Keep),
                'left_out' => $count(Disposal::OUT),
                'done' => $count(Disposal::DONE, Decision::Release),
            ],
            'may' => [
                'approve' => $isWaiting && $whyNot === null,
                'cancel' => $disposal->state->canBeCancelled(),
            ],
            'why_not_approve' => $whyNot,
            'lock_version' => $disposal->lock_version,
        ];
    }

    /** @return array{total: int, items: list<array<string, mixed>>} */
    public function items(Disposal $disposal, User $user, string $which, int $offset): array
    {
        $query = $this->disposals->seen($user, $disposal);
        match ($which) {
            'undecided' => $query->where('disposal_items.state', Disposal::IN)->whereNull('decision'),
            'released' => $query->where('disposal_items.state', Disposal::IN)->where('decision', Decision::Release->value),
            'postponed', 'kept' => $query->where('decision', $which === 'kept' ? Decision::Keep->value : Decision::Postpone->value),
            'left_out' => $query->where('disposal_items.state', Disposal::OUT),
            'done' => $query->where('disposal_items.state', Disposal::DONE)->where('decision', Decision::Release->value),
            default => $query,
        };
        $total = $query->count();
        $items = $query
            ->leftJoin('documents', 'documents.id', '=', 'disposal_items.document_id')
            ->leftJoin('users', 'users.id', '=', 'decided_by')
            ->orderBy('disposal_items.id')
            ->offset($offset)
            ->limit(self::PAGE)
            ->get(['disposal_items.*', 'documents.title', 'documents.library_id', 'documents.document_type_id', 'users.name as by']);

        return [
            'total' => $total,
            'items' => array_values(
                $items
                    ->map(fn (object $item): array => [
                        'ref' => $item->ref,
                        'title' => (string) ($item->title ?? $item->ref),
                        'type' => $this->catalog->types()->get((int) $item->document_type_id)->name ?? '',
                        'library' => $this->catalog->libraries()->get((int) $item->library_id)->name ?? '',
                        'state' => $item->state,
                        'due' => $item->due === null ? null : substr((string) $item->due, 0, 10),
                        'rule' => $item->rule_says,
                        'decision' => $item->decision,
                        'until' => $item->until === null ? null : substr((string) $item->until, 0, 10),
                        'reason' => $item->reason,
                        'decided_by' => $item->by,
                        'says' => $item->says,
                    ])
                    ->all(),
            ),
        ];
    }
}
