<?php

declare(strict_types=1);

namespace App\Alarms;

use App\Models\Right;
use App\Models\Roles;
use App\Models\User;
use App\Support\Address;
use App\Support\Outbox;
use Illuminate\Support\Carbon;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Log;
use Throwable;

/** What somebody has to look after. It is shown to those who administer, mailed to those of them who have an address, and logged. */
final class Alarms
{
    /** Says it once, until it is cleared. */
    public static function raise(string $kind, string $says): void
    {
        try {
            $isNew = DB::transaction(static function () use ($kind, $says): bool {
                $open = DB::table('alarms')->where('kind', $kind)->where('says', $says)->whereNull('cleared_at');
                if ($open->exists()) {
                    return false;
                }
                DB::table('alarms')->insert(['kind' => $kind, 'says' => $says, 'raised_at' => now()]);
                self::mail($says);

                return true;
            });
            $isNew && Log::critical($says, ['alarm' => $kind]);
        } catch (Throwable $fault) {
            // On a full disk the log may be the only place that is left, or not even that.
            Log::critical($says, ['alarm' => $kind, 'exception' => $fault]);
        }
    }

    /** What was wrong is right again. */
    public static function clear(string $kind): void
    {
        $open = DB::table('alarms')->where('kind', $kind)->whereNull('cleared_at');
        // It is asked every half minute, and seldom there is one: nothing is written then.
        $open->exists() && $open->update(['cleared_at' => now()]);
    }

    /** Somebody has looked after one. */
    public static function done(int $id): bool
    {
        return DB::table('alarms')->where('id', $id)->whereNull('cleared_at')->update(['cleared_at' => now()]) > 0;
    }

    /** @return list<array{id: int, kind: string, says: string, raised_at: string}> the latest first */
    public static function open(): array
    {
        return array_values(
            DB::table('alarms')
                ->whereNull('cleared_at')
                ->orderByDesc('id')
                ->limit(200)
                ->get()
                ->map(static fn (\stdClass $row): array => [
                    'id' => (int) $row->id,
                    'kind' => (string) $row->kind,
                    'says' => (string) $row->says,
                    'raised_at' => Carbon::parse((string) $row->raised_at)->toIso8601String(),
                ])
                ->all(),
        );
    }

    public static function count(): int
    {
        return DB::table('alarms')->whereNull('cleared_at')->count();
    }

    private static function mail(string $says): void
    {
        $people = User::query()
            ->whereIn('role', app(Roles::class)->with(Right::Administer))
            ->whereNull('out_of_use_at')
            ->whereNotNull('mail')
            ->get();
        foreach ($people as $person) {
            Outbox::put($person->id, (string) $person->mail, 'Brenvic needs looking after', "{$says}\n\n".Address::of('/office/health'));
        }
    }
}
