<?php

declare(strict_types=1);

namespace App\Served;

use App\Models\Group;
use App\Models\Right;
use App\Models\Roles;
use App\Models\User;
use App\People\Tokens;
use App\Support\OfficeSetting;
use Illuminate\Auth\AuthenticationException;
use Illuminate\Http\Request;

/**
 * As whom a program asks by an open protocol: with a token (RFC 6750), or with it as the password of HTTP’s own sign-in (RFC 7617),
 * as the person who made it; without one as the group that the office named for everybody.
 */
final readonly class Asking
{
    private const SETTING = 'served_to';

    public function __construct(private Roles $roles)
    {
    }

    /** The name of the group that everybody is served as; null where nobody is served without a token. */
    public static function group(): ?string
    {
        $name = OfficeSetting::get(self::SETTING);

        return is_string($name) && $name !== '' ? $name : null;
    }

    public static function serve(?string $group): void
    {
        OfficeSetting::put(self::SETTING, $group);
    }

    /**
     * @return User|null null where nobody is served without a token, and there is none
     *
     * @throws AuthenticationException for a token that is none
     * @throws \Illuminate\Http\Exceptions\ThrottleRequestsException after too many of them
     */
    public function user(Request $request): ?User
    {
        $token = (string) $request->bearerToken();
        if ($token === '' && str_starts_with((string) $request->header('Authorization'), 'Basic ')) {
            $token = (string) $request->getPassword();
        }
        if ($token === '') {
            return $this->anybody();
        }
        $user = Tokens::guarded($token, (string) $request->ip());

        return $user->may(Right::Read) ? $user : throw new AuthenticationException;
    }

    private function anybody(): ?User
    {
        $name = self::group();
        $group = $name === null ? null : Group::query()->where('name', $name)->first();
        $role = $this->roles->with(Right::Read)[0] ?? null;

        return $group === null || $role === null ? null : User::visitor($group, $role);
    }
}
