<?php

declare(strict_types=1);

namespace App\People;

use App\History\Act;
use App\History\History;
use App\Models\Right;
use App\Models\User;
use App\Support\DiskFull;
use App\Support\Tries;
use Illuminate\Auth\AuthenticationException;
use Illuminate\Database\Query\Builder;
use Illuminate\Http\Exceptions\ThrottleRequestsException;
use Illuminate\Support\Carbon;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\RateLimiter;
use Illuminate\Support\Str;

/** Tokens with which programs ask in somebody's name, with some of their rights, for some time. */
final readonly class Tokens
{
    /** By this it is told, by people and by programs that look for secrets, what it is. */
    private const BEGINNING = 'brenvic_';

    /** Wrong tokens from a network, a minute. */
    private const TRIES = 30;

    /** That one is in use is noted so often, in seconds. */
    private const NOTED = 60;

    /**
     * @param  list<Right>  $rights  of those the person has; what they lose later the token loses too
     * @param  list<string>|null  $libraries  codes of those it is for; null for all that the person may enter
     * @return string the token, which is told only now
     */
    public static function make(User $user, string $name, array $rights, int $days, ?array $libraries = null): string
    {
        $token = self::BEGINNING.Str::random(40);
        DB::transaction(static function () use ($user, $name, $rights, $days, $libraries, $token): void {
            DB::table('api_tokens')->insert([
                'user_id' => $user->id,
                'name' => $name,
                'token_hash' => self::hash($token),
                'rights' => json_encode(array_column($rights, 'value')),
                'libraries' => $libraries === null ? null : json_encode($libraries),
                'made_at' => now(),
                'expires_at' => now()->addDays($days),
            ]);
            History::record(Act::TokenMade, $user, null, [
                'person' => $user->sign_in,
                'token' => $name,
                'rights' => array_column($rights, 'value'),
                'days' => $days,
                ...$libraries === null ? [] : ['libraries' => $libraries],
            ]);
        });

        return $token;
    }

    /**
     * Whose a token is that came from a network.
     *
     * @throws AuthenticationException where it is none, or is over
     * @throws ThrottleRequestsException after too many of these
     */
    public static function guarded(string $token, string $network): User
    {
        $key = "token/{$network}";
        Tries::guard($key, self::TRIES);
        $user = self::user($token);
        if ($user === null) {
            RateLimiter::hit($key);
            throw new AuthenticationException();
        }

        return $user;
    }

    /** Whose a token is, with no more rights than it has; null where it is none, or is over. */
    public static function user(string $token): ?User
    {
        $row = str_starts_with($token, self::BEGINNING) ? DB::table('api_tokens')->where('token_hash', self::hash($token))->first() : null;
        if ($row === null || Carbon::parse((string) $row->expires_at)->isPast()) {
            return null;
        }
        $user = User::query()->find((int) $row->user_id);
        if ($user === null || $user->out_of_use_at !== null) {
            return null;
        }
        if ($row->used_at === null || Carbon::parse((string) $row->used_at)->diffInSeconds(now()) >= self::NOTED) {
            DiskFull::orElseSkip(
                static fn () => DB::table('api_tokens')
                    ->where('id', $row->id)
                    ->update(['used_at' => now()]),
            );
        }

        return $user->limitedTo(self::rights((string) $row->rights), self::libraries($row->libraries));
    }

    /** @param  User|null  $owner  whose it must be; null for the office, which revokes anybody's */
    public static function revoke(User $by, int $id, ?User $owner): bool
    {
        return DB::transaction(static function () use ($by, $id, $owner): bool {
            $row = self::owned()
                ->when($owner !== null, static fn (Builder $rows) => $rows->where('api_tokens.user_id', $owner?->id))
                ->where('api_tokens.id', $id)
                ->first();
            if ($row === null) {
                return false;
            }
            DB::table('api_tokens')->where('id', $id)->delete();
            History::record(Act::TokenRevoked, $by, null, ['person' => (string) $row->sign_in, 'token' => (string) $row->name]);

            return true;
        });
    }

    /** As when somebody is put out of use. */
    public static function revokeAll(User $user): void
    {
        DB::table('api_tokens')->where('user_id', $user->id)->delete();
    }

    /** @return list<array{id: int, name: string, rights: list<string>, libraries: list<string>|null, made_at: string, expires_at: string, is_over: bool, used_at: string|null}> */
    public static function of(User $user): array
    {
        return array_values(
            self::owned()->where('api_tokens.user_id', $user->id)->get()->map(static fn (\stdClass $row): array => self::told($row))->all(),
        );
    }

    /**
     * Those of everybody, for the office: the newest first.
     *
     * @param  list<string>  $known  codes of the libraries that may be told of
     * @return list<array{id: int, name: string, rights: list<string>, libraries: list<string>|null, made_at: string, expires_at: string, is_over: bool, used_at: string|null, person: array{sign_in: string, name: string}}>
     */
    public static function ofAll(array $known): array
    {
        return array_values(
            self::owned()
                ->get()
                ->map(
                    static fn (\stdClass $row): array => [
                        ...self::told($row, $known),
                        'person' => ['sign_in' => (string) $row->sign_in, 'name' => (string) $row->person],
                    ],
                )
                ->all(),
        );
    }

    private static function owned(): Builder
    {
        return DB::table('api_tokens')
            ->join('users', 'users.id', '=', 'api_tokens.user_id')
            ->orderByDesc('api_tokens.id')
            ->select(['api_tokens.*', 'users.sign_in', 'users.name as person']);
    }

    /**
     * @param  list<string>|null  $known  codes of the libraries that may be told of; null for all
     * @return array{id: int, name: string, rights: list<string>, libraries: list<string>|null, made_at: string, expires_at: string, is_over: bool, used_at: string|null}
     */
    private static function told(\stdClass $row, ?array $known = null): array
    {
        $libraries = self::libraries($row->libraries);
        $time = static fn (mixed $at): string => Carbon::parse((string) $at)->toIso8601String();

        return [
            'id' => (int) $row->id,
            'name' => (string) $row->name,
            'rights' => array_column(self::rights((string) $row->rights), 'value'),
            'libraries' => $libraries === null || $known === null ? $libraries : array_values(array_intersect($libraries, $known)),
            'made_at' => $time($row->made_at),
            'expires_at' => $time($row->expires_at),
            'is_over' => Carbon::parse((string) $row->expires_at)->isPast(),
            'used_at' => $row->used_at === null ? null : $time($row->used_at),
        ];
    }

    /** @return list<string>|null */
    private static function libraries(mixed $kept): ?array
    {
        return is_string($kept) ? array_values(array_filter((array) json_decode($kept, true), is_string(...))) : null;
    }

    /** @return list<Right> */
    private static function rights(string $kept): array
    {
        return array_values(array_filter(array_map(Right::tryFrom(...), (array) json_decode($kept, true))));
    }

    /** Tokens are random and long, so that a quick hash is no less safe than a slow one. */
    private static function hash(string $token): string
    {
        return hash('sha256', $token);
    }
}
