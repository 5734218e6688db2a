<?php

declare(strict_types=1);

use Brenvic\Core\SignIn\OneTimePassword;
use Brenvic\Core\SignIn\PasswordRules;

// RFC 6238, appendix B (eight digits there; the last six are the six here), for the secret “12345678901234567890”.
it('makes the codes of the standard', function (int $time, string $code) {
    $secret = 'GEZDGNBVGY3TQOJQGEZDGNBVGY3TQOJQ';
    expect(OneTimePassword::at($secret, intdiv($time, 30)))
        ->toBe(substr($code, 2))
        ->and(OneTimePassword::step($secret, substr($code, 2), $time))
        ->toBe(intdiv($time, 30));
})->with([
    [59, '94287082'],
    [1111111109, '07081804'],
    [1111111111, '14050471'],
    [1234567890, '89005924'],
    [2000000000, '69279037'],
    [20000000000, '65353130'],
]);

it('takes a code of the step before and after, none twice, and no other', function () {
    $secret = OneTimePassword::secret();
    $time = 1_700_000_000;
    $now = intdiv($time, 30);
    expect($secret)->toMatch('/^[A-Z2-7]{32}$/');
    foreach ([-2 => null, -1 => $now - 1, 0 => $now, 1 => $now + 1, 2 => null] as $off => $step) {
        expect(OneTimePassword::step($secret, OneTimePassword::at($secret, $now + $off), $time))->toBe($step);
    }
    $code = OneTimePassword::at($secret, $now);
    expect(OneTimePassword::step($secret, substr($code, 0, 3).' '.substr($code, 3), $time))
        ->toBe($now)
        ->and(OneTimePassword::step($secret, $code, $time, $now))
        ->toBeNull();
    foreach (['', '12345', 'abcdef', "{$code}0"] as $wrong) {
        expect(OneTimePassword::step($secret, $wrong, $time))->toBeNull();
    }
});

it('says what programs on telephones read', function () {
    expect(OneTimePassword::address('ABC', 'Canal & Harbour', 'o.marsh'))
        ->toBe('otpauth://totp/Canal%20%26%20Harbour:o.marsh?secret=ABC&issuer=Canal%20%26%20Harbour');
});

it('lets passwords be chosen by their length and by what would be guessed, and by nothing else', function () {
    $rules = new PasswordRules((string) file_get_contents(__DIR__.'/../../resources/known-passwords.txt'));
    $fault = static fn (string $password, bool $isAlone = true): ?string => $rules->fault($password, $isAlone, ['o.marsh', 'Brenvic', 'Ottoline Marsh']);
    foreach (['seven quiet locks', 'ошибка на шлюзе', '7#kd92!qpz-41,v', '840917552206318847', '               x     y', 'a marsh of herons, and o.marsh'] as $good) {
        expect($fault($good))->toBeNull();
    }
    expect($fault('fourteen chars'))
        ->toContain('at least 15')
        ->and($fault('fourteen chars', false))
        ->toBeNull()
        ->and($fault('sevens7', false))
        ->toContain('at least 8')
        ->and($fault('iloveyou', false))
        ->toContain('tried first')
        ->and($fault('ILoveYou', false))
        ->toContain('tried first');
    foreach (['aaaaaaaaaaaaaaaa', 'abcabcabcabcabcabc', 'Brenvic-o.marsh-1', '123456789012345678', 'zyxwvutsrqponmlkj', 'ottoline marsh!', 'passwordpassword1'] as $guessed) {
        expect($fault($guessed))->toContain('guessed at once');
    }
    // Characters, not bytes.
    expect($fault('ääääöööüü', true))->toContain('at least 15');
});
