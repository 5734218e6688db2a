<?php

declare(strict_types=1);

namespace App\Procedures;

use App\Models\User;
use App\Support\Column;
use App\Support\Refused;
use Illuminate\Support\Facades\DB;

/** Who is away, and who stands in for them. */
final class Away
{
    /** @return list<int> those in use who are away today and have a person stand in for them */
    public static function representedBy(int $person): array
    {
        $today = now()->toDateString();

        return Column::numbers(
            DB::table('users')
                ->where('stand_in_id', $person)
                ->whereNull('out_of_use_at')
                ->where(static fn ($q) => $q->whereNull('away_from')->orWhere('away_from', '<=', $today))
                ->where(static fn ($q) => $q->whereNull('away_until')->orWhere('away_until', '>=', $today))
                ->orderBy('id')
                ->pluck('id'),
        );
    }

    /**
     * @param  string|null  $from  a day; null for from now on
     * @param  string|null  $until  a day; null for until it is changed
     *
     * @throws Refused
     */
    public static function set(User $person, ?User $standIn, ?string $from, ?string $until): void
    {
        if ($standIn?->id === $person->id) {
            throw new Refused('Choose somebody else to stand in for you.');
        }
        if ($standIn?->out_of_use_at !== null) {
            throw new Refused("{$standIn->name} is out of use.");
        }
        if ($from !== null && $until !== null && $until < $from) {
            throw new Refused('The last day is before the first.');
        }
        $person->forceFill([
            'stand_in_id' => $standIn?->id,
            'away_from' => $standIn === null ? null : $from,
            'away_until' => $standIn === null ? null : $until,
        ])->save();
    }
}
