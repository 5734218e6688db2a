<?php

declare(strict_types=1);

namespace App\People;

use App\Models\User;
use App\Support\DiskFull;
use Illuminate\Contracts\Session\Session;
use Illuminate\Http\Request;
use Illuminate\Support\Carbon;
use Illuminate\Support\Facades\Auth;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Str;

/**
 * What people are signed in with. Each session has a key of its own, by whose hash it is known; where that is no more, or was not used
 * for as long as the office lets it be, whoever has it is asked to sign in.
 */
final readonly class Sessions
{
    public const KEY = 'session_key';

    private const STAYS = 'stays';

    /** That a session is in use is noted so often, in seconds. */
    private const NOTED = 60;

    /** By what browsers and machines say of themselves, the first that is there, what people call them. */
    private const BROWSERS = ['Firefox' => 'Firefox', 'Edg' => 'Edge', 'Chrom' => 'Chromium', 'Safari' => 'Safari'];

    private const MACHINES = [
        'Android' => 'Android',
        'iPhone' => 'a telephone',
        'iPad' => 'a tablet',
        'Windows' => 'Windows',
        'Mac OS' => 'macOS',
        'Linux' => 'Linux',
    ];

    /** Signs somebody in who has shown who they are. */
    public static function begin(Request $request, User $user, bool $stays): void
    {
        Auth::login($user);
        $session = $request->session();
        $session->regenerate();
        $stays = $stays && OfficeRules::now()->stayDays > 0;
        $session->put(self::STAYS, $stays);
        self::note($session, $request, $user, $stays);
    }

    /** Whether the session of a request is still good. One that began before sessions were known is known from here on. */
    public static function goesOn(Request $request, User $user, OfficeRules $rules): bool
    {
        $session = $request->session();
        $key = $session->get(self::KEY);
        if (! is_string($key)) {
            self::note($session, $request, $user, false);

            return true;
        }
        $row = DB::table('sessions')->where('key_hash', self::hash($key))->where('user_id', $user->id)->first();
        if ($row === null) {
            return false;
        }
        $seen = Carbon::parse((string) $row->seen_at);
        $longest = $row->stays ? $rules->stayDays * 24 : $rules->hours;
        $isOver =
            Carbon::parse((string) $row->begun_at)->addHours($longest)->isPast() ||
            (! $row->stays && $seen->copy()->addMinutes($rules->idleMinutes)->isPast());
        if ($isOver) {
            DB::table('sessions')->where('id', $row->id)->delete();

            return false;
        }
        if ($seen->diffInSeconds(now()) >= self::NOTED) {
            DiskFull::orElseSkip(static fn () => DB::table('sessions')->where('id', $row->id)->update(['seen_at' => now()]));
        }

        return true;
    }

    /** For how many days the browser keeps a session; 0 until it is closed. */
    public static function days(Session $session): int
    {
        return $session->get(self::STAYS) === true ? OfficeRules::now()->stayDays : 0;
    }

    /** Ends the session of a request. */
    public static function end(Request $request): void
    {
        $key = $request->session()->get(self::KEY);
        is_string($key) && DB::table('sessions')->where('key_hash', self::hash($key))->delete();
        Auth::guard('web')->logout();
        $request->session()->invalidate();
        $request->session()->regenerateToken();
    }

    /**
     * Ends all sessions of somebody.
     *
     * @param  Request|null  $but  the one that asks goes on
     */
    public static function endAll(User $user, ?Request $but = null): int
    {
        $key = $but?->session()->get(self::KEY);

        return DB::table('sessions')
            ->where('user_id', $user->id)
            ->when(is_string($key), static fn ($all) => $all->where('key_hash', '!=', self::hash((string) $key)))
            ->delete();
    }

    public static function endOne(User $user, int $id): bool
    {
        return DB::table('sessions')->where('user_id', $user->id)->where('id', $id)->delete() > 0;
    }

    /** @return list<array{id: int, begun_at: string, seen_at: string, address: string, browser: string, stays: bool, is_this: bool}> */
    public static function of(User $user, Request $request): array
    {
        $key = $request->session()->get(self::KEY);
        $this_ = is_string($key) ? self::hash($key) : '';

        return array_values(
            DB::table('sessions')
                ->where('user_id', $user->id)
                ->orderByDesc('seen_at')
                ->orderByDesc('id')
                ->limit(100)
                ->get()
                ->map(static fn (\stdClass $row): array => [
                    'id' => (int) $row->id,
                    'begun_at' => Carbon::parse((string) $row->begun_at)->toIso8601String(),
                    'seen_at' => Carbon::parse((string) $row->seen_at)->toIso8601String(),
                    'address' => (string) $row->address,
                    'browser' => (string) $row->browser,
                    'stays' => (bool) $row->stays,
                    'is_this' => hash_equals($this_, (string) $row->key_hash),
                ])
                ->all(),
        );
    }

    /** Takes away what is known of sessions that have ended by time. */
    public static function clear(): void
    {
        $rules = OfficeRules::now();
        DB::table('sessions')
            ->where(static fn ($all) => $all->where('stays', true)->where('begun_at', '<', now()->subDays($rules->stayDays)))
            ->orWhere(static fn ($all) => $all->where('stays', false)->where('seen_at', '<', now()->subMinutes($rules->idleMinutes)))
            ->delete();
    }

    private static function note(Session $session, Request $request, User $user, bool $stays): void
    {
        $key = Str::random(40);
        $session->put(self::KEY, $key);
        DB::table('sessions')->insert([
            'key_hash' => self::hash($key),
            'user_id' => $user->id,
            'begun_at' => now(),
            'seen_at' => now(),
            'address' => (string) $request->ip(),
            'browser' => self::browser((string) $request->userAgent()),
            'stays' => $stays,
        ]);
    }

    private static function hash(string $key): string
    {
        return hash('sha256', $key);
    }

    /** What somebody knows their browser by, of what it says of itself. */
    private static function browser(string $agent): string
    {
        $called = static fn (array $signs): string => array_values(
            array_filter($signs, static fn (string $sign): bool => str_contains($agent, $sign), ARRAY_FILTER_USE_KEY),
        )[0] ?? '';
        $name = $called(self::BROWSERS);
        $on = $called(self::MACHINES);

        return $name === '' ? 'Another program' : $name.($on === '' ? '' : " on {$on}");
    }
}
