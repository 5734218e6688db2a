<?php

declare(strict_types=1);

use App\Exchange\RdfFiles;

/** Sends a file to be looked at as what it would make of a vocabulary. */
function previewed(Tests\TestCase $test, string $code, string $name, string $contents): Illuminate\Testing\TestResponse
{
    return $test
        ->as('librarian')
        ->call(
            'POST',
            "/api/design/vocabularies/{$code}/file?name=".rawurlencode($name),
            [],
            [],
            [],
            ['HTTP_ACCEPT' => 'application/json', 'CONTENT_TYPE' => 'application/octet-stream'],
            $contents,
        );
}

it('writes a scheme as SKOS in three forms and finds nothing changed in any of them', function (string $format, string $name) {
    $file = $this->as('librarian')
        ->get("/api/design/vocabularies/subject/file?format={$format}")
        ->assertOk()
        ->getContent();
    expect($file)->toContain('Dredging');
    $preview = previewed($this, 'subject', $name, $file)->assertOk();
    expect([$preview->json('added'), $preview->json('changed'), $preview->json('lost'), $preview->json('faults')])->toBe([[], [], [], []]);
})->with([['turtle', 's.ttl'], ['rdfxml', 's.rdf'], ['jsonld', 's.jsonld'], ['csv', 's.csv']]);

it('takes a scheme from elsewhere', function () {
    $turtle = <<<'TTL'
    @prefix skos: <http://www.w3.org/2004/02/skos/core#> .
    @prefix dct: <http://purl.org/dc/terms/> .
    @base <http://elsewhere.example/water/> .
    <> a skos:ConceptScheme ; dct:title "Water things"@en ; skos:hasTopConcept <weirs> .
    <weirs> a skos:Concept ; skos:topConceptOf <> ; skos:prefLabel "Weirs"@en, "Coredau"@cy ; skos:narrower <crest> .
    <crest> a skos:Concept ; skos:inScheme <> ; skos:prefLabel "Crests"@en ; skos:altLabel "Tops"@en ; skos:notation "W.1" ; skos:scopeNote "The upper edge."@en ; skos:related <weirs> ; skos:exactMatch <http://third.example/9> .
    TTL;
    $preview = previewed($this, 'water', 'water.ttl', $turtle)->assertOk()->assertJsonPath('faults', []);
    $vocabulary = $preview->json('vocabulary');
    expect($vocabulary)
        ->toMatchArray(['name' => 'Water things', 'scheme' => true])
        ->and($vocabulary['terms'][1])
        ->toMatchArray([
            'code' => 'crest',
            'label' => 'Crests',
            'parent' => 'weirs',
            'synonyms' => ['Tops'],
            'notation' => 'W.1',
            'note' => 'The upper edge.',
            'related' => ['weirs'],
            'matches' => ['http://third.example/9'],
        ]);
    $this->postJson('/api/design/vocabularies', $vocabulary)->assertCreated();
    expect($this->drafted('vocabularies', 'water')['terms'][0]['labels'])->toBe(['cy' => 'Coredau']);
});

it('offers the schemes of a file that has several, and reads the one that is chosen', function () {
    $turtle = <<<'TTL'
    @prefix skos: <http://www.w3.org/2004/02/skos/core#> .
    @prefix t: <http://elsewhere.example/> .
    t:one a skos:ConceptScheme ; skos:prefLabel "First"@en . t:two a skos:ConceptScheme .
    t:a skos:inScheme t:one ; skos:prefLabel "A"@en . t:b skos:inScheme t:two ; skos:prefLabel "B"@en . t:c skos:topConceptOf t:two ; skos:prefLabel "C"@en .
    TTL;
    $preview = previewed($this, 'water', 'water.ttl', $turtle)->assertOk()->assertJsonPath('chosen', '');
    expect($preview->json('schemes'))
        ->toBe([
            ['uri' => 'http://elsewhere.example/one', 'name' => 'First', 'concepts' => 1],
            ['uri' => 'http://elsewhere.example/two', 'name' => '', 'concepts' => 2],
        ])
        ->and($preview->json('vocabulary.terms'))
        ->toHaveCount(3);
    $chosen = $this->call(
        'POST',
        '/api/design/vocabularies/water/file?name=w.ttl&scheme='.rawurlencode('http://elsewhere.example/two'),
        [],
        [],
        [],
        ['HTTP_ACCEPT' => 'application/json'],
        $turtle,
    )->assertOk();
    expect(array_column($chosen->json('vocabulary.terms'), 'label'))->toEqualCanonicalizing(['B', 'C']);
    $this->call(
        'POST',
        '/api/design/vocabularies/water/file?name=w.ttl&scheme=none',
        [],
        [],
        [],
        ['HTTP_ACCEPT' => 'application/json'],
        $turtle,
    )->assertUnprocessable();
});

it('gives the terms of a large vocabulary a piece at a time', function () {
    $terms = [['code' => 'top', 'label' => 'Locks']];
    for ($i = 0; $i < 600; $i++) {
        $terms[] = [
            'code' => "t{$i}",
            'label' => "Lock {$i}",
            'notation' => "L.{$i}",
            'parent' => 'top',
            'synonyms' => ["Écluse {$i}"],
            'note' => 'Long',
            'retired' => $i === 7,
            ...$i === 5 ? ['also_below' => ['t4']] : [],
        ];
    }
    $this->as('librarian')
        ->postJson('/api/design/vocabularies', ['code' => 'big', 'name' => 'Big', 'scheme' => true, 'terms' => $terms])
        ->assertCreated();
    $ofDraft = array_column($this->getJson('/api/design/draft')->json('design.vocabularies'), null, 'code')['big'];
    expect($ofDraft)
        ->toMatchArray(['terms' => [], 'term_count' => 601, 'is_tree' => true])
        ->and($this->getJson('/api/design/vocabularies/big')->json('terms'))
        ->toHaveCount(601);
    $this->getJson('/api/vocabularies/big/terms')->assertNotFound();
    expect($this->getJson('/api/design/vocabularies/big/terms')->json('terms'))->toBe([
        [
            'code' => 'top',
            'label' => 'Locks',
            'notation' => '',
            'synonyms' => [],
            'retired' => false,
            'more' => true,
            'fits' => true,
            'path' => [],
        ],
    ]);
    $this->publish()->assertCreated();

    $this->as('reader');
    expect(array_column($this->getJson('/api/design')->json('vocabularies'), null, 'code')['big'])->toMatchArray([
        'terms' => [],
        'term_count' => 601,
    ]);
    $asked = fn (string $query): array => array_column(
        $this->getJson("/api/vocabularies/big/terms?{$query}")
            ->assertOk()
            ->json('terms'),
        null,
        'code',
    );
    expect($asked('below=top'))
        ->toHaveCount(599)
        ->not->toHaveKey('t7')
        ->and($asked('below=top')['t4'])
        ->toMatchArray(['more' => true, 'path' => ['Locks']])
        ->and(array_keys($asked('below=t4')))
        ->toBe(['t5'])
        ->and($asked('retired=1&below=top'))
        ->toHaveKey('t7')
        ->and(array_keys($asked('q=ecluse+77')))
        ->toBe(['t77', 't177', 't277', 't377', 't477', 't577'])
        ->and(array_keys($asked('q=ecluse+77&from=t4')))
        ->toBe([])
        ->and(array_keys($asked('codes[]=t7&codes[]=none')))
        ->toBe(['t7']);
    $this->getJson('/api/vocabularies/none/terms')->assertNotFound();
    $this->getJson('/api/vocabularies/big/terms?q[]=x')->assertUnprocessable();
    $this->getJson('/api/design/vocabularies/big/terms')->assertForbidden();
});

it('says what is wrong in a file, and fetches nothing', function (string $name, string $contents, string $says) {
    expect(previewed($this, 'water', $name, $contents)->assertUnprocessable()->json('error.message'))->toContain($says);
})->with([
    ['x.ttl', '@prefix skos: <http://www.w3.org/2004/02/skos/core#> . <a skos:', 'cannot be read'],
    ['x.jsonld', '{"@context": "http://127.0.0.1:1/context.json", "@id": "a"}', 'cannot be read'],
    [
        'x.rdf',
        '<?xml version="1.0"?><!DOCTYPE a [<!ENTITY e SYSTEM "file:///etc/passwd">]><rdf:RDF xmlns:rdf="http://www.w3.org/1999/02/22-rdf-syntax-ns#"><a>&e;',
        'cannot be read',
    ],
    ['x.csv', "nothing\n1", 'one of them is “label”'],
    [
        'x.rdf',
        '<?xml version="1.0"?><!DOCTYPE a [<!ENTITY a "aaaaaaaaaa"><!ENTITY b "&a;&a;&a;&a;&a;&a;&a;&a;&a;&a;"><!ENTITY c "&b;&b;&b;&b;&b;&b;&b;&b;&b;&b;">]><rdf:RDF xmlns:rdf="http://www.w3.org/1999/02/22-rdf-syntax-ns#">&c;</rdf:RDF>',
        'grow',
    ],
]);

it('takes the short entities by which RDF/XML abbreviates addresses', function () {
    $rdf = '<?xml version="1.0"?><!DOCTYPE rdf:RDF [<!ENTITY skos "http://www.w3.org/2004/02/skos/core#"><!ENTITY t "http://t.example/">]>
        <rdf:RDF xmlns:rdf="http://www.w3.org/1999/02/22-rdf-syntax-ns#" xmlns:skos="&skos;">
        <skos:Concept rdf:about="&t;gate"><skos:prefLabel xml:lang="en">Gate</skos:prefLabel></skos:Concept></rdf:RDF>';
    expect(previewed($this, 'water', 'x.rdf', $rdf)->assertOk()->json('vocabulary.terms.0'))->toMatchArray([
        'code' => 'gate',
        'label' => 'Gate',
    ]);
});

it('counts documents by concept, itself and with what is below', function () {
    $this->filed('x', 'a.txt', 'plan', ['place' => ['Quay'], 'subject' => ['HER.01']], 'plans');
    $this->filed('x', 'b.txt', 'plan', ['place' => ['Quay'], 'subject' => ['HER.01.1', 'HER.04']], 'plans');
    $this->filed(
        'x',
        'c.txt',
        'minute',
        ['document_date' => ['2024'], 'confidentiality' => ['confidential'], 'subject' => ['HER.04']],
        'board',
        'librarian',
    );
    $counts = $this->as('librarian')->getJson('/api/design/vocabularies/subject/counts')->assertOk()->json('counts');
    expect($counts['HER.01'])
        ->toBe(['all' => 2, 'own' => 1])
        ->and($counts['HER'])
        ->toBe(['all' => 3, 'own' => 0])
        ->and($counts['HER.04'])
        ->toBe(['all' => 2, 'own' => 2]);
});

it('finds likely doubles, and keeps notations by place', function () {
    $terms = [
        ['code' => 'a', 'label' => 'Lock gate'],
        ['code' => 'b', 'label' => 'Gates, lock'],
        ['code' => 'c', 'label' => 'Weir', 'parent' => 'a'],
    ];
    $this->as('librarian')
        ->postJson('/api/design/vocabularies', [
            'code' => 'v',
            'name' => 'V',
            'scheme' => true,
            'numbering' => 'position',
            'terms' => $terms,
        ])
        ->assertCreated();
    expect(array_column($this->drafted('vocabularies', 'v')['terms'], 'notation'))
        ->toBe(['1', '2', '1.01'])
        ->and($this->getJson('/api/design/vocabularies/v/doubles')->json('doubles'))
        ->toBe([['a' => 'a', 'b' => 'b', 'why' => 'are the same words in another form or order']]);
});

it('exchanges schemes and designs by command', function () {
    $file = tempnam(sys_get_temp_dir(), 'skos').'.ttl';
    Illuminate\Support\Facades\Artisan::call('brenvic:scheme:export', ['code' => 'asset_class']);
    $turtle = Illuminate\Support\Facades\Artisan::output();
    file_put_contents($file, str_replace('"Dams"@en', '"Dams and banks"@en', $turtle));
    $this->artisan('brenvic:scheme:import', ['file' => $file, '--code' => 'asset_class', '--dry-run' => true])
        ->expectsOutputToContain('1  changed: A1.2')
        ->assertSuccessful();
    expect($this->as('librarian')->getJson('/api/design/draft')->json('changes'))->toBe([]);
    $this->artisan('brenvic:scheme:import', ['file' => $file, '--code' => 'asset_class'])->assertSuccessful();
    expect(array_column($this->as('librarian')->getJson('/api/design/draft')->json('changes'), 'code'))->toBe(['asset_class']);
    Illuminate\Support\Facades\Artisan::call('brenvic:design:export');
    file_put_contents($file, Illuminate\Support\Facades\Artisan::output());
    $this->artisan('brenvic:design:import', ['file' => $file])->assertSuccessful();
    expect($this->as('librarian')->getJson('/api/design/draft')->json('changes'))->toBe([]);
    file_put_contents($file, '{"format": 2, "fields": [{"code": "x"}]}');
    $this->artisan('brenvic:design:import', ['file' => $file])
        ->expectsOutputToContain('/fields/0/label: Give it a label.')
        ->assertFailed();
    unlink($file);
});

it('gives a foreign scheme back in each form of RDF, statement for statement', function (string $format) {
    $turtle = <<<'TTL'
    @prefix skos: <http://www.w3.org/2004/02/skos/core#> . @prefix xl: <http://www.w3.org/2008/05/skos-xl#> . @prefix dct: <http://purl.org/dc/terms/> . @prefix t: <http://there.example/thes/> .
    t:scheme a skos:ConceptScheme ; dct:title "Water"@en, "Wasser"@de ; dct:license <http://licence.example/by> ; dct:creator [ dct:title "Office" ] ; skos:hasTopConcept t:weirs .
    t:weirs a skos:Concept ; skos:inScheme t:scheme ; skos:prefLabel "Weirs"@en, "Wehre"@de ; skos:hiddenLabel "wiers"@en ; skos:notation "W.1", "621"^^t:udc ; skos:definition "What holds water back."@en, "Was Wasser hält."@de ; skos:example "One"@en ; skos:closeMatch <http://third.example/w> .
    t:crest a skos:Concept ; skos:inScheme t:scheme ; skos:prefLabel "Crests"@en ; skos:broader t:weirs, t:parts ; xl:altLabel [ a xl:Label ; xl:literalForm "Tops"@en ] .
    t:parts a skos:Concept ; skos:inScheme t:scheme ; skos:prefLabel "Parts"@en ; skos:historyNote "Added in 1998.\nMoved in 2001."@en .
    t:order a skos:OrderedCollection ; skos:prefLabel "In order"@en ; skos:memberList ( t:parts t:crest ) . t:group a skos:Collection ; skos:member t:weirs .
    TTL;
    $folder = sys_get_temp_dir().'/rdf-'.getmypid();
    @mkdir($folder);
    $given = RdfFiles::write(RdfFiles::read($turtle, 'turtle'), $format);
    $preview = previewed($this, 'foreign', 'thes.'.RdfFiles::FORMATS[$format][0], $given)->assertOk();
    expect($preview->json('added'))->toHaveCount(3);
    $this->postJson('/api/design/vocabularies', $preview->json('vocabulary'))->assertCreated();
    $back = $this->get("/api/design/vocabularies/foreign/file?format={$format}")
        ->assertOk()
        ->getContent();
    file_put_contents("{$folder}/a", $turtle);
    file_put_contents("{$folder}/b", $back);
    // Compared by another library, blank nodes by their places (RDF 1.1, graph isomorphism).
    $form = ['turtle' => 'turtle', 'rdfxml' => 'xml', 'jsonld' => 'json-ld'][$format];
    exec(
        '/usr/bin/python3 -c '.
            escapeshellarg(
                "import rdflib, rdflib.compare, sys\na = rdflib.Graph().parse(sys.argv[1], format='turtle')\nb = rdflib.Graph().parse(sys.argv[2], format='{$form}')\nprint(len(a), rdflib.compare.isomorphic(a, b))",
            ).
            ' '.
            escapeshellarg("{$folder}/a").
            ' '.
            escapeshellarg("{$folder}/b"),
        $said,
    );
    exec('rm -rf '.escapeshellarg($folder));
    expect($said)->toBe(['39 True']);
})->with(['turtle', 'rdfxml', 'jsonld']);
