<?php

declare(strict_types=1);

namespace App\Disposal;

use App\Access\Holds;
use App\Models\Disposal;
use App\Models\Loan;
use App\Retention\KeptFacts;
use Brenvic\Core\Procedures\Record\Status;
use Brenvic\Core\Retention\Disposal\DisposalState;
use Brenvic\Core\Retention\Keeping;
use Illuminate\Support\Facades\DB;

/** What keeps documents from being disposed of now, named for each. */
final readonly class Obstacles
{
    public function __construct(private KeptFacts $kept)
    {
    }

    /**
     * @param  list<int>  $ids
     * @param  int  $until  the day by which they have to be due, as PartialDate counts days
     * @param  int|null  $disposal  the one that they are in, and the list that it hands over
     * @return array{array<int, Keeping>, array<int, string>} how long each is kept; and why some cannot be disposed of, by document
     */
    public function of(array $ids, int $until, ?int $disposal = null, ?int $list = null): array
    {
        $parents = self::attachedTo($ids);
        $families = self::families(array_values(array_diff($ids, array_keys($parents))));
        $all = array_values(array_unique(array_merge($ids, ...array_values($families))));
        $keepings = $this->kept->keepings($all);
        $own = $this->standing($all, $disposal, $list);
        $obstacles = [];
        foreach ($ids as $id) {
            $why = self::tooEarly($keepings[$id] ?? null, $until) ?? $own[$id] ?? null;
            foreach ($why === null ? $families[$id] ?? [] : [] as $attached) {
                $kept = $keepings[$attached] ?? null;
                // What has no rule of its own goes with what it is attached to.
                $late = $kept !== null && $kept->state->keeps() ? self::tooEarly($kept, $until) : null;
                $of = $late ?? $own[$attached] ?? null;
                $why ??= $of === null ? null : "An attachment cannot go: {$of}";
            }
            if ($why !== null) {
                $obstacles[$id] = $why;
            }
        }
        foreach ($parents as $id => $parent) {
            $obstacles[$id] ??= "Attached to {$parent}, with which it goes";
        }

        return [array_intersect_key($keepings, array_flip($ids)), $obstacles];
    }

    private static function tooEarly(?Keeping $keeping, int $until): ?string
    {
        return match (true) {
            $keeping === null => 'No longer filed',
            $keeping->due === null => "{$keeping->state->label()}: {$keeping->reason}",
            $keeping->due > $until => "Due on {$keeping->dueOn()?->display()}",
            default => null,
        };
    }

    /**
     * What documents stand in at the moment.
     *
     * @param  list<int>  $ids
     * @return array<int, string>
     */
    private function standing(array $ids, ?int $disposal, ?int $list): array
    {
        $found = array_map(static fn (string $reason): string => "On hold: {$reason}", Holds::of($ids));
        $note = static function (iterable $rows, string $words) use (&$found): void {
            foreach ($rows as $id => $name) {
                $found[(int) $id] ??= str_replace('{}', (string) $name, $words);
            }
        };
        $note(
            DB::table('check_outs')->join('users', 'users.id', '=', 'user_id')->whereIntegerInRaw('document_id', $ids)->pluck('name', 'document_id'),
            'Checked out by {}',
        );
        $note(
            DB::table('loans')
                ->whereIntegerInRaw('document_id', $ids)
                ->whereIn('state', [Loan::LENT, Loan::CONFLICT])
                ->pluck('borrower', 'document_id'),
            'On loan to {}',
        );
        $note(
            DB::table('cases')
                ->whereIntegerInRaw('document_id', $ids)
                ->whereNotIn('status', [Status::Ended->value, Status::GivenUp->value])
                ->pluck('id', 'document_id'),
            'In a procedure',
        );
        $note(
            DB::table('pull_list_items')
                ->join('pull_lists', 'pull_lists.id', '=', 'pull_list_id')
                ->join('users', 'users.id', '=', 'pull_lists.user_id')
                ->whereIntegerInRaw('document_id', $ids)
                ->whereNull('pull_lists.deleted_at')
                ->when($list !== null, static fn ($q) => $q->where('pull_lists.id', '!=', $list))
                ->pluck('users.name', 'document_id'),
            'On a pull list of {}',
        );
        $note(DB::table('documents')->whereIntegerInRaw('id', $ids)->where('is_template', true)->pluck('id', 'id'), 'A template');
        $note(
            DB::table('disposal_items')
                ->join('disposals', 'disposals.id', '=', 'disposal_id')
                ->whereIntegerInRaw('document_id', $ids)
                ->where('disposal_items.state', Disposal::IN)
                ->whereNotIn('disposals.state', [DisposalState::Done->value, DisposalState::Cancelled->value])
                ->when($disposal !== null, static fn ($q) => $q->where('disposals.id', '!=', $disposal))
                ->pluck('disposals.name', 'document_id'),
            'In the disposal “{}”',
        );

        return $found;
    }

    /**
     * @param  list<int>  $ids  of which none is attached to another
     * @return array<int, list<int>> what is attached to each, at any depth, each after what it is attached to
     */
    public static function families(array $ids): array
    {
        $top = array_combine($ids, $ids);
        $families = [];
        $level = $ids;
        while ($level !== []) {
            $rows = DB::table('documents')->whereIntegerInRaw('parent_id', $level)->whereNull('destroyed_at')->pluck('parent_id', 'id');
            $level = [];
            foreach ($rows as $id => $parent) {
                if (! isset($top[(int) $id])) {
                    $top[(int) $id] = $top[(int) $parent];
                    $families[$top[(int) $parent]][] = (int) $id;
                    $level[] = (int) $id;
                }
            }
        }

        return $families;
    }

    /**
     * @param  list<int>  $ids
     * @return array<int, string> references of what they are attached to, of those that are
     */
    private static function attachedTo(array $ids): array
    {
        return DB::table('documents')
            ->join('documents as parents', 'parents.id', '=', 'documents.parent_id')
            ->whereIntegerInRaw('documents.id', $ids)
            ->pluck('parents.ref', 'documents.id')
            ->map(strval(...))
            ->all();
    }
}
