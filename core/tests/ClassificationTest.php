<?php

declare(strict_types=1);

use Brenvic\Core\Classification\LikelyDoubles;
use Brenvic\Core\Classification\NTriples;
use Brenvic\Core\Classification\Skos;
use Brenvic\Core\Classification\TermsTable;
use Brenvic\Core\Classification\Triple;
use Brenvic\Core\Design\TermMove;
use Brenvic\Core\Design\Terms;
use Brenvic\Core\Fields\InvalidDefinition;
use Brenvic\Core\Fields\VocabularyTerm;

/** @return list<array<string, mixed>> a tree of random terms with all there is to say of them */
function randomTerms(int $count): array
{
    $terms = [];
    for ($i = 0; $i < $count; $i++) {
        $terms[] = [
            'code' => "c{$i}",
            'label' => "Concept “{$i}” \\ é\n",
            'parent' => $i === 0 || mt_rand(0, 3) === 0 ? null : 'c'.mt_rand(0, $i - 1),
            'also_below' => [],
            'synonyms' => mt_rand(0, 1) === 0 ? [] : ["other {$i}", "Namen {$i}"],
            'notation' => mt_rand(0, 1) === 0 ? '' : "N.{$i}",
            'note' => mt_rand(0, 2) === 0 ? "A note\nof two lines" : '',
            'labels' => mt_rand(0, 2) === 0 ? ['cy' => "Cysyniad {$i}"] : [],
            'related' => $i > 1 && mt_rand(0, 2) === 0 ? ['c0'] : [],
            'matches' => mt_rand(0, 3) === 0 ? ["https://other.example/{$i}"] : [],
            'retention' => match (mt_rand(0, 5)) {
                0 => ['after' => 'document_date', 'years' => mt_rand(0, 30), 'action' => 'review'],
                1 => [
                    'after' => 'dossier_closed',
                    'of' => 'works',
                    'years' => mt_rand(0, 30),
                    'months' => mt_rand(0, 11),
                    'action' => 'hand_over',
                    'authority' => 'An act, §'.mt_rand(1, 9),
                    'lifted_by' => ['field' => 'dispute', 'values' => ['“yes”']],
                ],
                default => null,
            },
            'retired' => $i > 2 && mt_rand(0, 5) === 0,
            'replaced_by' => null,
        ];
        if ($terms[$i]['parent'] !== null && $i > 2 && mt_rand(0, 3) === 0) {
            $terms[$i]['also_below'] = array_values(
                array_diff(array_unique(['c'.mt_rand(0, $i - 1), 'c'.mt_rand(0, $i - 1)]), [$terms[$i]['parent']]),
            );
        }
        if ($terms[$i]['retired'] && ! $terms[0]['retired']) {
            $terms[$i]['replaced_by'] = 'c0';
        }
    }

    return array_map(static fn (array $t): array => [...$t, 'label' => trim($t['label'])], $terms);
}

it('writes SKOS and reads the same scheme back, into nothing and into itself', function () {
    seeded(4);
    for ($i = 0; $i < 60; $i++) {
        $scheme = [
            'name' => 'Functions',
            'scheme' => true,
            'base' => mt_rand(0, 1) === 0 ? 'https://trust.example/f/' : '',
            'terms' => randomTerms(mt_rand(1, 25)),
        ];
        $triples = NTriples::read(NTriples::write(Skos::triples('functions', $scheme)));
        expect($triples)->toEqual(Skos::triples('functions', $scheme));
        $again = Skos::read($triples, 'functions', $scheme);
        expect([$again->added, $again->changed, $again->lost, $again->faults])->toBe([[], [], [], []]);
        $new = Skos::read($triples, 'functions', null);
        $byCode = static fn (array $terms): array => (new Terms($terms))->byCode;
        // Which of several parents comes first is nothing that SKOS can say.
        $alike = static fn (array $terms): array => array_map(static function (array $t): array {
            $parents = array_filter([$t['parent'], ...$t['also_below']]);
            sort($parents);

            return array_diff_key($t, ['parent' => 0, 'also_below' => 0]) + ['parents' => $parents];
        }, $terms);
        $kept = $alike($byCode($new->vocabulary['terms']));
        ksort($kept);
        $was = $alike($byCode($scheme['terms']));
        ksort($was);
        expect($new->faults)
            ->toBe([])
            ->and(array_map(static fn (array $t): array => array_filter($t), $kept))
            ->toEqual(array_map(static fn (array $t): array => array_filter($t), $was))
            ->and($new->vocabulary['name'])
            ->toBe('Functions');
    }
});

it('previews what a file adds, changes and leaves out', function () {
    $scheme = [
        'name' => 'F',
        'scheme' => true,
        'base' => 'https://t.example/',
        'terms' => [['code' => 'a', 'label' => 'A'], ['code' => 'b', 'label' => 'B', 'parent' => 'a'], ['code' => 'c', 'label' => 'C']],
    ];
    $other = [...$scheme, 'terms' => [['code' => 'a', 'label' => 'A'], ['code' => 'b', 'label' => 'Bee'], ['code' => 'd', 'label' => 'D']]];
    $import = Skos::read(Skos::triples('f', $other), 'f', $scheme);
    expect([$import->added, $import->changed, $import->lost])->toBe([['d'], ['b'], ['c']]);
});

it('reads schemes from elsewhere: narrower only, several languages, no types, and says what it could not keep', function () {
    $skos = 'http://www.w3.org/2004/02/skos/core#';
    $at = 'http://elsewhere.example/thes#';
    $import = Skos::read(
        [
            new Triple("{$at}top", "{$skos}topConceptOf", "{$at}s"),
            new Triple("{$at}top", "{$skos}prefLabel", 'Wasser', true, 'de'),
            new Triple("{$at}top", "{$skos}prefLabel", 'Water', true, 'en'),
            new Triple("{$at}top", "{$skos}narrower", "{$at}lock"),
            new Triple("{$at}lock", "{$skos}inScheme", "{$at}s"),
            new Triple("{$at}lock", "{$skos}altLabel", 'Sluice', true, 'en'),
            new Triple("{$at}lock", "{$skos}notation", '12', true),
            new Triple("{$at}weir", "{$skos}broader", "{$at}missing"),
            new Triple("{$at}weir", "{$skos}prefLabel", 'Weir', true),
            new Triple("{$at}weir", "{$skos}exactMatch", 'http://third.example/w'),
            new Triple("{$at}s", 'http://purl.org/dc/terms/title', 'Water things', true, 'en'),
            new Triple("{$at}s", 'http://www.w3.org/1999/02/22-rdf-syntax-ns#type', "{$skos}ConceptScheme"),
        ],
        'water',
    );
    $terms = array_column($import->vocabulary['terms'], null, 'code');
    expect($import->vocabulary['name'])
        ->toBe('Water things')
        ->and($import->vocabulary['base'])
        ->toBe($at)
        ->and($terms['top'])
        ->toMatchArray(['label' => 'Water', 'labels' => ['de' => 'Wasser'], 'parent' => null])
        ->and($terms['lock'])
        ->toMatchArray(['label' => 'lock', 'parent' => 'top', 'synonyms' => ['Sluice'], 'notation' => '12'])
        ->and($terms['weir'])
        ->toMatchArray(['parent' => null, 'matches' => ['http://third.example/w']])
        ->and(implode(' ', $import->faults))
        ->toContain('has no prefLabel')
        ->toContain('which the file does not hold');
});

it('names each fault of a tree', function (array $terms, string $fault) {
    expect(implode(' ', (new Terms($terms))->faults()))->toContain($fault);
    expect(fn () => (new Terms($terms))->ordered())->toThrow(InvalidDefinition::class);
})->with([
    'a circle' => [
        [['code' => 'a', 'label' => 'A', 'parent' => 'b'], ['code' => 'b', 'label' => 'B', 'parent' => 'a']],
        'stands below itself',
    ],
    'an orphan' => [[['code' => 'a', 'label' => 'A', 'parent' => 'x']], 'is below “x”'],
    'a notation twice' => [
        [['code' => 'a', 'label' => 'A', 'notation' => '1'], ['code' => 'b', 'label' => 'B', 'notation' => '1']],
        'have the same notation 1',
    ],
    'a label missing' => [[['code' => 'a', 'label' => ' ']], 'has no label'],
    'a code twice' => [[['code' => 'a', 'label' => 'A'], ['code' => 'a', 'label' => 'B']], 'appears twice'],
    'a loose replacement' => [[['code' => 'a', 'label' => 'A', 'retired' => true, 'replaced_by' => 'x']], 'is replaced by “x”'],
    'a retired replacement' => [
        [['code' => 'a', 'label' => 'A', 'retired' => true, 'replaced_by' => 'b'], ['code' => 'b', 'label' => 'B', 'retired' => true]],
        'which is retired itself',
    ],
    'a loose relation' => [[['code' => 'a', 'label' => 'A', 'related' => ['x']]], 'refers to “x”'],
]);

it('lists each term behind the one above it, and numbers them by their place', function () {
    seeded(7);
    for ($i = 0; $i < 40; $i++) {
        $terms = array_map(static fn (array $t): array => [...$t, 'notation' => ''], randomTerms(mt_rand(1, 30)));
        $ordered = (new Terms($terms))->ordered();
        $places = array_flip(array_map(static fn (VocabularyTerm $t): string => $t->code, $ordered));
        expect($ordered)->toHaveCount(count($terms));
        foreach ($ordered as $term) {
            $term->parent === null || expect($places[$term->parent])->toBeLessThan($places[$term->code]);
        }
        $numbered = (new Terms((new Terms($terms))->numbered()))->byCode;
        expect(array_unique(array_column($numbered, 'notation')))->toHaveCount(count($terms));
        foreach ($numbered as $term) {
            $term['parent'] === null || expect($term['notation'])->toStartWith($numbered[$term['parent']]['notation'].'.');
        }
    }
});

it('takes terms from CSV and gives them back', function () {
    seeded(9);
    $terms = array_map(
        static fn (array $t): array => array_intersect_key(
            $t,
            array_flip(['code', 'label', 'parent', 'also_below', 'synonyms', 'notation', 'note', 'retired', 'replaced_by']),
        ),
        randomTerms(20),
    );
    $import = TermsTable::read("\u{FEFF}".TermsTable::write($terms), ['name' => 'V', 'terms' => []]);
    expect($import->vocabulary['terms'])->toBe($terms);
    $import = TermsTable::read("label,parent\nGate,\nMitre gate,gate\n", [
        'terms' => [['code' => 'gate', 'label' => 'Gate', 'note' => 'kept']],
    ]);
    expect($import->vocabulary['terms'][0])
        ->toMatchArray(['code' => 'gate', 'note' => 'kept'])
        ->and($import->vocabulary['terms'][1])
        ->toMatchArray(['code' => 'mitre_gate', 'parent' => 'gate'])
        ->and($import->added)
        ->toBe(['mitre_gate']);
    foreach (
        [
            "name\nGate" => 'one of them is “label”',
            "label,colour\nGate,red" => 'no column “colour”',
            "label\n\nGate\n,\n" => 'has no label',
            "label\n\xff" => 'not in UTF-8',
        ] as $csv => $fault
    ) {
        expect(fn () => TermsTable::read($csv, []))->toThrow(InvalidDefinition::class, $fault);
    }
});

it('finds likely doubles and leaves others alone', function () {
    $of = static fn (string ...$labels): array => array_map(
        static fn (array $d): array => [$d['a'], $d['b']],
        LikelyDoubles::of(array_map(static fn (string $l): array => ['code' => $l, 'names' => [$l]], $labels)),
    );
    expect($of('Dredging surveys', 'Survey of dredging', 'Dredging survey'))
        ->not->toBe([])
        ->and($of('Seepage', 'Seapage'))
        ->toBe([['Seepage', 'Seapage']])
        ->and($of('Lock 12', 'Lock 13'))
        ->toBe([])
        ->and($of('Dam', 'Ram'))
        ->toBe([])
        ->and($of('Gate', 'Weir', 'Bridge'))
        ->toBe([])
        ->and(LikelyDoubles::of([['code' => 'a', 'names' => ['Lock']], ['code' => 'b', 'names' => ['Chamber', 'lock']]]))
        ->toBe([['a' => 'a', 'b' => 'b', 'why' => 'have the same name']]);
});

it('knows which terms a change moves, once', function () {
    $before = ['terms' => [['code' => 'a', 'label' => 'A'], ['code' => 'b', 'label' => 'B']]];
    $after = [
        'terms' => [
            ['code' => 'a', 'label' => 'A', 'retired' => true, 'replaced_by' => 'b'],
            ['code' => 'b', 'label' => 'B'],
            ['code' => 'c', 'label' => 'C', 'from' => ['code' => 'b', 'criterion' => 'depth > 2']],
        ],
    ];
    $moves = TermMove::between($before, $after);
    expect(array_map(static fn (TermMove $m): array => [$m->from, $m->to, $m->criterion], $moves))
        ->toBe([['b', 'c', 'depth > 2'], ['a', 'b', '']])
        ->and(TermMove::between($after, $after))
        ->toBe([])
        ->and(TermMove::between(null, $after))
        ->toHaveCount(1);
});

/** @return list<Triple> what others write: all that SKOS has, some of it twice, upside down or not at all */
function foreignScheme(int $count): array
{
    $skos = 'http://www.w3.org/2004/02/skos/core#';
    $type = 'http://www.w3.org/1999/02/22-rdf-syntax-ns#type';
    $base = ['http://there.example/thes#', 'http://there.example/c/', 'urn:thes:'][mt_rand(0, 2)];
    $scheme = ['http://there.example/thes', 'http://there.example/the-scheme', "{$base}scheme"][mt_rand(0, 2)];
    $at = static fn (int $i): string => str_replace(' ', '%20', $base.['c', 'Ł ', 'x-'][$i % 3].$i);
    $tags = ['', 'en', 'de', 'cy', 'en-gb'];
    $some = static fn (int $oneOf): bool => mt_rand(1, $oneOf) === 1;
    $has = ['inScheme' => $some(2), 'narrower' => $some(2), 'topConceptOf' => $some(2), 'hasTopConcept' => $some(2), 'type' => ! $some(4)];
    $triples = [
        new Triple($scheme, $type, "{$skos}ConceptScheme"),
        new Triple($scheme, 'http://purl.org/dc/terms/license', 'http://licence.example/by'),
        new Triple($scheme, 'http://purl.org/dc/terms/creator', 'Somebody', true),
    ];
    foreach (
        array_slice(['http://purl.org/dc/terms/title', "{$skos}prefLabel", 'http://www.w3.org/2000/01/rdf-schema#label'], 0, mt_rand(0, 3)) as $property
    ) {
        $triples[] = new Triple($scheme, $property, 'Water', true, $tags[mt_rand(0, 4)]);
    }
    for ($i = 0; $i < $count; $i++) {
        $concept = $at($i);
        $has['type'] && ($triples[] = new Triple($concept, $type, "{$skos}Concept"));
        ($has['inScheme'] || ! $has['type']) && ($triples[] = new Triple($concept, "{$skos}inScheme", $scheme));
        foreach ($tags as $tag) {
            $some(2) && ($triples[] = new Triple($concept, "{$skos}prefLabel", "Label {$i} {$tag}", true, $tag));
            foreach (['altLabel', 'hiddenLabel', 'scopeNote', 'definition', 'example', 'historyNote', 'editorialNote'] as $property) {
                $some(8) && ($triples[] = new Triple($concept, $skos.$property, "A {$property}\nof \"{$i}\" \\ {$tag}", true, $tag));
            }
        }
        $some(2) && ($triples[] = new Triple($concept, "{$skos}notation", "N.{$i}", true));
        $some(5) && ($triples[] = new Triple($concept, "{$skos}notation", "{$i}", true, '', 'http://there.example/udc'));
        foreach (['exactMatch', 'closeMatch', 'broadMatch', 'narrowMatch', 'relatedMatch'] as $property) {
            $some(6) && ($triples[] = new Triple($concept, $skos.$property, "http://third.example/{$i}"));
        }
        $some(6) && ($triples[] = new Triple($concept, "{$skos}related", $at(mt_rand(0, $count - 1))));
        foreach ($i === 0 ? [] : array_unique([mt_rand(0, $i - 1), ...$some(5) ? [mt_rand(0, $i - 1)] : []]) as $parent) {
            $triples[] = new Triple($concept, "{$skos}broader", $at($parent));
            $has['narrower'] && ($triples[] = new Triple($at($parent), "{$skos}narrower", $concept));
        }
        if ($i === 0) {
            $has['topConceptOf'] && ($triples[] = new Triple($concept, "{$skos}topConceptOf", $scheme));
            $has['hasTopConcept'] && ($triples[] = new Triple($scheme, "{$skos}hasTopConcept", $concept));
        }
        $some(9) &&
            array_push(
                $triples,
                new Triple($concept, 'http://www.w3.org/2008/05/skos-xl#prefLabel', "_:xl{$i}"),
                new Triple("_:xl{$i}", 'http://www.w3.org/2008/05/skos-xl#literalForm', "Long {$i}", true, 'en'),
            );
    }
    array_push(
        $triples,
        new Triple("{$base}list", $type, "{$skos}OrderedCollection"),
        new Triple("{$base}list", "{$skos}memberList", '_:l1'),
        new Triple('_:l1', 'http://www.w3.org/1999/02/22-rdf-syntax-ns#first', $at(0)),
        new Triple('_:l1', 'http://www.w3.org/1999/02/22-rdf-syntax-ns#rest', 'http://www.w3.org/1999/02/22-rdf-syntax-ns#nil'),
    );

    return $triples;
}

/** @return list<string> */
function statements(array $triples): array
{
    $lines = array_values(array_unique(array_map(NTriples::line(...), $triples)));
    sort($lines);

    return $lines;
}

it('gives back just what a file from elsewhere says', function () {
    seeded(33);
    for ($round = 0; $round < 120; $round++) {
        $file = NTriples::read(NTriples::write(foreignScheme(mt_rand(1, 14))));
        $import = Skos::read($file, 'water');
        expect(statements(Skos::triples('water', $import->vocabulary)))->toBe(statements($file));
        // Taken into itself, and by way of a file of the design, nothing changes.
        $again = Skos::read($file, 'water', json_decode((string) json_encode($import->vocabulary), true));
        expect([$again->added, $again->changed, $again->lost])
            ->toBe([[], [], []])
            ->and(statements(Skos::triples('water', $again->vocabulary)))
            ->toBe(statements($file));
    }
});

it('says what was changed here in place of what the file said', function () {
    $skos = 'http://www.w3.org/2004/02/skos/core#';
    $file = NTriples::read(
        '<http://t.example/s> <http://www.w3.org/1999/02/22-rdf-syntax-ns#type> <'.
            $skos.
            'ConceptScheme> .
        <http://t.example/a> <'.
            $skos.
            'inScheme> <http://t.example/s> .
        <http://t.example/a> <'.
            $skos.
            'prefLabel> "Wehr"@de .
        <http://t.example/a> <'.
            $skos.
            'scopeNote> "Eins"@de .
        <http://t.example/a> <'.
            $skos.
            'scopeNote> "One"@en .
        <http://t.example/b> <'.
            $skos.
            'inScheme> <http://t.example/s> .
        <http://t.example/b> <'.
            $skos.
            'prefLabel> "Tor"@de .
        <http://t.example/b> <'.
            $skos.
            'changeNote> "Neu"@de .',
    );
    $vocabulary = Skos::read($file, 'w')->vocabulary;
    expect($vocabulary['language'])
        ->toBe('de')
        ->and(array_column($vocabulary['terms'], 'label'))
        ->toBe(['Wehr', 'Tor']);
    $vocabulary['terms'][0]['label'] = 'Stauwehr';
    $vocabulary['terms'][0]['note'] = 'Anders';
    $lines = implode("\n", statements(Skos::triples('w', $vocabulary)));
    expect($lines)
        ->toContain('"Stauwehr"@de')
        ->not->toContain('"Wehr"')
        ->toContain('"Anders"@de')
        ->not->toContain('"Eins"')
        ->not->toContain('"One"')
        ->toContain('changeNote> "Neu"');
    // A concept that is removed takes with it what was kept of it.
    unset($vocabulary['terms'][1]);
    expect(implode("\n", statements(Skos::triples('w', [...$vocabulary, 'terms' => array_values($vocabulary['terms'])]))))
        ->not->toContain('Tor')
        ->not->toContain('Neu');
});

it('puts a concept below all its broader ones, and leaves out only what closes a circle', function () {
    $broader = 'http://www.w3.org/2004/02/skos/core#broader';
    $step = static fn (string $from, string $to): Triple => new Triple("http://t.example/{$from}", $broader, "http://t.example/{$to}");
    $import = Skos::read(
        [
            $step('c', 'a'),
            $step('c', 'b'),
            $step('d', 'c'),
            $step('a', 'top'),
            $step('b', 'top'),
            $step('b', 'd'),
            new Triple(
                'http://t.example/top',
                'http://www.w3.org/1999/02/22-rdf-syntax-ns#type',
                'http://www.w3.org/2004/02/skos/core#Concept',
            ),
        ],
        'w',
    );
    $terms = array_column($import->vocabulary['terms'], null, 'code');
    expect($terms['c'])
        ->toMatchArray(['parent' => 'a', 'also_below' => ['b']])
        ->and(implode("\n", $import->faults))
        ->toContain('in a circle')
        ->toContain('“b” is not put below “d”.')
        ->and((new Terms($import->vocabulary['terms']))->faults())
        ->toBe([]);
    // What is left out is said again by an export, for the file said it.
    expect(count(Skos::triples('w', $import->vocabulary)))->toBe(7);
});

it('names a circle and takes the rest', function () {
    $broader = 'http://www.w3.org/2004/02/skos/core#broader';
    $step = static fn (string $from, string $to): Triple => new Triple("http://t.example/{$from}", $broader, "http://t.example/{$to}");
    $import = Skos::read([$step('a', 'b'), $step('b', 'c'), $step('c', 'a'), $step('d', 'a'), $step('e', 'd'), $step('f', 'f')], 'w');
    $faults = implode("\n", $import->faults);
    expect($faults)
        ->toContain('in a circle: a → b → c → a; “a” is put at the top.')
        ->toContain('f → f')
        ->not->toContain('stands below itself')
        ->and(array_column($import->vocabulary['terms'], 'parent', 'code'))
        ->toMatchArray(['a' => null, 'b' => 'c', 'c' => 'a', 'd' => 'a', 'e' => 'd', 'f' => null])
        ->and((new Terms($import->vocabulary['terms']))->ordered())
        ->toHaveCount(6)
        ->and(Skos::triples('w', $import->vocabulary))
        ->toHaveCount(6);
});

it('reads one scheme of several, and labels that are resources', function () {
    $file = NTriples::read(
        implode(
            "\n",
            array_map(
                static fn (string $l): string => str_replace(
                    ['a:', 'skos:', 'xl:'],
                    ['http://t.example/', 'http://www.w3.org/2004/02/skos/core#', 'http://www.w3.org/2008/05/skos-xl#'],
                    $l,
                ),
                [
                    '<a:one> <http://www.w3.org/1999/02/22-rdf-syntax-ns#type> <skos:ConceptScheme> .',
                    '<a:two> <http://www.w3.org/1999/02/22-rdf-syntax-ns#type> <skos:ConceptScheme> .',
                    '<a:x> <skos:inScheme> <a:one> .',
                    '<a:y> <skos:inScheme> <a:two> .',
                    '<a:z> <skos:topConceptOf> <a:two> .',
                    '<a:x> <xl:prefLabel> <a:label> .',
                    '<a:label> <xl:literalForm> "Long name"@en .',
                    '<a:y> <skos:prefLabel> "Y"@en .',
                    '<a:z> <skos:prefLabel> "Z"@en .',
                ],
            ),
        ),
    );
    expect(implode(' ', Skos::read($file, 'w')->faults))
        ->toContain('holds 2 schemes')
        ->and(array_column(Skos::read($file, 'w', chosen: 'http://t.example/one')->vocabulary['terms'], 'label', 'code'))
        ->toBe(['x' => 'Long name'])
        ->and(array_column(Skos::read($file, 'w', chosen: 'http://t.example/two')->vocabulary['terms'], 'label', 'code'))
        ->toBe(['y' => 'Y', 'z' => 'Z']);
});

it('reads long literals, and names a line that is no statement', function () {
    $long = str_repeat('word \\" ', 20_000);
    expect(NTriples::read('<a:x> <a:p> "'.$long.'"@en .')[0]->object)
        ->toBe(str_replace('\\"', '"', $long))
        ->and(NTriples::read('<a:x> <a:p> "5"^^<http://www.w3.org/2001/XMLSchema#integer> .')[0]->datatype)
        ->toEndWith('#integer')
        ->and(fn () => NTriples::read("<a:x> <a:p> <a:y> .\nnonsense"))
        ->toThrow(InvalidDefinition::class, 'Line 2');
});
