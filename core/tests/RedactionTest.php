<?php

declare(strict_types=1);

use Brenvic\Core\Capture\TextPage;
use Brenvic\Core\Capture\WordBox;
use Brenvic\Core\Index\Tokenizer;
use Brenvic\Core\Pages\Box;
use Brenvic\Core\Pages\Hit;
use Brenvic\Core\Redaction\Mark;
use Brenvic\Core\Redaction\RedactedPage;
use Brenvic\Core\Redaction\Sought;

/** A page of lines of words, each eight units wide a letter and ten high. */
function pageOf(string $text): TextPage
{
    $words = [];
    foreach (explode("\n", $text) as $row => $line) {
        preg_match_all('/\S+/u', $line, $m, PREG_OFFSET_CAPTURE);
        $start = strlen(implode("\n", array_slice(explode("\n", $text), 0, $row))) + ($row > 0 ? 1 : 0);
        foreach ($m[0] as [$word, $at]) {
            $words[] = new WordBox($start + $at, strlen($word), 8.0 * $at, 14.0 * $row, 8.0 * ($at + strlen($word)), 14.0 * $row + 10);
        }
    }

    return new TextPage(800, 600, $text, $words);
}

it('finds words however they are written', function (string $typed, string $text, array $found) {
    $hits = Sought::words($typed)?->in($text) ?? [];
    expect(array_map(static fn (Hit $h): string => substr($text, $h->offset, $h->length), $hits))->toBe($found);
})->with([
    'case, accents, possessive' => ['osric vané', "OSRIC Vane, Osric\nVane's gate, Osricvane, Vane Osric", ['OSRIC Vane', "Osric\nVane's"]],
    'carried over a line' => ['inspector', "the inspec-\ntor and the in-\nspec-\ntor; inspec- tor", ["inspec-\ntor", "in-\nspec-\ntor"]],
    'carried over with a soft hyphen' => ['Marigold', "Mari\u{00AD}\n  gold", ["Mari\u{00AD}\n  gold"]],
    'a phrase with a carried word' => ['Osric Vane', "by Osric Va-\nne today", ["Osric Va-\nne"]],
    'masks' => ['LK-####-?', 'LK-0417-T, LK 0417 T, LK-417-T', ['LK-0417-T', 'LK 0417 T']],
    'a mask within' => ['van*', 'Vane, vanes, a van, Ivan', ['Vane', 'vanes', 'van']],
    'ligatures' => ['office', 'the oﬃce', ['oﬃce']],
]);

it('finds what a page break cuts in two', function (string $typed, string $first, string $second, array $found) {
    $hits = Sought::words($typed)->across($first, $second);
    expect(
        array_map(
            static fn (array $parts): array => [
                substr($first, $parts[0]->offset, $parts[0]->length),
                substr($second, $parts[1]->offset, $parts[1]->length),
            ],
            $hits,
        ),
    )->toBe($found);
})->with([
    'a phrase' => ['Osric Vane', "seen by Osric\n", 'Vane today', [['Osric', 'Vane']]],
    'a word with a hyphen' => ['Osric Vane', "seen by Osric Va-\n\n", 'ne today, Osric Vane', [['Osric Va-', 'ne']]],
    'a foot and a head between' => ['inspector', "the inspec-\nGate report\n- 3 -\n", "Gate report\ntor über", [['inspec-', 'tor']]],
    'whole on either page' => ['Osric Vane', "Osric Vane\n", 'Osric Vane', []],
    'further apart' => ['Osric Vane', "Osric\na\nb\nc\n", 'Vane', []],
    'letters of several bytes at the edge' => [
        'Osric Vane',
        str_repeat('é', 300).' Osric',
        'Vane '.str_repeat('é', 300),
        [['Osric', 'Vane']],
    ],
    'an empty page' => ['Osric Vane', 'Osric', " \n", []],
]);

it('takes nothing for everything', function () {
    expect(Sought::words(' * ?? '))->toBeNull()->and(Sought::words('—'))->toBeNull()->and(Sought::form('none'))->toBeNull();
});

it('finds what is known by its form', function (string $form, string $text, array $found) {
    expect(array_map(static fn (Hit $h): string => substr($text, $h->offset, $h->length), Sought::form($form)->in($text)))->toBe($found);
})->with([
    ['email', 'write to o.vane@tarnwick.example or x@y', ['o.vane@tarnwick.example']],
    ['phone', 'call 01632 960 417, room 12, LK-0417-T', ['01632 960 417']],
    ['date', 'on 14 March 2024, 3/4/2021 and 2019-03-01, not 12 locks 2024', ['14 March 2024', '3/4/2021', '2019-03-01']],
    ['number', 'account 12 34 56 78, lock 417', ['12 34 56 78']],
]);

it('leaves no removed word in the text, keeps the others in their places, and burns every one', function () {
    seeded(77);
    $vocabulary = ['gate', 'sill', 'Vane', 'Osric', 'seepage', 'lock', 'weir', 'über'];
    for ($i = 0; $i < 300; $i++) {
        $text = implode('', array_map(static fn (): string => $vocabulary[mt_rand(0, 7)].[' ', ' ', "\n"][mt_rand(0, 2)], range(1, 30)));
        $page = pageOf($text);
        $sought = $vocabulary[mt_rand(0, 7)];
        $marks = array_map(static fn (Hit $h): Mark => new Mark($h, reason: 'p'), Sought::words($sought)->in($text));
        $area = Box::of([mt_rand(0, 300), mt_rand(0, 200), mt_rand(0, 300), mt_rand(0, 200)]);
        $marks[] = new Mark(null, [$area]);
        $redacted = RedactedPage::of($page, $marks);
        expect(Tokenizer::words($redacted->page->text))->not->toContain(Tokenizer::fold($sought));
        $left = array_map(static fn (WordBox $w): string => substr($redacted->page->text, $w->offset, $w->length), $redacted->page->words);
        $stays = array_filter(
            $page->words,
            static fn (WordBox $w): bool => Tokenizer::fold(substr($text, $w->offset, $w->length)) !== Tokenizer::fold($sought) &&
                ! $area->touches(Box::ofWord($w)->grown(-0.05)),
        );
        expect($left)->toBe(array_values(array_map(static fn (WordBox $w): string => substr($text, $w->offset, $w->length), $stays)));
        foreach ($page->words as $word) {
            $isGone = ! in_array($word, $stays, true);
            $isCovered =
                array_filter(
                    $redacted->burnt,
                    static fn (array $b): bool => $b[0]->left <= $word->left &&
                        $b[0]->right >= $word->right &&
                        $b[0]->top <= $word->top &&
                        $b[0]->bottom >= $word->bottom,
                ) !== [];
            expect($isCovered || ! $isGone)->toBeTrue();
        }
    }
});

it('burns the whole page where a word has no known place', function () {
    $redacted = RedactedPage::of(new TextPage(100, 50, 'Osric Vane', []), [new Mark(new Hit(0, 5), reason: 'personal')]);
    expect($redacted->burnt)
        ->toEqual([[new Box(0, 0, 100, 50), 'personal']])
        ->and($redacted->page->text)
        ->toBe(RedactedPage::BAR);
    $plain = RedactedPage::of(new TextPage(0, 0, 'Osric Vane', []), [new Mark(new Hit(0, 5))]);
    expect($plain->burnt)
        ->toBe([])
        ->and($plain->page->text)
        ->toBe(RedactedPage::BAR.' Vane');
});
