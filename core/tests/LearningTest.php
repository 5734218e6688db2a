<?php

declare(strict_types=1);

use Brenvic\Core\Capture\TextPage;
use Brenvic\Core\Fields\FieldDefinition;
use Brenvic\Core\Fields\Kinds\DateKind;
use Brenvic\Core\Fields\Kinds\IdentifierKind;
use Brenvic\Core\Fields\Kinds\TextKind;
use Brenvic\Core\Learning\Example;
use Brenvic\Core\Learning\LayoutMarks;
use Brenvic\Core\Learning\Likeliest;
use Brenvic\Core\Learning\PlaceLearner;
use Brenvic\Core\Learning\Vote;

/**
 * A page with boxes: words of 6 by 10 units a sign.
 *
 * @param  list<array{int|float, int|float, string}>  $put  left, top and words
 */
function paperOf(array $put): TextPage
{
    $text = '';
    $boxes = [];
    foreach ($put as [$left, $top, $line]) {
        foreach (explode(' ', $line) as $word) {
            $boxes[] = new Brenvic\Core\Capture\WordBox(strlen($text), strlen($word), $left, $top, $left + 6.0 * mb_strlen($word), $top + 10.0);
            $text .= "{$word} ";
            $left += 6.0 * (mb_strlen($word) + 1);
        }
        $text = rtrim($text)."\n";
    }

    return new TextPage(600, 800, $text, $boxes);
}

function dayField(): FieldDefinition
{
    return new FieldDefinition('day', 'Day', new DateKind);
}

/** @param  list<array{string|TextPage, string}>  $papers  text or page, and the day that people gave */
function learnedDay(array $papers): PlaceLearner
{
    return new PlaceLearner(array_map(
        static fn (int $i): Example => new Example($i, [1 => $papers[$i][0] instanceof TextPage ? $papers[$i][0] : new TextPage(0, 0, $papers[$i][0])], ['day' => [$papers[$i][1]]]),
        array_keys($papers),
    ));
}

it('learns from two papers beside which words a value stands', function () {
    $learned = learnedDay([
        ['Filed 1 Jan 2020. Inspected on 14 March 2024 by Fenn.', '2024-03-14'],
        ['Filed 2 Jan 2020. It was inspected on 3 April 2024, in rain.', '2024-04-03'],
    ])->learn(dayField());
    expect($learned?->beside)->toBe('inspected on')->and($learned->from)->toBe([0, 1])->and($learned->wrong)->toBe(0);
    $found = $learned->found(dayField(), [1 => new TextPage(0, 0, 'Filed 5 Jan 2020. Inspected on 6 May 2025.')]);
    expect($found?->value)->toBe('2025-05-06')->and($found->page)->toBe(1);
    expect($learned->found(dayField(), [1 => new TextPage(0, 0, 'Filed 5 Jan 2020.')]))->toBeNull();
});

it('learns nothing from one paper, nor where papers do not agree', function () {
    expect(learnedDay([['Inspected on 14 March 2024.', '2024-03-14']])->learn(dayField()))->toBeNull();
    expect(learnedDay([['Inspected on 14 March 2024.', '2024-03-14'], ["Not inspected.\nSeen 3 April 2024.\nNo more.", '2024-04-03']])->learn(dayField()))->toBeNull();
    // People gave something else than stands there.
    expect(learnedDay([['Inspected on 14 March 2024.', '2020-01-01'], ['Inspected on 3 April 2024.', '2020-01-02']])->learn(dayField()))->toBeNull();
});

it('reads forms by where words stand on the page, right of others or below them', function () {
    $right = static fn (string $day, string $other): TextPage => paperOf([[50, 50, 'Harbour office'], [50, 100, 'Issued'], [50, 130, 'Expires'], [300, 100, $other], [300, 130, $day]]);
    $learned = learnedDay([[$right('1 May 2024', '1 May 2023'), '2024-05-01'], [$right('2 June 2025', '2 June 2024'), '2025-06-02']])->learn(dayField());
    expect($learned?->beside)->toBe('expires')->and($learned->found(dayField(), [1 => $right('3 July 2026', '3 July 2025')])?->value)->toBe('2026-07-03');
    $below = static fn (string $day, string $other): TextPage => paperOf([[50, 100, 'Issued'], [300, 100, 'Valid until'], [50, 114, $other], [300, 114, $day]]);
    $learned = learnedDay([[$below('1 May 2024', '1 May 2023'), '2024-05-01'], [$below('2 June 2025', '2 June 2024'), '2025-06-02']])->learn(dayField());
    expect($learned?->found(dayField(), [1 => $below('3 July 2026', '3 July 2025')])?->value)->toBe('2026-07-03');
});

it('finds words in a sentence between those before and behind them', function () {
    $field = new FieldDefinition('vessel', 'Vessel', new TextKind);
    $texts = ['Marigold Ash' => 'The vessel Marigold Ash may lie at berth A1.', 'Old Rope' => 'The vessel Old Rope may lie at berth C2.'];
    $examples = [];
    foreach ($texts as $vessel => $text) {
        $examples[] = new Example(count($examples), [1 => new TextPage(0, 0, $text)], ['vessel' => [$vessel]]);
    }
    $learned = (new PlaceLearner($examples))->learn($field);
    expect($learned?->found($field, [1 => new TextPage(0, 0, 'The vessel Grey Wether may lie at berth B7.')])?->value)->toBe('Grey Wether');
});

it('knows lines of their own, at the top and at the end', function () {
    $field = new FieldDefinition('who', 'Who', new TextKind);
    $examples = [
        new Example(0, [1 => new TextPage(0, 0, "Cray Wharf, 1901\nAll is well.\nAda Lorne")], ['who' => ['Ada Lorne'], 'place' => ['Cray Wharf']]),
        new Example(1, [1 => new TextPage(0, 0, "Sea Lock, 1977\nNothing to see here, nor there.\nMore of it.\nKit Wardle")], ['who' => ['Kit Wardle'], 'place' => ['Sea Lock']]),
    ];
    $page = [1 => new TextPage(0, 0, "Toll House, 1950\nQuiet.\nNell Bracken")];
    expect((new PlaceLearner($examples))->learn($field)?->found($field, $page)?->value)->toBe('Nell Bracken');
    $place = new FieldDefinition('place', 'Place', new TextKind);
    expect((new PlaceLearner($examples))->learn($place)?->found($place, $page)?->value)->toBe('Toll House');
});

it('takes what was the same on all papers only where it stands there again', function () {
    $learned = learnedDay([['Act of 4 May 1890. Seen.', '1890-05-04'], ['Act of 4 May 1890. Heard.', '1890-05-04']])->learn(dayField());
    expect($learned?->found(dayField(), [1 => new TextPage(0, 0, 'Act of 4 May 1890. Read.')])?->value)->toBe('1890-05-04');
    expect($learned->found(dayField(), [1 => new TextPage(0, 0, 'Act of 5 June 1901. Read.')]))->toBeNull();
});

it('never proposes for a paper of the form another value than is printed there, however many dates stand around it', function () {
    mt_srand(19);
    $labels = ['Inspected on', 'Date of survey', 'Valid until', 'Happened at', 'Day of visit'];
    for ($run = 0; $run < 60; $run++) {
        $label = $labels[mt_rand(0, 4)];
        $others = array_slice(array_values(array_diff($labels, [$label])), 0, mt_rand(0, 3));
        $write = static function () use ($label, $others): array {
            $day = static fn (): string => sprintf('%d-%02d-%02d', mt_rand(1950, 2025), mt_rand(1, 12), mt_rand(1, 28));
            $meant = $day();
            $lines = array_map(static fn (string $other): string => "{$other} {$day()}", $others);
            array_splice($lines, mt_rand(0, count($lines)), 0, ["{$label} {$meant}"]);

            return ["Office\n".implode("\n", $lines)."\nEnd", $meant];
        };
        $learner = learnedDay([$write(), $write(), $write(), $write()]);
        $learned = $learner->learn(dayField());
        [$text, $meant] = $write();
        $found = $learned?->found(dayField(), [1 => new TextPage(0, 0, $text)]);
        expect($found?->value)->toBe($meant, $text);
    }
});

it('marks papers of one form alike and others differently, whatever is written on them', function () {
    $form = static fn (string $head, array $labels, string $written): TextPage => paperOf([
        [200, 20, $head],
        ...array_map(static fn (string $label, int $i): array => [50, 60 + 20 * $i, "{$label} {$written} {$i}"], $labels, array_keys($labels)),
        [50, 300, 'One of many sentences about nothing at all that runs on to the right edge of the page, and'],
        [50, 312, "goes on {$written} there"],
    ]);
    $a = LayoutMarks::of($form('Harbour office', ['Vessel name', 'Berth given', 'Fee paid'], 'Juniper'), 'pdf');
    $b = LayoutMarks::of($form('Harbour office', ['Vessel name', 'Berth given', 'Fee paid'], 'Sorrel'), 'pdf');
    $c = LayoutMarks::of($form('Structures office', ['Asset plate', 'Visited on', 'Grade given'], 'Juniper'), 'pdf');
    expect(array_intersect($a, $b))->toBe($a)->and(count(array_intersect($a, $c)))->toBeLessThanOrEqual(2);
    expect(LayoutMarks::of(new TextPage(0, 0, ''), 'pdf'))->toHaveCount(1);
    $many = implode("\n", array_map(static fn (int $i): string => chr(97 + $i % 26).chr(97 + intdiv($i, 26))." line {$i}", range(0, 200)));
    expect(LayoutMarks::of(new TextPage(0, 0, $many), 'text'))->toHaveCount(LayoutMarks::MOST);
});

it('tells the class by the marks that its documents alone have', function () {
    // 1 stands on all papers of an office, 2 on its tenders and 3 on its contracts, of which there are more.
    $classes = ['tender' => array_fill(0, 5, [1, 2]), 'contract' => array_fill(0, 80, [1, 3])];
    expect(Likeliest::of([1, 2], $classes)[0])->toBe('tender')->and(Likeliest::of([1, 3], $classes)[0])->toBe('contract');
    expect(Likeliest::of([1], $classes)[1])->toBeLessThan(0.9)->and(Likeliest::of([9], $classes))->toBeNull()->and(Likeliest::of([], []))->toBeNull();
    // In whatever order the classes come.
    expect(Likeliest::of([1, 2], array_reverse($classes)))->toBe(Likeliest::of([1, 2], $classes));
});

it('counts votes by weight, and knows what chance would say', function () {
    $vote = Vote::among([[1.0, ['a'], 1], [1.0, ['b', 'c'], 2], [2.0, ['b', 'c'], 3]]);
    expect($vote?->values)->toBe(['b', 'c'])->and($vote->share)->toBe(0.75)->and($vote->from)->toBe([2, 3])->and(Vote::among([]))->toBeNull();
    expect($vote->isChance(0.9))->toBeTrue()->and($vote->isChance(0.1))->toBeFalse();
});

it('learns nothing from signs that no pattern can have, and reads texts up to a limit', function () {
    $field = new FieldDefinition('vessel', 'Vessel', new TextKind);
    $examples = array_map(
        static fn (int $i, string $vessel): Example => new Example($i, [1 => new TextPage(0, 0, "The ship\0#~ {$vessel}\x01 lies there. ".str_repeat('word ', 40_000))], ['vessel' => [$vessel]]),
        [0, 1],
        ['Juniper', 'Sorrel'],
    );
    expect(strlen($examples[0]->pages[1]->text))->toBe(30_000);
    expect((new PlaceLearner($examples))->learn($field)?->found($field, [1 => new TextPage(0, 0, "The ship\0#~ Nettle\x01 lies there.")])?->value)->toBeNull();
});

it('reads identifiers only with their check character, also where it learned', function () {
    $field = new FieldDefinition('permit', 'Permit', new IdentifierKind, pattern: 'AA-9999-?');
    $sound = static fn (string $stem): string => $stem.Brenvic\Core\Fields\CheckCharacter::for($stem);
    $examples = array_map(
        static fn (string $stem): Example => new Example(1, [1 => new TextPage(0, 0, 'Plate '.$sound($stem).' seen')], ['permit' => [$sound($stem)]]),
        ['LK-0407-', 'LK-0414-'],
    );
    $learned = (new PlaceLearner($examples))->learn($field);
    expect($learned?->found($field, [1 => new TextPage(0, 0, 'Plate '.$sound('BR-0589-').' seen')])?->value)->toBe($sound('BR-0589-'));
    $wrong = str_replace('0589', '0598', $sound('BR-0589-'));
    expect($learned->found($field, [1 => new TextPage(0, 0, "Plate {$wrong} seen")]))->toBeNull();
});
