<?php

declare(strict_types=1);

namespace App\People;

use App\History\Act;
use App\History\History;
use App\Models\User;
use Brenvic\Core\SignIn\OneTimePassword;
use Illuminate\Support\Facades\Crypt;
use Illuminate\Support\Facades\DB;

/** A second factor of somebody: a program on their telephone that shows codes, and recovery codes for when it is lost. */
final readonly class SecondFactor
{
    private const RECOVERY_CODES = 10;

    /**
     * Turns it on, with a secret that somebody has shown to have.
     *
     * @return list<string> recovery codes, which are shown only now
     */
    public static function turnOn(User $user, string $secret, int $step): array
    {
        $codes = array_map(
            static fn (): string => implode('-', str_split(substr(strtolower(OneTimePassword::secret()), 0, 15), 5)),
            range(1, self::RECOVERY_CODES),
        );
        DB::transaction(static function () use ($user, $secret, $step, $codes): void {
            $user->forceFill([
                'factor_secret' => Crypt::encryptString($secret),
                'factor_step' => $step,
                'recovery_hashes' => json_encode(array_map(self::hash(...), $codes)),
            ])->save();
            History::record(Act::FactorOn, $user, null, ['person' => $user->sign_in]);
        });

        return $codes;
    }

    public static function turnOff(User $by, User $user): void
    {
        DB::transaction(static function () use ($by, $user): void {
            $user->forceFill(['factor_secret' => null, 'factor_step' => -1, 'recovery_hashes' => null])->save();
            History::record(Act::FactorOff, $by, null, ['person' => $user->sign_in]);
        });
    }

    public static function isOn(User $user): bool
    {
        return $user->factor_secret !== null;
    }

    /** @return int recovery codes that are left */
    public static function left(User $user): int
    {
        return count((array) json_decode((string) $user->recovery_hashes, true));
    }

    /** Whether a code is good, which it is once. Two who send the same one at once are asked one after the other. */
    public static function takes(User $user, string $code): bool
    {
        return DB::transaction(static function () use ($user, $code): bool {
            $user->refresh();
            if ($user->factor_secret === null) {
                return false;
            }
            $step = OneTimePassword::step(Crypt::decryptString($user->factor_secret), $code, now()->getTimestamp(), $user->factor_step);
            if ($step !== null) {
                $user->forceFill(['factor_step' => $step])->save();

                return true;
            }
            $hashes = array_values((array) json_decode((string) $user->recovery_hashes, true));
            $left = array_values(array_diff($hashes, [self::hash($code)]));
            if (count($left) === count($hashes)) {
                return false;
            }
            $user->forceFill(['recovery_hashes' => json_encode($left)])->save();
            History::record(Act::RecoveryUsed, $user, null, ['person' => $user->sign_in, 'left' => count($left)]);

            return true;
        });
    }

    /** Codes are random and long enough that a quick hash with the application's key is no less safe than a slow one. */
    private static function hash(string $code): string
    {
        $plain = (string) preg_replace('/[^a-z0-9]/', '', strtolower($code));

        return hash_hmac('sha256', $plain, (string) config('app.key'));
    }
}
