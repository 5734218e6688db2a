<?php

declare(strict_types=1);

namespace App\Reports;

use App\Access\Rights;
use App\Models\User;
use App\Support\Column;
use Closure;
use Illuminate\Database\Query\Builder;
use Illuminate\Support\Facades\DB;

/** How often something was done to documents that a person sees, by hour, by whom and in which library. */
final readonly class HistoryCounts
{
    public function __construct(private Rights $rights)
    {
    }

    /**
     * Told apart by hour, and by person and library: told by all three at once it would be as many sums as there are entries.
     *
     * @param  list<string>  $acts
     * @return array{list<array{act: string, hour: string, times: int}>, list<array{act: string, user: int|null, library: int|null, times: int}>}
     *   hour in UTC, as 2026-11-29T14
     */
    public function of(User $user, array $acts, Asked $asked, ?int $library): array
    {
        $sight = $this->rights->sight($user);
        $touched = Column::numbers(self::within($acts, $asked, $library)->distinct()->pluck('document_id'));
        $seen = $unseen = [];
        foreach ($touched as $id) {
            $sight->has($id) ? ($seen[] = $id) : ($unseen[] = $id);
        }
        $hours = $places = [];
        foreach (
            SeenOnly::of($seen, $unseen, self::sums(self::within($acts, $asked, $library), 'act, SUBSTR(at, 1, 13) AS hour')) as [$row, $sign]
        ) {
            $key = "{$row->act} {$row->hour}";
            $hours[$key] ??= ['act' => (string) $row->act, 'hour' => (string) $row->hour, 'times' => 0];
            $hours[$key]['times'] += $sign * (int) $row->times;
        }
        foreach (
            SeenOnly::of($seen, $unseen, self::sums(self::within($acts, $asked, $library), 'act, user_id, library_id')) as [$row, $sign]
        ) {
            $key = "{$row->act} {$row->user_id} {$row->library_id}";
            $places[$key] ??= [
                'act' => (string) $row->act,
                'user' => $row->user_id === null ? null : (int) $row->user_id,
                'library' => $row->library_id === null ? null : (int) $row->library_id,
                'times' => 0,
            ];
            $places[$key]['times'] += $sign * (int) $row->times;
        }
        $isAny = static fn (array $of): bool => $of['times'] > 0;

        return [array_values(array_filter($hours, $isAny)), array_values(array_filter($places, $isAny))];
    }

    /** @return Closure(list<int>|null): iterable<\stdClass> */
    private static function sums(Builder $within, string $by): Closure
    {
        $names = preg_replace('/\S+\([^)]*\) AS /', '', $by);

        return static fn (?array $ids): iterable => (clone $within)
            ->when($ids !== null, static fn (Builder $of) => $of->whereIntegerInRaw('document_id', (array) $ids))
            ->groupByRaw((string) $names)
            ->selectRaw("{$by}, COUNT(*) AS times")
            ->get();
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
