<?php

declare(strict_types=1);

namespace App\Http\Resources;

use App\Catalog\Catalog;
use App\Find\Finder;
use App\Holds\Holding;
use App\Models\Hold;
use App\Models\Right;
use App\Models\User;
use App\Support\Column;

/** Shapes holds: of their documents, what a person may see. */
final readonly class HoldResource
{
    private const PAGE = 100;

    public function __construct(private Holding $holding, private Finder $finder, private Catalog $catalog)
    {
    }

    /** @return array<string, mixed> */
    public function row(Hold $hold): array
    {
        $custodians = $hold->custodians;

        return [
            'id' => $hold->id,
            'name' => $hold->name,
            'reason' => $hold->reason,
            'owner' => $hold->owner->name,
            'from' => $hold->from->toDateString(),
            'until' => $hold->until?->toDateString(),
            'in_force' => $hold->isInForce(),
            'ended_at' => $hold->ended_at?->toIso8601String(),
            'custodians' => $custodians->count(),
            'acknowledged' => $custodians->filter(static fn (User $of): bool => $of->getRelationValue('pivot')->acknowledged_at !== null)->count(),
        ];
    }

    /** @return array<string, mixed> */
    public function of(Hold $hold, User $user): array
    {
        $isShown = $hold->search !== null && ! $this->finder->betrays($user, $hold->search);
        $own = $hold->custodians->find($user->id)?->getRelationValue('pivot');

        return [
            ...$this->row($hold),
            'owner_sign_in' => $hold->owner->sign_in,
            'ended_by' => $hold->ender?->name,
            'end_reason' => $hold->end_reason,
            'documents' => $this->holding->seen($user, $hold)->count(),
            'list' => $hold->list === null ? null : ['id' => $hold->list->id, 'name' => $hold->list->name, 'own' => $hold->list->user_id === $user->id],
            'search' => $isShown ? $hold->search : null,
            'search_words' => $isShown ? $hold->search->inWords($this->catalog->schema($user)) : ($hold->search === null ? null : 'A search that names what you may not see'),
            'people' => array_values(
                $hold->custodians
                    ->map(static fn (User $of): array => [
                        'sign_in' => $of->sign_in,
                        'name' => $of->name,
                        'told_at' => $of->getRelationValue('pivot')->told_at,
                        'acknowledged_at' => $of->getRelationValue('pivot')->acknowledged_at,
                    ])
                    ->all(),
            ),
            'to_acknowledge' => $own !== null && $own->acknowledged_at === null && $hold->ended_at === null,
            'may_change' => $user->may(Right::Hold) && $hold->ended_at === null,
            'lock_version' => $hold->lock_version,
        ];
    }

    /** @return array{total: int, items: list<array<string, mixed>>} */
    public function items(Hold $hold, User $user, int $offset): array
    {
        $query = $this->holding->seen($user, $hold);
        $total = $query->count();
        $rows = $query
            ->join('documents', 'documents.id', '=', 'document_id')
            ->leftJoin('users', 'users.id', '=', 'by')
            ->orderBy('covered.at')
            ->orderBy('document_id')
            ->offset($offset)
            ->limit(self::PAGE)
            ->get(['document_id', 'why', 'covered.at as since', 'users.name as by_name', 'ref', 'title', 'library_id', 'document_type_id']);
        $others = $hold->ended_at === null ? Holding::others(Column::numbers($rows->pluck('document_id')), $hold) : [];
        $whys = [Hold::CHOSEN => 'Chosen', Hold::LISTED => 'In the pull list', Hold::FOUND => 'Found by the search'];

        return [
            'total' => $total,
            'items' => array_values(
                $rows
                    ->map(fn (object $row): array => [
                        'ref' => $row->ref,
                        'title' => $row->title,
                        'type' => $this->catalog->types()->get((int) $row->document_type_id)->name ?? '',
                        'library' => $this->catalog->libraries()->get((int) $row->library_id)->name ?? '',
                        'why' => $row->why,
                        'says' => ($whys[$row->why] ?? '').($row->by_name === null ? '' : " by {$row->by_name}"),
                        'since' => $row->since === null ? null : substr((string) $row->since, 0, 10),
                        'others' => $others[(int) $row->document_id] ?? [],
                    ])
                    ->all(),
            ),
        ];
    }
}
