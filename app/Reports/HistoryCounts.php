<?php

declare(strict_types=1);

namespace App\Reports;

use App\Access\Rights;
use App\Models\User;
use App\Support\Column;
use Illuminate\Database\Query\Builder;
use Illuminate\Support\Facades\DB;

/** How often something was done to documents that a person sees, by hour, by whom and in which library. */
final readonly class HistoryCounts
{
    public function __construct(private Rights $rights)
    {
    }

    /**
     * @param  list<string>  $acts
     * @return list<array{act: string, hour: string, user: int|null, library: int|null, times: int}> hour in UTC, as 2026-11-29T14
     */
    public function of(User $user, array $acts, Asked $asked, ?int $library): array
    {
        $sight = $this->rights->sight($user);
        $touched = Column::numbers(self::within($acts, $asked, $library)->distinct()->pluck('document_id'));
        $seen = array_values(array_filter($touched, $sight->has(...)));
        $sums = static fn (?array $ids): iterable => self::within($acts, $asked, $library)
            ->when($ids !== null, static fn (Builder $of) => $of->whereIntegerInRaw('document_id', (array) $ids))
            ->groupBy('act', 'hour', 'user_id', 'library_id')
            ->selectRaw('act, SUBSTR(at, 1, 13) AS hour, user_id, library_id, COUNT(*) AS times')
            ->get();
        $counts = [];
        foreach (SeenOnly::of($seen, array_values(array_diff($touched, $seen)), $sums) as [$row, $sign]) {
            $key = "{$row->act} {$row->hour} {$row->user_id} {$row->library_id}";
            $counts[$key] ??= [
                'act' => (string) $row->act,
                'hour' => (string) $row->hour,
                'user' => $row->user_id === null ? null : (int) $row->user_id,
                'library' => $row->library_id === null ? null : (int) $row->library_id,
                'times' => 0,
            ];
            $counts[$key]['times'] += $sign * (int) $row->times;
        }

        return array_values(array_filter($counts, static fn (array $of): bool => $of['times'] > 0));
    }

    /** @param  list<string>  $acts */
    private static function within(array $acts, Asked $asked, ?int $library): Builder
    {
        return DB::table('history')
            ->whereIn('act', $acts)
            ->where('at', '>=', $asked->span->first())
            ->where('at', '<', $asked->span->end())
            ->whereNotNull('document_id')
            ->when($library !== null, static fn (Builder $of) => $of->where('library_id', $library));
    }
}
