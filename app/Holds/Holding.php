<?php

declare(strict_types=1);

namespace App\Holds;

use App\Access\Covering;
use App\Access\Holds;
use App\Access\HoldSearches;
use App\Access\Rights;
use App\History\Act;
use App\History\History;
use App\Models\Document;
use App\Models\Hold;
use App\Models\PullList;
use App\Models\User;
use App\Notices\NoticeKind;
use App\Notices\Notices;
use App\Support\Column;
use App\Support\Refused;
use Brenvic\Core\Index\DocumentSet;
use Brenvic\Core\Search\Asking\KeptSearch;
use Illuminate\Database\Query\Builder;
use Illuminate\Support\Facades\DB;

/** Puts documents on hold by name, tells the custodians, and ends it. */
final readonly class Holding
{
    public function __construct(private Rights $rights, private HoldSearches $searches)
    {
    }

    /**
     * @param  list<int>  $custodians  ids of people
     * @param  list<string>  $refs  documents that are chosen
     */
    public function make(
        User $by,
        string $name,
        string $reason,
        string $from,
        ?string $until,
        array $custodians = [],
        array $refs = [],
        ?PullList $list = null,
        ?KeptSearch $search = null,
    ): Hold {
        if (trim($reason) === '') {
            throw new Refused('Give a reason. It is shown to anyone the hold stops.');
        }
        if ($until !== null && $until < $from) {
            throw new Refused('It cannot end before it begins.');
        }

        return DB::transaction(function () use ($by, $name, $reason, $from, $until, $custodians, $refs, $list, $search): Hold {
            $hold = Hold::query()->create([
                'name' => $name,
                'reason' => trim($reason),
                'owner_id' => $by->id,
                'from' => $from,
                'until' => $until,
                'pull_list_id' => $list?->id,
                'search' => $search,
                'wants_look' => $search !== null,
            ]);
            History::record(Act::HoldMade, $by, null, ['hold' => $hold->id, 'name' => $name, 'reason' => $hold->reason]);
            $list === null || Covering::record($hold, Act::Held, $by, $this->ofList($list));
            $this->cover($by, $hold, $refs);
            $this->tell($hold, $custodians);
            $search === null || LookForHeld::dispatch()->afterCommit();

            return $hold;
        });
    }

    /**
     * Changes what is written of it, and who keeps it.
     *
     * @param  list<int>  $custodians
     */
    public function change(User $by, Hold $hold, string $name, string $reason, ?string $until, User $owner, array $custodians): void
    {
        self::mustBeOpen($hold);
        DB::transaction(function () use ($by, $hold, $name, $reason, $until, $owner, $custodians): void {
            $hold->update([
                'name' => $name,
                'reason' => $reason,
                'until' => $until,
                'owner_id' => $owner->id,
                'lock_version' => $hold->lock_version + 1,
            ]);
            History::record(Act::HoldChanged, $by, null, ['hold' => $hold->id, 'name' => $name, 'reason' => $reason, 'owner' => $owner->sign_in]);
            $hold->custodians()->detach(array_diff(Column::numbers($hold->custodians()->pluck('users.id')), $custodians));
            $this->tell($hold, $custodians);
        });
    }

    /**
     * @param  list<string>  $refs
     * @return int how many documents are newly chosen
     */
    public function cover(User $by, Hold $hold, array $refs): int
    {
        self::mustBeOpen($hold);
        $ids = Column::numbers(Document::query()->whereIn('ref', $refs)->where('state', Document::FILED)->whereNull('destroyed_at')->pluck('id'));
        $known = Column::numbers(DB::table('hold_items')->where('hold_id', $hold->id)->whereIntegerInRaw('document_id', $ids)->pluck('document_id'));
        $fresh = array_values(array_diff($this->rights->seen($by, $ids), $known));
        DB::transaction(static fn () => Covering::take($hold, $fresh, $by));

        return count($fresh);
    }

    /**
     * Lets chosen documents go while the hold goes on. What its list or search covers goes with these only.
     *
     * @param  list<string>  $refs
     */
    public function uncover(User $by, Hold $hold, array $refs): int
    {
        self::mustBeOpen($hold);
        $ids = $this->rights->seen($by, Column::numbers(Document::query()->whereIn('ref', $refs)->pluck('id')));
        $chosen = Column::numbers(
            DB::table('hold_items')
                ->where('hold_id', $hold->id)
                ->where('why', Hold::CHOSEN)
                ->whereIntegerInRaw('document_id', $ids)
                ->pluck('document_id'),
        );
        DB::transaction(function () use ($by, $hold, $chosen): void {
            DB::table('hold_items')->where('hold_id', $hold->id)->whereIntegerInRaw('document_id', $chosen)->delete();
            Covering::record($hold, Act::Released, $by, $chosen);
        });

        return count($chosen);
    }

    public function end(User $by, Hold $hold, string $reason): void
    {
        self::mustBeOpen($hold);
        if (trim($reason) === '') {
            throw new Refused('Say why it ends. It stands in the history.');
        }
        $this->searches->catchUp();
        DB::transaction(function () use ($by, $hold, $reason): void {
            $covered = $this->covered($hold);
            $hold->update([
                'ended_at' => now(),
                'ended_by' => $by->id,
                'end_reason' => trim($reason),
                'wants_look' => false,
                'lock_version' => $hold->lock_version + 1,
            ]);
            History::record(Act::HoldEnded, $by, null, ['hold' => $hold->id, 'name' => $hold->name, 'reason' => trim($reason)]);
            Covering::record($hold, Act::Released, $by, $covered);
            Notices::tell(
                $hold->custodians()->get(),
                NoticeKind::Hold,
                ['text' => "The hold “{$hold->name}” has ended: ".trim($reason)],
                "/oversight/holds/{$hold->id}",
            );
        });
    }

    /** A custodian says that they know of it. */
    public function acknowledge(User $by, Hold $hold): void
    {
        DB::transaction(function () use ($by, $hold): void {
            $changed = DB::table('hold_custodians')
                ->where('hold_id', $hold->id)
                ->where('user_id', $by->id)
                ->whereNull('acknowledged_at')
                ->update(['acknowledged_at' => now()]);
            $changed > 0 && History::record(Act::HoldAcknowledged, $by, null, ['hold' => $hold->id, 'name' => $hold->name]);
        });
    }

    /** Tells those again who have not said that they know of it. @return int how many */
    public function remind(Hold $hold): int
    {
        self::mustBeOpen($hold);
        $people = $hold->custodians()->wherePivotNull('acknowledged_at')->get();
        $this->write($hold, $people, 'Reminder: the');

        return $people->count();
    }

    /** @return list<int> all that it covers, whoever may see it */
    public function covered(Hold $hold): array
    {
        $ids = Column::numbers(DB::table('hold_items')->where('hold_id', $hold->id)->pluck('document_id'));
        $list = $hold->loadMissing('list')->list;

        return DocumentSet::of($ids)->or(DocumentSet::of($list === null ? [] : $this->ofList($list)))->documents();
    }

    /** @return Builder its documents that a person may see, with `why`, `at`, and `by` */
    public function seen(User $user, Hold $hold): Builder
    {
        $sight = $this->rights->sight($user)->and(DocumentSet::of($this->covered($hold)))->documents();
        $items = DB::table('hold_items')->where('hold_id', $hold->id)->select(['document_id', 'why', 'at', 'by']);
        $listed = DB::table('pull_list_items')
            ->where('pull_list_id', $hold->pull_list_id ?? 0)
            ->whereNotIn('document_id', DB::table('hold_items')->where('hold_id', $hold->id)->select('document_id'))
            ->selectRaw("document_id, 'list' AS why, NULL AS at, NULL AS \"by\"");

        return DB::query()->fromSub($items->unionAll($listed), 'covered')->whereIntegerInRaw('document_id', $sight);
    }

    /**
     * Which other holds cover documents.
     *
     * @param  list<int>  $documents
     * @return array<int, list<string>> names by document
     */
    public static function others(array $documents, Hold $hold): array
    {
        $others = [];
        foreach (
            DB::query()
                ->fromSub(Holds::covered($documents), 'covered')
                ->join('holds', 'holds.id', '=', 'covered.hold')
                ->where('holds.id', '!=', $hold->id)
                ->orderBy('holds.id')
                ->get(['document_id', 'name']) as $row
        ) {
            $others[(int) $row->document_id][] = (string) $row->name;
        }

        return $others;
    }

    /** @return list<int> */
    private function ofList(PullList $list): array
    {
        return Column::numbers(DB::table('pull_list_items')->where('pull_list_id', $list->id)->orderBy('document_id')->pluck('document_id'));
    }

    /** @param  list<int>  $custodians  those who are new are told */
    private function tell(Hold $hold, array $custodians): void
    {
        $fresh = array_diff($custodians, Column::numbers($hold->custodians()->pluck('users.id')));
        $people = User::query()->whereIntegerInRaw('id', $fresh)->whereNull('out_of_use_at')->get();
        $hold->custodians()->attach(array_fill_keys($people->modelKeys(), ['told_at' => now()]));
        $this->write($hold, $people, 'The');
    }

    /** @param  iterable<User>  $people */
    private function write(Hold $hold, iterable $people, string $begin): void
    {
        Notices::tell(
            $people,
            NoticeKind::Hold,
            ['text' => "{$begin} hold “{$hold->name}” wants you to keep what it covers: {$hold->reason} Say that you know of it."],
            "/oversight/holds/{$hold->id}",
        );
    }

    private static function mustBeOpen(Hold $hold): void
    {
        if ($hold->ended_at !== null) {
            throw new Refused('The hold has ended. What it covered stays on record.');
        }
    }
}
