<?php

declare(strict_types=1);

use Brenvic\Core\Design\MailRule;
use Brenvic\Core\Fields\InvalidDefinition;

const MAIL = [
    'from' => ['Holm Masonry <office@holm-masonry.example>'],
    'to' => ['works@tarnwick.example', 'Records <records@tarnwick.example>'],
    'subject' => ['Quotation 214: the coping at Oxbeck'],
    'attachment' => ['quotation-214.pdf', 'Photo (1).jpg'],
];

function fits(string $criterion): bool
{
    $rule = new MailRule($criterion, null, []);
    $rule->check();

    return $rule->fits(MAIL);
}

it('fits a mail by its parts, as criteria fit documents', function (string $criterion, bool $isFit) {
    expect(fits($criterion))->toBe($isFit, $criterion);
})->with([
    ['from = holm', true],
    ['from = "holm masonry"', true],
    ['from = "masonry holm"', false],
    ['from = office@holm-masonry.example', true],
    ['from = tarnwick', false],
    ['to = records@tarnwick.example', true],
    ['to any "board works"', true],
    ['to all "board works"', false],
    ['subject = quot*', true],
    ['subject = "2?4"', true],
    ['subject == "quotation 214: the coping at oxbeck"', true],
    ['subject == quotation', false],
    ['subject <> quotation', true],
    ['attachment == *.pdf', true],
    ['attachment == *.docx', false],
    ['attachment == "photo (1).jpg"', true],
    ['oxbeck', true],
    ['subject = quotation and from = holm', true],
    ['subject = quotation not attachment == *.pdf', false],
    ['subject = tender or subject = quotation', true],
    ['(subject = tender or subject = quotation) and to = board', false],
]);

it('says what cannot be asked of a mail', function (string $criterion, string $says) {
    expect(static fn () => (new MailRule($criterion, null, []))->check())->toThrow(InvalidDefinition::class, $says);
})->with([
    ['vessel = marigold', 'A mail has no “vessel”'],
    ['subject > 3', 'does not go with mails'],
    ['subject = (', 'subject = ('],
    ['subject = a prox subject = b', 'near one another'],
]);

it('does not fit a mail that has nothing of what is asked', function () {
    expect((new MailRule('attachment == *', null, []))->fits(['attachment' => []]))->toBeFalse()
        ->and((new MailRule('subject = "…"', null, []))->fits(MAIL))->toBeFalse()
        ->and((new MailRule('(', null, []))->fits(MAIL))->toBeFalse();
});
