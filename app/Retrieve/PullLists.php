<?php

declare(strict_types=1);

namespace App\Retrieve;

use App\Access\Rights;
use App\Find\Finder;
use App\Holds\Holding;
use App\Models\Document;
use App\Models\PullList;
use App\Models\User;
use App\Support\Column;
use App\Support\Refused;
use Brenvic\Core\Index\DocumentSet;
use Brenvic\Core\Search\Asking\KeptSearch;
use Illuminate\Database\Eloquent\Builder;
use Illuminate\Database\Eloquent\Collection;
use Illuminate\Support\Facades\DB;

/** Gathers documents in pull lists. What a person sees of a list is what they may see of its documents. */
final readonly class PullLists
{
    private const CHUNK = 500;

    /** Documents a list holds at most. */
    private const MOST = 50_000;

    public function __construct(private Finder $finder, private Rights $rights, private Holding $holding)
    {
    }

    /** @return Builder<PullList> one's own and those shared with one */
    public function of(User $user): Builder
    {
        return PullList::knownTo($user);
    }

    public function mayChange(User $user, PullList $list): bool
    {
        return $list->user_id === $user->id || (bool) $list->people->find($user->id)?->getRelationValue('pivot')->may_change;
    }

    /** @throws Refused */
    public function guard(User $user, PullList $list): void
    {
        if (! $this->mayChange($user, $list)) {
            throw new Refused('You may read this list but not change it.');
        }
        if ($list->frozen_at !== null) {
            throw new Refused('The list is frozen. Unfreeze it first.');
        }
    }

    /**
     * Adds documents behind those that are there.
     *
     * @param  iterable<int>  $ids  in their order
     * @return list<int> those that are new in the list
     *
     * @throws Refused
     */
    public function add(User $user, PullList $list, iterable $ids): array
    {
        $this->guard($user, $list);

        return DB::transaction(function () use ($user, $list, $ids): array {
            $sight = $this->rights->sight($user);
            $known = array_flip($this->ids($list));
            $position = (int) DB::table('pull_list_items')->where('pull_list_id', $list->id)->max('position');
            $rows = [];
            foreach ($ids as $id) {
                if (! isset($known[$id]) && $sight->has($id)) {
                    $known[$id] = true;
                    $rows[] = ['pull_list_id' => $list->id, 'document_id' => $id, 'position' => ++$position];
                }
            }
            if (count($known) > self::MOST) {
                throw new Refused('A list holds 50 000 documents at most. Nothing was added.');
            }
            foreach (array_chunk($rows, self::CHUNK) as $chunk) {
                DB::table('pull_list_items')->insert($chunk);
            }
            $list->touch();

            return array_column($rows, 'document_id');
        });
    }

    /** Adds all that a kept search finds. */
    public function addSearch(User $user, PullList $list, KeptSearch $search): int
    {
        return count($this->add($user, $list, $this->finder->documents($user, $search)->documents()));
    }

    /** Takes in what the list’s own search has found since. */
    public function catchUp(User $user, PullList $list): int
    {
        $search = $list->frozen_at === null && $this->mayChange($user, $list) ? $this->searchFor($user, $list) : null;

        return $search === null ? 0 : $this->addSearch($user, $list, $search);
    }

    /** The search that a list goes on adding from, for whom it can be made: it may name what others do not know of. */
    public function searchFor(User $user, PullList $list): ?KeptSearch
    {
        if ($list->search === null || $list->user_id === $user->id) {
            return $list->search;
        }

        return $this->finder->betrays($user, $list->search) ? null : $list->search;
    }

    /** @return list<int> in their order, whoever may see them */
    public function ids(PullList $list): array
    {
        return Column::numbers(DB::table('pull_list_items')->where('pull_list_id', $list->id)->orderBy('position')->pluck('document_id'));
    }

    /** @return list<int> in their order, those a person may see */
    public function seen(User $user, PullList $list): array
    {
        return $this->rights->seen($user, $this->ids($list));
    }

    /**
     * @param  Collection<int, PullList>  $lists
     * @return array<int, int> how many of the documents of each list a person may see, by list
     */
    public function counts(User $user, Collection $lists): array
    {
        $sight = $this->rights->sight($user);
        $counts = array_fill_keys($lists->modelKeys(), 0);
        foreach (
            DB::table('pull_list_items')
                ->whereIntegerInRaw('pull_list_id', array_keys($counts))
                ->get(['pull_list_id', 'document_id']) as $item
        ) {
            $counts[(int) $item->pull_list_id] += (int) $sight->has((int) $item->document_id);
        }

        return $counts;
    }

    /**
     * What belongs to documents of the list and is not in it: attachments, the mail they came with, documents they refer
     * to or that refer to them.
     *
     * @return list<array{ref: string, title: string, why: string}>
     */
    public function missing(User $user, PullList $list): array
    {
        $ids = $this->seen($user, $list);
        $in = array_flip($ids);
        $missing = [];
        foreach (array_chunk($ids, self::CHUNK) as $chunk) {
            foreach (
                DB::table('documents')
                    ->whereIntegerInRaw('parent_id', $chunk)
                    ->whereNull('deleted_at')
                    ->get(['id', 'parent_id']) as $row
            ) {
                $missing[(int) $row->id] = ['attached to', (int) $row->parent_id];
            }
            foreach (
                DB::table('documents')
                    ->whereIntegerInRaw('id', $chunk)
                    ->whereNotNull('parent_id')
                    ->get(['id', 'parent_id']) as $row
            ) {
                $missing[(int) $row->parent_id] = ['the mail of', (int) $row->id];
            }
            $refs = DB::table('documents')->whereIntegerInRaw('id', $chunk)->pluck('id', 'ref');
            foreach (
                DB::table('document_values')
                    ->join('documents', 'documents.ref', '=', 'document_values.value')
                    ->whereIntegerInRaw('document_id', $chunk)
                    ->get(['documents.id', 'document_id']) as $row
            ) {
                $missing[(int) $row->id] = ['referred to by', (int) $row->document_id];
            }
            foreach (
                DB::table('document_values')
                    ->whereIn('value', $refs->keys())
                    ->get(['document_id', 'value']) as $row
            ) {
                $missing[(int) $row->document_id] = ['refers to', (int) $refs[$row->value]];
            }
        }
        $missing = array_diff_key($missing, $in);
        $seen = $this->rights->seen($user, array_keys($missing));
        $titles = Document::query()
            ->whereIntegerInRaw('id', [...$seen, ...array_map(static fn (int $id): int => $missing[$id][1], $seen)])
            ->get(['id', 'ref', 'title'])
            ->keyBy('id')
            ->all();
        $shown = [];
        foreach ($seen as $id) {
            if (isset($titles[$id])) {
                $of = $titles[$missing[$id][1]]->title ?? '';
                $shown[] = [
                    'ref' => $titles[$id]->ref,
                    'title' => $titles[$id]->title,
                    'why' => "{$missing[$id][0]} “{$of}”",
                ];
            }
        }

        return $shown;
    }

    /**
     * What the list’s search finds today against what is in it.
     *
     * @return array{new: list<int>, gone: list<int>}|null null without a search
     */
    public function compared(User $user, PullList $list): ?array
    {
        $search = $this->searchFor($user, $list);
        if ($search === null) {
            return null;
        }
        $found = $this->finder->documents($user, $search);
        $in = DocumentSet::of($this->seen($user, $list));

        return ['new' => $found->minus($in)->documents(), 'gone' => $in->minus($found)->documents()];
    }

    /** Puts the documents of a list on hold, or ends that. */
    public function hold(User $user, PullList $list, ?string $reason): void
    {
        $hold = $list->hold()->first();
        if ($reason !== null && $hold === null) {
            $this->holding->make($user, $list->name, $reason, now()->toDateString(), null, [], [], $list);
        } elseif ($reason !== null) {
            $hold->update(['reason' => $reason, 'lock_version' => $hold->lock_version + 1]);
        } elseif ($hold !== null) {
            $this->holding->end($user, $hold, "Ended at the pull list by {$user->name}");
        }
        $list->update(['lock_version' => $list->lock_version + 1]);
    }
}
