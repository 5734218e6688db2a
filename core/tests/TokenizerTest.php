<?php

declare(strict_types=1);

use Brenvic\Core\Capture\PlainPages;
use Brenvic\Core\Capture\TextPage;
use Brenvic\Core\Index\IndexedDocument;
use Brenvic\Core\Index\IndexReader;
use Brenvic\Core\Index\IndexWriter;
use Brenvic\Core\Index\MemoryStore;
use Brenvic\Core\Index\Part;
use Brenvic\Core\Index\Tokenizer;
use Brenvic\Core\Pages\HitFinder;
use Brenvic\Core\Query\Ledger;
use Brenvic\Core\Query\Parser;
use Brenvic\Core\Query\PlainQuery;
use Brenvic\Core\Redaction\Sought;
use Brenvic\Core\Search\Answer\Evaluator;
use Brenvic\Core\Search\Asking\SearchSchema;

/** Finds the texts that a query finds, by number from 1. */
function findIn(array $texts, string $cql): array
{
    $store = new MemoryStore();
    $writer = new IndexWriter($store);
    foreach ($texts as $i => $text) {
        $writer->put([new IndexedDocument($i + 1, [Part::Text->value => [$text]], [], [])]);
    }
    $writer->flush();
    $reader = new IndexReader($store);

    return (new Evaluator($reader, new SearchSchema([]), $reader->all()))->evaluate(Parser::parse($cql)->root)->documents();
}

it('folds what is decoration and keeps what makes another letter', function (string $text, array $words) {
    expect(Tokenizer::words($text))->toBe($words)->and(array_map(Tokenizer::fold(...), $words))->toBe($words);
})->with([
    ["Café ÉCOLE Straße ﬁne \u{1E9B}\u{323}", ['cafe', 'ecole', 'strasse', 'fine', 's']],
    ["keeper’s O'Brien", ['keeper', 'obrien']],
    ["co\u{AD}operate zero\u{200D}width a\u{AD} b", ['cooperate', 'zerowidth', 'a', 'b']],
    // A vowel sign is no decoration: क and कि, कु are three syllables.
    ['क कि कु हिन्दी', ['क', 'कि', 'कु', 'हिन्दी']],
    ['தமிழ் বাংলা', ['தமிழ்', 'বাংলা']],
    ['한국어', ['한국어']],
    ['שָׁלוֹם مَرْحَبًا', ['שלום', 'مرحبا']],
    ['運河管理 JR東日本', ['運河', '河管', '管理', '理', 'jr', '東日', '日本', '本']],
    ["ガイド \u{FF76}\u{FF9E}ｲﾄﾞ", ['ガイ', 'イド', 'ド', 'ガイ', 'イド', 'ド']],
    ['', []],
]);

it('loses no sign of a word, however long', function () {
    seeded(8);
    foreach (['a', 'é', 'क', '運'] as $sign) {
        $text = str_repeat($sign, 500).'end';
        $words = Tokenizer::words($text);
        expect(max(array_map(strlen(...), $words)))->toBeLessThanOrEqual(64)->and(array_column(Tokenizer::located($text), 0))->toBe($words);
    }
    $long = implode('', array_map(static fn (): string => chr(mt_rand(97, 122)), range(1, 300)));
    expect(implode('', Tokenizer::words($long)))
        ->toBe($long)
        ->and(findIn([$long, substr($long, 0, 299).'!', "x {$long} y"], "text = {$long}"))
        ->toBe([1, 3]);
});

it('says where the words stand that it cuts', function () {
    seeded(4);
    $pieces = ['gate', 'é', '運河', 'カ', ' ', "\n", "'s", '’', 'क्ष', "\u{AD}", '-', 'ไทย', '9', "\xFF"];
    for ($i = 0; $i < 800; $i++) {
        $text = mb_scrub(implode('', array_map(static fn (): string => $pieces[mt_rand(0, count($pieces) - 1)], range(1, mt_rand(1, 9)))));
        $located = Tokenizer::located($text);
        expect(array_column($located, 0))->toBe(Tokenizer::words($text), $text);
        foreach ($located as [$word, $offset, $length]) {
            expect(mb_check_encoding(substr($text, $offset, $length), 'UTF-8'))
                ->toBeTrue()
                ->and(Tokenizer::fold(substr($text, $offset, $length)))
                ->toBe($word);
        }
    }
});

it('finds every run of a text without blanks, and no other', function () {
    seeded(9);
    $signs = ['運', '河', '管', '理', '局', 'の', 'カ'];
    for ($round = 0; $round < 60; $round++) {
        $texts = array_map(
            static fn (): string => implode('', array_map(static fn (): string => $signs[mt_rand(0, 6)], range(1, mt_rand(1, 9)))),
            range(1, 6),
        );
        $sought = mb_substr($texts[mt_rand(0, 5)], mt_rand(0, 2), mt_rand(1, 4));
        if ($sought === '') {
            continue;
        }
        $wanted = array_keys(
            array_filter([null, ...$texts], static fn (?string $text): bool => $text !== null && str_contains($text, $sought)),
        );
        expect(findIn($texts, "text = {$sought}"))
            ->toBe($wanted, $sought)
            ->and(findIn($texts, "text = \"^{$sought}\""))
            ->toBe(array_values(array_filter($wanted, static fn (int $n): bool => str_starts_with($texts[$n - 1], $sought))))
            ->and(findIn($texts, "text == {$sought}"))
            ->toBe(array_values(array_filter($wanted, static fn (int $n): bool => $texts[$n - 1] === $sought)))
            ->and(findIn($texts, "text = \"{$sought}^\""))
            ->toBe(array_values(array_filter($wanted, static fn (int $n): bool => str_ends_with($texts[$n - 1], $sought))));
        foreach ($texts as $text) {
            $pieces = HitFinder::forText(Ledger::of(PlainQuery::parse($sought)->root))->pieces($text);
            expect(implode('', array_column($pieces, 0)))
                ->toBe($text)
                ->and(in_array(true, array_column($pieces, 1), true))
                ->toBe(str_contains($text, $sought));
        }
    }
});

it('finds what is to be removed from a text without blanks, over the ends of lines too', function () {
    $places = static fn (string $typed, string $text): array => array_map(
        static fn ($hit): string => substr($text, $hit->offset, $hit->length),
        Sought::words($typed)?->in($text) ?? [],
    );
    expect($places('山田', "山田太郎と山\n田花子"))
        ->toBe(['山田', "山\n田"])
        ->and($places('山?太', '山田太郎'))
        ->toBe(['山田太'])
        ->and($places('木村', '山田太郎'))
        ->toBe([]);
});

it('cuts a text into pieces that are the text again', function () {
    seeded(10);
    for ($i = 0; $i < 60; $i++) {
        $text = '';
        while (strlen($text) < mt_rand(10, 30_000)) {
            $text .= [str_repeat('x', mt_rand(1, 4_000)), 'é運', ' ', "\n", "\n\n", 'word.'][mt_rand(0, 5)];
        }
        $pages = PlainPages::of("start {$text}");
        expect(PlainPages::joined(array_map(static fn (TextPage $page): array => [$page->text, true], $pages)))->toBe("start {$text}");
        foreach ($pages as $page) {
            expect(strlen($page->text))->toBeLessThanOrEqual(6_000)->and(mb_check_encoding($page->text, 'UTF-8'))->toBeTrue();
        }
    }
    expect(array_column(PlainPages::of("one\ftwo"), 'text'))->toBe(["one\n\n", 'two']);
});
