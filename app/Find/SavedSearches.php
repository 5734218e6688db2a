<?php

declare(strict_types=1);

namespace App\Find;

use App\Access\Rights;
use App\Models\SavedSearch;
use App\Models\User;
use App\Notices\NoticeKind;
use App\Notices\Notices;
use App\Support\Column;
use Brenvic\Core\Index\DocumentSet;
use Brenvic\Core\Query\SyntaxError;
use Brenvic\Core\Search\Asking\SearchError;
use Illuminate\Database\Eloquent\Builder;
use Illuminate\Support\Facades\DB;

/**
 * Searches kept by name. A watched one remembers which documents were there when its person last looked, so that what is
 * new is counted exactly: a document filed since, and one that fits since it was changed.
 */
final readonly class SavedSearches
{
    public function __construct(private Finder $finder, private Rights $rights)
    {
    }

    /** @return Builder<SavedSearch> one's own and those kept for one's groups */
    public function of(User $user): Builder
    {
        /** @var Builder<SavedSearch> */
        return SavedSearch::query()
            ->where(
                fn (Builder $any) => $any
                    ->where('user_id', $user->id)
                    ->orWhereExists(
                        fn ($q) => $q->from(DB::raw('json_each(saved_searches.groups)'))->whereIn('json_each.value', $user->groupNames()),
                    ),
            )
            ->orderBy('name')
            ->orderBy('id');
    }

    /** @return list<array<string, mixed>> with the number of documents, and of new ones where it is watched */
    public function shaped(User $user): array
    {
        $seen = DB::table('search_watches')
            ->where('user_id', $user->id)
            ->get(['saved_search_id', 'seen', 'looked_at'])
            ->keyBy('saved_search_id');
        $feeds = array_flip(Column::numbers(DB::table('feeds')->where('user_id', $user->id)->pluck('saved_search_id')));
        $shaped = [];
        foreach ($this->of($user)->with('owner')->get() as $saved) {
            if ($saved->user_id !== $user->id && $this->finder->betrays($user, $saved->search)) {
                continue;
            }
            $found = $this->found($user, $saved);
            $watch = $seen->get($saved->id);
            $shaped[] = [
                'id' => $saved->id,
                'name' => $saved->name,
                'search' => $saved->search,
                'groups' => $saved->groups,
                'own' => $saved->user_id === $user->id,
                'by' => $saved->user_id === $user->id ? null : $saved->owner->name,
                'total' => $found?->count(),
                'watched' => $watch !== null,
                'new' => $watch === null || $found === null ? null : $found->minus(DocumentSet::unpacked((string) $watch->seen))->count(),
                'looked_at' => $watch?->looked_at,
                'lock_version' => $saved->lock_version,
                'has_feed' => isset($feeds[$saved->id]),
            ];
        }

        return $shaped;
    }

    /**
     * Begins to watch a search, or notes that its person has looked. What they saw before and may not see now stays noted:
     * when they may see it again it is not new to them.
     */
    public function look(User $user, SavedSearch $saved): void
    {
        $seen = DB::table('search_watches')->where('user_id', $user->id)->where('saved_search_id', $saved->id)->value('seen');
        $saw = $seen === null ? DocumentSet::none() : DocumentSet::unpacked((string) $seen);
        $found = $this->found($user, $saved);
        DB::table('search_watches')->upsert(
            [
                'user_id' => $user->id,
                'saved_search_id' => $saved->id,
                'seen' => ($found === null ? $saw : $found->or($saw->minus($this->rights->sight($user))))->packed(),
                'looked_at' => now(),
                'told' => null,
            ],
            ['user_id', 'saved_search_id'],
            ['seen', 'looked_at', 'told'],
        );
    }

    /** Tells people of what is new in the searches that they watch, each document once until they look. */
    public function tellNew(): void
    {
        $people = User::query()->whereNull('out_of_use_at')->whereIn('id', DB::table('search_watches')->select('user_id'))->get();
        foreach ($people as $user) {
            $saved = $this->of($user)->get()->keyBy('id');
            foreach (DB::table('search_watches')->where('user_id', $user->id)->get() as $watch) {
                $search = $saved->get((int) $watch->saved_search_id);
                $isBetrayed = $search !== null && $search->user_id !== $user->id && $this->finder->betrays($user, $search->search);
                $found = $search === null || $isBetrayed ? null : $this->found($user, $search);
                $told = $watch->told === null ? DocumentSet::none() : DocumentSet::unpacked((string) $watch->told);
                $known = DocumentSet::unpacked((string) $watch->seen)->or($told);
                $new = $found === null ? 0 : $found->minus($known)->count();
                if ($search !== null && $found !== null && $new > 0) {
                    DB::transaction(static function () use ($user, $search, $found, $known, $new): void {
                        DB::table('search_watches')
                            ->where('user_id', $user->id)
                            ->where('saved_search_id', $search->id)
                            ->update(['told' => $found->or($known)->packed()]);
                        $says = $new === 1 ? 'A new document' : "{$new} new documents";
                        Notices::tell([$user], NoticeKind::Watched, ['text' => "{$says} in “{$search->name}”."], '/desk');
                    });
                }
            }
        }
    }

    public function unwatch(User $user, SavedSearch $saved): void
    {
        DB::table('search_watches')->where('user_id', $user->id)->where('saved_search_id', $saved->id)->delete();
    }

    /** @return DocumentSet|null null when a field it names is gone */
    private function found(User $user, SavedSearch $saved): ?DocumentSet
    {
        try {
            return $this->finder->documents($user, $saved->search);
        } catch (SearchError|SyntaxError) {
            return null;
        }
    }
}
