<?php

declare(strict_types=1);

use Brenvic\Core\Index\Bits;
use Brenvic\Core\Index\Breaks;
use Brenvic\Core\Index\DocumentSet;
use Brenvic\Core\Index\ForwardRecord;
use Brenvic\Core\Index\IndexedDocument;
use Brenvic\Core\Index\IndexStore;
use Brenvic\Core\Index\IndexWriter;
use Brenvic\Core\Index\Keys;
use Brenvic\Core\Index\MemoryStore;
use Brenvic\Core\Index\NameCode;
use Brenvic\Core\Index\Part;
use Brenvic\Core\Index\Posting;
use Brenvic\Core\Index\Sentences;
use Brenvic\Core\Index\Stream;

require_once __DIR__.'/Support/slices.php';

/** @return list<int> some document numbers in three segments, ascending */
function someDocuments(): array
{
    $documents = [];
    for ($n = mt_rand(0, 80); $n > 0; $n--) {
        $documents[] = mt_rand(0, 2) * 65_536 + mt_rand(0, 300);
    }
    $documents = array_unique($documents);
    sort($documents);

    return $documents;
}

it('does with sets of documents what lists do', function () {
    seeded(11);
    for ($i = 0; $i < 200; $i++) {
        [$a, $b] = [someDocuments(), someDocuments()];
        [$x, $y] = [DocumentSet::of($a), DocumentSet::of($b)];
        $union = array_values(array_unique([...$a, ...$b]));
        sort($union);
        expect($x->and($y)->documents())
            ->toBe(array_values(array_intersect($a, $b)))
            ->and($x->or($y)->documents())
            ->toBe($union)
            ->and($x->minus($y)->documents())
            ->toBe(array_values(array_diff($a, $b)))
            ->and($x->count())
            ->toBe(count($a))
            ->and($x->isEmpty())
            ->toBe($a === [])
            ->and($x->newest(3, 10))
            ->toBe(array_slice(array_reverse($a), 3, 10))
            ->and($x->oldest(3, 10))
            ->toBe(array_slice($a, 3, 10));
        foreach ([0, 5, 65_540] as $document) {
            expect($x->has($document))->toBe(in_array($document, $a, true));
        }
    }
});

it('compares, adds and ranks numbers in slices as one by one', function () {
    seeded(12);
    for ($i = 0; $i < 60; $i++) {
        $numbers = [];
        foreach (someDocuments() as $document) {
            $numbers[$document] = mt_rand(0, mt_rand(0, 1) === 0 ? 7 : 1_000);
        }
        $slices = slicesOf($numbers);
        [$low, $high] = [mt_rand(-1, 900), mt_rand(0, 1_000)];
        expect($slices->between($low, $high)->documents())->toBe(
            array_keys(array_filter($numbers, static fn (int $n): bool => $n >= $low && $n <= $high)),
        );
        $more = array_map(static fn (): int => mt_rand(0, 15), $numbers);
        $sum = $slices->plus(slicesOf($more), 5);
        foreach ($numbers as $document => $number) {
            expect($sum->value($document))->toBe($number + 5 * $more[$document]);
        }
        if ($numbers !== []) {
            $sorted = array_values($numbers);
            rsort($sorted);
            [$chosen, $before] = $slices->ranked($slices->present, 2, 4, true);
            $got = array_map(static fn (int $d): int => $numbers[$d], $chosen->documents());
            rsort($got);
            expect(array_slice($got, 2 - $before, 4))->toBe(array_slice($sorted, 2, 4));
        }
    }
});

it('keeps postings true through changes, few and many', function () {
    seeded(13);
    $stored = null;
    $naive = [];
    $usual = array_map(static fn (int $offset): int => 1 + ($offset % 7), range(0, 65_535));
    $slices = array_map(
        static fn (int $digit): string => Bits::of(
            array_keys(array_filter($usual, static fn (int $impact): bool => (($impact >> $digit) & 1) === 1)),
        ),
        range(0, Posting::DIGITS - 1),
    );
    expect(Posting::usualImpacts($slices, [0, 9, 65_535]))->toBe([0 => 1, 9 => 3, 65_535 => 2]);
    // Few with an impact of their own or many of them, in few documents or in many: each way of storing.
    foreach ([[50, 0], [100, 3], [900, 2], [5_000, 0], [200, 3], [4_000, 9], [300, 0], [9_000, 9], [70, 0]] as [$size, $own]) {
        [$set, $drop] = [[], []];
        for ($n = 0; $n < $size; $n++) {
            mt_rand(0, 3) === 0
                ? ($drop[mt_rand(0, 65_535)] = 0)
                : ($set[mt_rand(0, 65_535)] = mt_rand(1, 10) <= $own ? mt_rand(1, 15) : 0);
        }
        $drop = array_diff_key($drop, $set);
        $stored = Posting::changed($stored, $set, $drop);
        $naive = $set + array_diff_key($naive, $drop);
        ksort($naive);
        expect(Bits::offsets(Posting::bits($stored)))->toBe(array_keys($naive));
        $true = array_map(
            static fn (int $offset, int $impact): int => $impact === 0 ? $usual[$offset] : $impact,
            array_keys($naive),
            $naive,
        );
        $true = array_combine(array_keys($naive), $true);
        foreach ([1, 61, 997] as $step) {
            $wanted = array_intersect_key(
                $usual,
                array_flip(range(0, 65_535, $step)) + (count($true) < 700 ? [] : array_flip(array_rand($true, 40))),
            );
            $impacts = Posting::impacts($stored, $wanted);
            ksort($impacts);
            expect($impacts)->toBe(array_intersect_key($true, $wanted));
        }
        $sliced = Posting::impactSlices($stored, Posting::bits($stored), $slices);
        foreach (array_rand($true, min(40, count($true))) as $offset) {
            expect(
                array_sum(array_map(static fn (string $bits, int $digit): int => Bits::has($bits, $offset) << $digit, $sliced, range(0, 3))),
            )->toBe($true[$offset]);
        }
        $within = Bits::of(range(0, 65_535, 3));
        expect(Posting::countIn([$stored], $within))->toBe(
            count(array_filter(array_keys($naive), static fn (int $o): bool => $o % 3 === 0)),
        );
    }
    expect(Posting::changed($stored, [], $naive))->toBeNull();
});

it('adds to the end of a posting as if it had been written whole', function () {
    seeded(16);
    foreach ([40, 400, 3_000, 9_000] as $size) {
        $offsets = array_rand(array_fill(0, 65_536, 0), $size);
        $impacts = array_map(static fn (): int => mt_rand(0, 9) === 0 ? mt_rand(1, 15) : 0, $offsets);
        $stored = null;
        for ($at = 0; $at < $size; $at += $more) {
            $more = mt_rand(1, (int) ($size / 5));
            $packed = pack('v*', ...array_slice($offsets, $at, $more));
            $digits = implode('', array_map(dechex(...), array_slice($impacts, $at, $more)));
            $stored = Posting::appended($stored, $packed, $digits) ?? Posting::changed($stored, Posting::read($packed, $digits), []);
        }
        expect($stored)
            ->toBe(Posting::changed(null, array_combine($offsets, $impacts), []))
            ->and(Posting::appended($stored, pack('v', $offsets[$size - 1]), '0'))
            ->toBeNull();
    }
    // A high byte that is full cannot be split by.
    $stored = Posting::changed(null, array_fill_keys(range(0, 700), 0), []);
    expect(Bits::offsets(Posting::bits($stored)))->toBe(range(0, 700))->and(Posting::countFew($stored))->toBe(701);
    $stored = Posting::changed(null, array_fill_keys(range(0, 65_500, 100), 0), []);
    expect(Posting::bits(Posting::appended($stored, pack('v*', ...range(65_501, 65_535)), str_repeat('0', 35))))->toBe(
        Bits::of([...range(0, 65_500, 100), ...range(65_501, 65_535)]),
    );
});

it('gives records and breaks back as they were', function () {
    $wide = Stream::of([70_000, 3, 0, 3], Breaks::encode([[3, 300], [2]]));
    $record = new ForwardRecord(
        [1 => $wide, 12 => Stream::of([9, 65_535], '')],
        [4 => [1, 300], 5 => []],
        [
            6 => [0, 10 ** 16 - 7],
            7 => [10 ** 16 - 7, 10 ** 16, 10 ** 16 + 123_4567],
            9 => [735_000],
            300 => [10 ** 16 - 1],
            301 => [2 ** 62, PHP_INT_MAX],
            302 => [],
        ],
        [4],
    );
    expect(ForwardRecord::decode($record->encode()))
        ->toEqual($record)
        ->and(ForwardRecord::parts($record->encode(), [12 => true]))
        ->toEqual([new Stream("\0\x09\xFF\xFF", '', 2)])
        ->and(ForwardRecord::parts($record->encode(), [2 => true]))
        ->toBe([])
        ->and($wide->counts())
        ->toBe([70_000 => 1, 3 => 2])
        ->and($wide->positions(Stream::word(3, 3)))
        ->toBe([1, 3])
        ->and($wide->texts())
        ->toBe([0, 3])
        ->and(Breaks::starts($wide->breaks))
        ->toBe([[0, 3, 303], [0, 303]]);
});

it('cuts text into sentences and paragraphs', function (string $text, array $paragraphs) {
    expect(Sentences::of($text))->toBe($paragraphs);
})->with([
    ['Gate shut. Water rose!', [['Gate shut.', 'Water rose!']]],
    ["One line\nand the next.\n\nAnother paragraph", [["One line\nand the next."], ['Another paragraph']]],
    ['Mr. Bracken saw Lock No. 12. It leaked.', [['Mr. Bracken saw Lock No. 12.', 'It leaked.']]],
    ['J. Thorn measured 0.75 m, i.e. Too much.', [['J. Thorn measured 0.75 m, i.e. Too much.']]],
    ['1. First point. It is short', [['1. First point.', 'It is short']]],
    ['“Is it safe?” She said no. Édith agreed', [['“Is it safe?', 'She said no.', 'Édith agreed']]],
    ['', []],
]);

it('sorts names by their codes as by themselves', function () {
    seeded(14);
    $names = [];
    for ($i = 0; $i < 300; $i++) {
        $name = '';
        for ($n = mt_rand(0, 34); $n > 0; $n--) {
            $name .= 'aAbz09é –-x'[mt_rand(0, 4)];
        }
        $names[] = $name;
    }
    usort(
        $names,
        static fn (string $a, string $b): int => array_values(NameCode::of('t', $a)) <=> array_values(NameCode::of('t', $b)) ?:
        strcmp(NameCode::folded($a), NameCode::folded($b)),
    );
    $folded = array_map(NameCode::folded(...), $names);
    $sorted = $folded;
    sort($sorted, SORT_STRING);
    expect($folded)->toBe($sorted);
});

it('tells from a record whether words stand in a row, as its streams do', function () {
    seeded(26);
    for ($i = 0; $i < 600; $i++) {
        $streams = [];
        foreach ([1, 2, 7, 200] as $part) {
            if (mt_rand(0, 3) > 0) {
                // Numbers whose bytes are alike, so that a look at the wrong place would find something.
                $numbers = array_map(
                    static fn (): int => [1, 256, 257, 0x0101, 0, 65_537, 70_000][mt_rand(0, mt_rand(0, 1) === 0 ? 4 : 6)],
                    range(1, mt_rand(1, 12)),
                );
                $streams[$part] = Stream::of($numbers, mt_rand(0, 1) === 0 ? '' : Breaks::encode([[count($numbers)]]));
            }
        }
        $record = new ForwardRecord($streams, [4 => [1, 257]], [6 => [10 ** 16]], [4]);
        $row = array_map(static fn (): int => [1, 256, 257, 65_537][mt_rand(0, 3)], range(1, mt_rand(1, 3)));
        $needles = [];
        foreach ([2, 3] as $width) {
            $written = array_map(static fn (int $word): ?string => Stream::word($word, $width), $row);
            if (! in_array(null, $written, true)) {
                $needles[$width] = implode('', $written);
            }
        }
        $wanted = array_flip(array_rand(array_flip([1, 2, 7, 200]), mt_rand(2, 4)));
        $expected =
            array_filter(
                array_intersect_key($streams, $wanted),
                static fn (Stream $stream): bool => isset($needles[$stream->width]) &&
                    $stream->positions($needles[$stream->width], 1) !== [],
            ) !== [];
        expect(ForwardRecord::holds($record->encode(), $wanted, $needles))->toBe($expected);
    }
});

it('knows no word or value that no document says any more', function () {
    seeded(31);
    $store = new MemoryStore;
    $all = [];
    for ($round = 0; $round < 60; $round++) {
        $writer = new IndexWriter($store);
        $put = [];
        foreach (array_unique([mt_rand(1, 30), mt_rand(1, 30), 65_536 + mt_rand(1, 30)]) as $number) {
            if (mt_rand(0, 3) === 0) {
                $writer->remove($number);
                unset($all[$number]);

                continue;
            }
            $words = array_map(static fn (): string => 'w'.mt_rand(1, 60).'en', range(1, mt_rand(1, 6)));
            $values = array_map(static fn (): string => 'v'.mt_rand(1, 20), range(1, mt_rand(1, 3)));
            $parts = [mt_rand(0, 1) === 0 ? Part::Text->value : Part::Names->value => [implode(' ', $words)]];
            $put[] = new IndexedDocument($number, $parts, ['kind' => array_unique($values)], [], ['kind'], mt_rand(0, 1) === 0 ? 'de' : '');
            $all[$number] = [$words, $values];
        }
        $writer->put($put);
        $writer->flush();
        $known = static fn (string $space): array => array_values(
            array_filter($store->terms($space), static fn (string $term): bool => ! str_starts_with($term, IndexStore::FORGOTTEN)),
        );
        $said = static fn (int $which): array => array_values(array_unique(array_merge([], ...array_column($all, $which))));
        expect($known(Keys::WORDS))->toEqualCanonicalizing($said(0))
            ->and($known(Keys::values('kind')))->toEqualCanonicalizing($said(1));
        foreach ([Keys::STEMS, Keys::SOUNDS, Keys::stems('de')] as $space) {
            foreach ($known($space) as $term) {
                expect($said(0))->toContain(substr((string) strrchr($term, ' '), 1));
            }
        }
    }
});

it('gives documents other values in some fields as if they had been put anew', function () {
    seeded(32);
    $document = static fn (int $number, ?string $due, ?int $on, string $text): IndexedDocument => new IndexedDocument(
        $number,
        [Part::Text->value => [$text]],
        ['library' => ['a'], ...$due === null ? [] : ['rule' => [$due]]],
        ['day' => [$number], ...$on === null ? [] : ['due' => [$on]]],
        ['library', 'rule'],
    );
    foreach (range(1, 20) as $_) {
        [$beside, $anew] = [new MemoryStore, new MemoryStore];
        $made = static fn (): array => [mt_rand(0, 2) === 0 ? null : 'r'.mt_rand(1, 3), mt_rand(0, 2) === 0 ? null : mt_rand(1, 900)];
        foreach ([$beside, $anew] as $store) {
            $writer = new IndexWriter($store);
            mt_srand(5);
            $writer->put(array_map(static fn (int $n): IndexedDocument => $document($n, ...[...$made(), "text {$n}"]), range(1, 40)));
            $writer->flush();
        }
        $changes = $puts = [];
        foreach (range(1, 40, 3) as $number) {
            [$rule, $due] = $made();
            $changes[$number] = ['values' => $rule === null ? [] : ['rule' => [$rule]], 'ordinals' => $due === null ? [] : ['due' => [$due]]];
            $puts[] = $document($number, $rule, $due, "text {$number}");
        }
        $writer = new IndexWriter($beside);
        $writer->putValues(['rule', 'due'], $changes, ['rule']);
        $writer->flush();
        $writer = new IndexWriter($anew);
        $writer->put($puts);
        $writer->flush();
        expect($beside->records(range(1, 40)))->toBe($anew->records(range(1, 40)));
        foreach ($anew->keys() as $key) {
            expect($beside->blobs($key))->toBe($anew->blobs($key));
        }
    }
});

it('says how many documents come before those that are older than one', function () {
    mt_srand(17);
    for ($round = 0; $round < 50; $round++) {
        $documents = array_map(static fn (): int => mt_rand(1, 200_000), range(1, mt_rand(1, 300)));
        $set = DocumentSet::of($documents);
        $asked = mt_rand(0, 1) === 1 ? $documents[array_rand($documents)] : mt_rand(0, 210_000);
        $unique = array_unique($documents);
        expect($set->upTo($asked))->toBe(count(array_filter($unique, static fn (int $of): bool => $of >= $asked)));
        rsort($unique);
        $older = array_values(array_filter($unique, static fn (int $of): bool => $of < $asked));
        expect($set->newest($set->upTo($asked), 10))->toBe(array_slice($older, 0, 10));
    }
});
