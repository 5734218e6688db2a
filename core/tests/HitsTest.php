<?php

declare(strict_types=1);

use Brenvic\Core\Capture\TextPage;
use Brenvic\Core\Capture\WordBox;
use Brenvic\Core\Fields\FieldDefinition;
use Brenvic\Core\Fields\Kinds\TextKind;
use Brenvic\Core\Index\Part;
use Brenvic\Core\Pages\Hit;
use Brenvic\Core\Pages\HitFinder;
use Brenvic\Core\Pages\Snippet;
use Brenvic\Core\Query\Ledger;
use Brenvic\Core\Query\LedgerLine;
use Brenvic\Core\Query\Parser;
use Brenvic\Core\Query\PlainQuery;

function finderOf(string $words): HitFinder
{
    return HitFinder::forText(Ledger::of(PlainQuery::parse($words)->root));
}

/** @return string the text with its hits in brackets */
function marked(HitFinder $finder, string $text): string
{
    return implode('', array_map(static fn (array $p): string => $p[1] ? "[{$p[0]}]" : $p[0], $finder->pieces($text)));
}

/**
 * The places of words and phrases by looking at every word: the longest phrase at each place, none within another.
 *
 * @param  list<list<string>>  $sought
 * @return list<array{int, int}> offset and length
 */
function placesOf(string $text, array $sought): array
{
    preg_match_all('/[a-z0-9]+/i', $text, $m, PREG_OFFSET_CAPTURE);
    $words = $m[0];
    $places = [];
    for ($i = 0; $i < count($words); $i++) {
        $longest = 0;
        foreach ($sought as $phrase) {
            $here = array_map(static fn (array $w): string => strtolower($w[0]), array_slice($words, $i, count($phrase)));
            $longest = $here === $phrase ? max($longest, count($phrase)) : $longest;
        }
        if ($longest > 0) {
            $last = $words[$i + $longest - 1];
            $places[] = [$words[$i][1], $last[1] + strlen($last[0]) - $words[$i][1]];
            $i += $longest - 1;
        }
    }

    return $places;
}

it('finds in a text what a look at every word finds', function () {
    seeded(91);
    $vocabulary = ['gate', 'lock', 'sill', 'weir', 'silt', 'paddle', 'gates'];
    for ($round = 0; $round < 400; $round++) {
        $text = '';
        for ($n = mt_rand(1, 60); $n > 0; $n--) {
            $word = $vocabulary[mt_rand(0, 6)];
            $text .= (mt_rand(0, 3) === 0 ? ucfirst($word) : $word).[' ', ', ', ". \n", '; ', "\n\n"][mt_rand(0, 4)];
        }
        $sought = [];
        for ($n = mt_rand(1, 3); $n > 0; $n--) {
            $sought[] = array_map(static fn (): string => $vocabulary[mt_rand(0, 6)], range(1, mt_rand(1, 3)));
        }
        $finder = finderOf(implode(' ', array_map(static fn (array $phrase): string => '"'.implode(' ', $phrase).'"', $sought)));
        $hits = array_map(static fn (Hit $hit): array => [$hit->offset, $hit->length], $finder->hits($text));
        expect($hits)
            ->toBe(placesOf($text, $sought))
            ->and(implode('', array_column($finder->pieces($text), 0)))
            ->toBe($text)
            ->and(array_slice($hits, 0, 2))
            ->toBe(array_map(static fn (Hit $hit): array => [$hit->offset, $hit->length], $finder->hits($text, 2)));
    }
});

it('marks what was asked for, in words as they stand', function (string $words, string $text, string $marked) {
    expect(marked(finderOf($words), $text))->toBe($marked);
})->with([
    'case' => ['GATE', 'The gate, the Gate', 'The [gate], the [Gate]'],
    'accents' => ['ecluse', 'une écluse', 'une [écluse]'],
    'a phrase over a comma' => ['"lock gate"', 'a lock, gate and a gate', 'a [lock, gate] and a gate'],
    'a mask' => ['gat*', 'gates and navigation', '[gates] and navigation'],
    'any letters within' => ['*vig*', 'gates and navigation', 'gates and [navigation]'],
    'a possessive' => ['keeper', "the keeper's house", "the [keeper's] house"],
    'a word that a line cuts' => ['navigation', "the navi-\ngation light", "the [navi-\ngation] light"],
    'a part of such a word' => ['navi', "the navi-\ngation light", "the [navi]-\ngation light"],
    'signs without blanks' => ['東京', '首都東京港', '首都[東京]港'],
    'what must not be there' => ['gate -lock', 'gate and lock', '[gate] and lock'],
    'nothing' => ['barge', 'gate and lock', 'gate and lock'],
    'an empty text' => ['gate', '', ''],
]);

it('marks of a query what stands in the text, and nothing that is switched off or left out', function (string $cql, string $marked) {
    $finder = HitFinder::forText(Ledger::of(Parser::parse($cql)->root));
    expect(marked($finder, 'gate lock sill'))->toBe($marked);
})->with([
    ['text = gate', '[gate] lock sill'],
    ['cql.anywhere = gate', '[gate] lock sill'],
    ['title = gate', 'gate lock sill'],
    ['vessel = gate', 'gate lock sill'],
    ['text any "gate sill"', '[gate] lock [sill]'],
    ['text all "gate sill"', '[gate] lock [sill]'],
    ['text = "gate lock"', '[gate lock] sill'],
    ['text = gate or text = sill', '[gate] lock [sill]'],
    ['text = gate not text = sill', '[gate] lock sill'],
    ['text <> gate', 'gate lock sill'],
    ['>t="info:srw/cql-context-set/1/cql-v1.1" text = gate', '[gate] lock sill'],
    ['text = gate prox/distance<3 text = sill', '[gate] lock [sill]'],
    ['text =/stem gates', '[gate] lock sill'],
    ['text =/fuzzy gute', '[gate] lock sill'],
    ['text =/phonetic gait', '[gate] lock sill'],
]);

it('marks no line that is switched off or must not hold', function () {
    $gate = Parser::parse('text = gate')->root;
    $sill = Parser::parse('text = sill')->root;
    $ledger = new Ledger([new LedgerLine($gate, false, false), new LedgerLine($gate, true), new LedgerLine($sill)]);
    expect(marked(HitFinder::forText($ledger), 'gate lock sill'))
        ->toBe('gate lock [sill]')
        ->and(HitFinder::forText(new Ledger([new LedgerLine($gate, true)]))->findsNothing())
        ->toBeTrue();
});

it('marks in other parts what is looked for there or everywhere', function () {
    $ledger = Ledger::of(Parser::parse('gate and title = lock and values = sill')->root);
    $everywhere = [Part::Names, Part::Text];
    expect(marked(HitFinder::forPart($ledger, Part::Names, $everywhere), 'gate lock sill'))
        ->toBe('[gate] [lock] sill')
        ->and(marked(HitFinder::forPart($ledger, Part::Paths, $everywhere), 'gate lock sill'))
        ->toBe('gate lock sill')
        ->and(marked(HitFinder::forPart($ledger, Part::Names, []), 'gate lock sill'))
        ->toBe('gate [lock] sill');
    $field = new FieldDefinition('vessel', 'Vessel', new TextKind, dublinCore: 'subject');
    $of = Ledger::of(Parser::parse('vessel = gate and dc.subject = lock and values = sill and vessel == weir')->root);
    expect(marked(HitFinder::forField($of, $field, []), 'gate lock sill weir'))->toBe('[gate] [lock] [sill] weir');
});

it('has for each hit the boxes of the words it touches', function () {
    $text = 'the lock gate leaks';
    $box = static fn (string $word): WordBox => new WordBox((int) strpos($text, $word), strlen($word), 1.0, 2.0, 3.0, 4.0);
    $page = new TextPage(100, 100, $text, array_map($box, ['the', 'lock', 'gate', 'leaks']));
    $words = static fn (string $sought): array => array_map(
        static fn (array $hit): array => array_map(static fn (WordBox $b): string => substr($text, $b->offset, $b->length), $hit),
        finderOf($sought)->boxes($page),
    );
    expect($words('"lock gate"'))
        ->toBe([['lock', 'gate']])
        ->and($words('the leaks'))
        ->toBe([['the'], ['leaks']])
        ->and($words('barge'))
        ->toBe([])
        // A page without boxes, as texts have them.
        ->and(finderOf('gate')->boxes(new TextPage(0, 0, $text)))
        ->toBe([[]]);
});

it('shows a few words around the first hit, cut between words', function () {
    seeded(92);
    for ($round = 0; $round < 200; $round++) {
        $words = array_map(static fn (): string => ['sill', 'écluse', 'paddle', 'weir', "\n", '東京'][mt_rand(0, 5)], range(1, mt_rand(1, 300)));
        $at = mt_rand(0, count($words) - 1);
        $words[$at] = 'gate';
        $text = implode(' ', $words);
        $snippet = Snippet::of($text, finderOf('gate'));
        $marks = array_values(array_filter($snippet->pieces ?? [], static fn (array $piece): bool => $piece[1]));
        expect($marks[0][0] ?? null)
            ->toBe('gate')
            ->and(mb_check_encoding($snippet?->text() ?? '', 'UTF-8'))
            ->toBeTrue()
            ->and(strlen($snippet?->text() ?? ''))
            ->toBeLessThanOrEqual(330);
        // Whole words of the text, in its order.
        expect(str_contains(preg_replace('/\s+/', ' ', $text) ?? '', preg_replace('/\s+/', ' ', $snippet?->text() ?? '') ?? '-'))->toBeTrue();
    }
    expect(Snippet::of('gate', finderOf('lock')))
        ->toBeNull()
        ->and(Snippet::of('', finderOf('lock')))
        ->toBeNull()
        ->and(Snippet::of(str_repeat('weir ', 5000).'the keeper’s lock', finderOf('lock'))?->text())
        ->toEndWith('lock')
        // What only looks like a hit at first is passed over.
        ->and(Snippet::of('gatekeeper '.str_repeat('weir ', 400).'the gate', finderOf('gate'))?->text())
        ->toEndWith('the gate');
});

it('goes on to later snippets, and knows those that are the same elsewhere', function () {
    $page = static fn (int $n): string => "Tarnwick Trust Gate office, page {$n}. ".
        str_repeat('The chamber was drained. ', 12).
        "The lower gate {$n} leaks at the mitre.";
    $finder = finderOf('gate');
    $first = [Snippet::of($page(1), $finder), Snippet::of($page(27), $finder)];
    expect($first[0]?->around())->toBe($first[1]?->around());
    $second = array_map(fn (?Snippet $s, int $n): ?Snippet => Snippet::of($page($n), $finder, $s->after ?? 0), $first, [1, 27]);
    expect($second[0]?->text())
        ->toContain('The lower gate 1 leaks')
        ->and($second[0]?->around())
        ->not->toBe($first[0]?->around())
        ->and(Snippet::of($page(1), $finder, $second[0]->after))
        ->toBeNull();
});
