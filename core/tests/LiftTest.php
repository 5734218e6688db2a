<?php

declare(strict_types=1);

use Brenvic\Core\Design\Design;
use Brenvic\Core\Design\DesignKind;
use Brenvic\Core\Fields\CheckCharacter;
use Brenvic\Core\Fields\FieldDefinition;
use Brenvic\Core\Fields\InvalidValue;
use Brenvic\Core\Lift\Lift;
use Brenvic\Core\Lift\Place;
use Brenvic\Core\Lift\Places;

/** @param  array<string, mixed>  $more */
function liftField(string $kind, array $more = []): FieldDefinition
{
    return (new Design())
        ->with(DesignKind::Vocabulary, 'waters', ['name' => 'Waters', 'terms' => [
            ['code' => 'sea', 'label' => 'Sea lock', 'parent' => null, 'synonyms' => ['tidal lock']],
            ['code' => 'pound', 'label' => 'Sea lock pound', 'parent' => null, 'notation' => 'NAV.02'],
            ['code' => 'mere', 'label' => 'Mere', 'parent' => null],
        ]])
        ->with(DesignKind::Field, 'it', ['label' => 'It', 'kind' => $kind, ...$kind === 'choice' ? ['vocabulary' => 'waters'] : [], ...$more])
        ->fields()['it'];
}

/** @return list<string> */
function found(FieldDefinition $field, string $text): array
{
    return array_map(static fn (Place $p): string => substr($text, $p->offset, $p->length).' => '.$p->value, Places::of($field, $text));
}

it('finds the places of a page that fit a field', function (string $kind, array $more, string $text, array $places) {
    expect(found(liftField($kind, $more), $text))->toBe($places);
})->with([
    'dates in all forms' => [
        'date', [],
        "Inspected on 14th March 2024, seen again 2 Apr. 2024.\nMarch 3, 2023; 2022-12-01 and 5/6/2021, 05.06.2021; May 2019. Room 12, 1887 bricks, 3/14/2020.",
        [
            '14th March 2024 => 2024-03-14', '2 Apr. 2024 => 2024-04-02', 'March 3, 2023 => 2023-03-03', '2022-12-01 => 2022-12-01',
            '5/6/2021 => 2021-06-05', 'May 2019 => 2019-05', '3/14/2020 => 2020-03-14',
        ],
    ],
    'a date over two lines' => ['date', [], "signed the 14\nMarch 2024 by", ["14\nMarch 2024 => 2024-03-14"]],
    'no date that there is not' => ['date', [], '31 February 2024, 2024-13-01, 1.2.3.2024, marches 2024', []],
    'ranges' => [
        'date_range', [], 'from 3 May 2021 to 9 June 2021, and since 1 July 2022',
        ['3 May 2021 to 9 June 2021 => 2021-05-03/2021-06-09', '1 July 2022 => 2022-07-01/2022-07-01'],
    ],
    'amounts' => [
        'amount', ['unit' => 'GBP'],
        'Fee £1,204.50, deposit 75.00 GBP, EUR 3.400,20 and $12; 1999 boats, 12,5 %',
        ['£1,204.50 => 1204.50', '75.00 GBP => 75.00'],
    ],
    'numbers with a unit' => ['number', ['unit' => 'm'], 'Draught 1,25 m, length 14 m; 3 men, 7 mm, 2024', ['1,25 m => 1.25', '14 m => 14']],
    'numbers' => ['number', [], 'On 2024-03-14 there were 1,200 boats, −3 degrees and 4/5.', ['1,200 => 1200', '−3 => -3']],
    'terms, the longer one where two begin alike' => [
        'choice', [], "At the SEA LOCK\nPOUND, the tidal lock, and by the mere; meres, Seal ock.",
        ["SEA LOCK\nPOUND => pound", 'tidal lock => sea', 'mere => mere'],
    ],
    'people' => [
        'person', [], 'Seen by Osric Vane and Dr. Ida Ash-Pike. The gate leaks.',
        ['Osric Vane => Osric Vane', 'Dr. Ida Ash-Pike => Dr. Ida Ash-Pike'],
    ],
    'addresses' => ['web_address', [], 'See https://trust.example/works?no=7, or (http://b.example/x).', [
        'https://trust.example/works?no=7 => https://trust.example/works?no=7', 'http://b.example/x => http://b.example/x',
    ]],
    'what any words fit' => ['text', [], 'Anything at all, 14 March 2024', []],
]);

it('finds only identifiers whose check characters fit, whatever stands around them', function () {
    seeded(31);
    $field = liftField('identifier', ['pattern' => 'AA-9999-?']);
    for ($round = 0; $round < 200; $round++) {
        $stem = sprintf('%c%c-%04d-', mt_rand(65, 90), mt_rand(65, 90), mt_rand(0, 9999));
        $right = $stem.CheckCharacter::for($stem);
        $wrong = $stem.(CheckCharacter::for($stem) === '7' ? '8' : '7');
        expect(found($field, "Permit {$wrong}, no. {$right}; x{$right} {$right}9"))->toBe(["{$right} => {$right}"]);
    }
});

it('finds every date that was written into a text, in the order of the text, and no other', function (int $seed) {
    seeded($seed);
    $forms = ['j F Y', 'jS F Y', 'Y-m-d', 'd/m/Y', 'd.m.Y', 'F j, Y', 'j M. Y'];
    $words = ['the gate', 'leaks at', 'no. 17', 'Mere 4', 'and', '3,5 m', 'of 12 boats', '(see', 'below)'];
    for ($round = 0; $round < 60; $round++) {
        $dates = [];
        $text = '';
        for ($i = 0; $i < mt_rand(1, 7); $i++) {
            $day = mt_rand(-2_000_000_000, 1_800_000_000);
            $dates[gmdate('Y-m-d', $day)] = true;
            $text .= $words[mt_rand(0, 8)].' '.$words[mt_rand(0, 8)].' on '.gmdate($forms[mt_rand(0, 6)], $day).' '.['', "\n", 'when '][mt_rand(0, 2)];
        }
        expect(array_map(static fn (Place $p): string => $p->value, Places::of(liftField('date'), $text)))->toBe(array_keys($dates));
    }
})->with([1, 2]);

it('lifts words into the normal form of a field', function (string $kind, array $more, string $text, string $value) {
    expect(Lift::value(liftField($kind, $more), $text))->toBe($value);
})->with([
    ['date', [], '14th March 2024', '2024-03-14'],
    ['date', [], ' dated 14.03.2024, at ', '2024-03-14'],
    ['amount', ['unit' => 'GBP'], '£1,204.50', '1204.50'],
    ['amount', ['unit' => 'GBP'], '1.204,50', '1204.50'],
    ['number', ['unit' => 'm'], 'abt. 1,25 m deep', '1.25'],
    ['choice', [], 'the Sea lock pound.', 'pound'],
    ['choice', [], 'NAV.02', 'pound'],
    ['text', [], "  The gate\nleaks.  ", 'The gate leaks'],
    ['person', [], 'Osric Vane,', 'Osric Vane'],
    ['yes_no', [], 'yes', '1'],
    ['identifier', ['pattern' => 'AA-9999'], 'see lk-0417 below', 'LK-0417'],
]);

it('refuses words that a field cannot have, with the reason', function (string $kind, array $more, string $text, string $says) {
    try {
        $said = Lift::value(liftField($kind, $more), $text);
    } catch (InvalidValue $fault) {
        $said = $fault->getMessage();
    }
    expect($said)->toContain($says);
})->with([
    ['date', [], 'the gate', 'is not a date'],
    ['choice', [], 'Atlantic', 'is not'],
    ['identifier', ['pattern' => 'AA-9999-?'], 'LK-0417-0', 'check character'],
    ['text', [], ' . ', 'no words'],
]);

it('reads a whole book in its limits', function () {
    $page = file_get_contents('/usr/share/common-licenses/GPL-3') ?: '';
    $book = str_repeat($page, 12);
    expect(found(liftField('date'), $book))->toBe(['29 June 2007 => 2007-06-29', '20 December 1996 => 1996-12-20', '28 March 2007 => 2007-03-28'])
        ->and(found(liftField('web_address'), $book))->toContain('https://fsf.org/ => https://fsf.org/');
});

it('takes what stands behind the field’s own name first, whatever its kind', function () {
    $vessel = liftField('text', ['label' => 'Vessel']);
    expect(found($vessel, "Permit\nVessel:  Marigold Ash \nIn the vessel: nothing\nVESSEL : Tern\nVessel:\nnext"))
        ->toBe(['Marigold Ash => Marigold Ash', 'Tern => Tern']);
    // A date that is named so comes before those that stand earlier.
    expect(found(liftField('date', ['label' => 'Valid until']), "Issued 2 June 2025\nValid until: 31 May 2026"))
        ->toBe(['31 May 2026 => 2026-05-31', '2 June 2025 => 2025-06-02']);
    expect(found(liftField('number', ['label' => 'Depth']), "Depth: deep\nDepth: 0.4"))->toBe(['0.4 => 0.4']);
});
