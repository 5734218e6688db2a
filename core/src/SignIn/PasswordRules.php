<?php

declare(strict_types=1);

namespace Brenvic\Core\SignIn;

/**
 * What passwords may be chosen, by NIST SP 800-63B-4 (2025), 3.1.1.2: as long as these lengths, counted in characters, any characters,
 * none that is known to be in use elsewhere or would be guessed from where it is used; no rules of composition, no regular changes.
 */
final readonly class PasswordRules
{
    /** Where it alone lets somebody in. */
    public const LEAST_ALONE = 15;

    /** Beside a second factor. */
    public const LEAST_BESIDE = 8;

    /** Signs one after the other, as they stand on keyboards and in the alphabet. */
    private const RUNS = ['1234567890', '0123456789', 'abcdefghijklmnopqrstuvwxyz', 'qwertyuiop', 'qwertzuiop', 'asdfghjkl'];

    /** @param  string  $known  passwords that are known to be in use, in lower case, a line each */
    public function __construct(private string $known)
    {
    }

    /**
     * @param  list<string>  $about  what would be guessed: the sign-in name, the name, what the service is called
     * @return string|null why it may not be chosen
     */
    public function fault(string $password, bool $isAlone, array $about): ?string
    {
        $least = $isAlone ? self::LEAST_ALONE : self::LEAST_BESIDE;
        if (mb_strlen($password) < $least) {
            return $isAlone
                ? "A password has at least {$least} characters. Several words that do not belong together are easy to remember."
                : "A password has at least {$least} characters.";
        }
        $lower = mb_strtolower($password);
        if (str_contains("\n{$this->known}\n", "\n{$lower}\n")) {
            return 'This password is on a list of those that are tried first. Choose another.';
        }
        $left = $lower;
        foreach ($about as $word) {
            $word = mb_strtolower($word);
            $left = mb_strlen($word) < 3 ? $left : str_replace($word, '', $left);
        }
        $isRepeated = preg_match('/^(.{1,8}?)\1+.{0,3}$/us', $lower) === 1;
        $isRun = false;
        foreach (self::RUNS as $run) {
            $isRun = $isRun || str_contains(str_repeat($run, 9), $lower) || str_contains(strrev(str_repeat($run, 9)), $lower);
        }
        if ($isRepeated || $isRun || ($left !== $lower && mb_strlen($left) < 6)) {
            return 'This password would be guessed at once. Choose another.';
        }

        return null;
    }
}
