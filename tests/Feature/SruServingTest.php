<?php

declare(strict_types=1);

use App\Models\Right;
use App\Models\User;
use App\People\Tokens;
use App\Served\Asking;
use App\Served\SruServer;
use Brenvic\Core\Exchange\Sru\SruAnswer;
use Brenvic\Core\Exchange\Sru\SruExplain;
use Illuminate\Testing\TestResponse;

/**
 * @param  array<string, string>  $asked
 * @param  array<string, string>  $headers
 */
function sru(array $asked, array $headers = []): TestResponse
{
    return test()->withHeaders($headers)->get('/sru?'.http_build_query($asked));
}

/** The values of all elements of a name, whatever their namespace. */
function elementsOf(TestResponse $answer, string $name): array
{
    $document = new DOMDocument;
    expect($document->loadXML((string) $answer->getContent()))->toBeTrue();

    return array_map(static fn (DOMNode $node): string => $node->textContent, iterator_to_array($document->getElementsByTagNameNS('*', $name)));
}

/** @return array{string, string} number and details of the diagnostic */
function diagnosed(array $asked): array
{
    $answer = sru($asked)->assertOk();

    return [substr(elementsOf($answer, 'uri')[0] ?? '', strlen('info:srw/diagnostic/1/')), elementsOf($answer, 'details')[0] ?? ''];
}

beforeEach(function () {
    Asking::serve('Everyone');
    foreach (['2001' => 'The sluice is shut.', '2002' => 'The sluice leaks at the sill.', '2003' => 'The lock is open.'] as $year => $text) {
        stoppageOf((string) $year, [], $text);
    }
    $this->secret = $this->filed('The sluice of the byelaw', 'b.txt', 'byelaw', ['document_date' => ['1999'], 'confidentiality' => ['confidential']], 'board', 'librarian');
});

it('explains itself by what who asks may know, so that our own client can ask it', function (string $version) {
    $answer = sru($version === '2.0' ? [] : ['version' => $version, 'operation' => 'explain'])->assertOk()->assertHeader('Content-Type', 'application/xml; charset=utf-8');
    $explain = SruExplain::read((string) $answer->getContent());
    expect($explain->searches('dc.title'))->toBeTrue()
        ->and($explain->searches('brenvic.waterway'))->toBeTrue()
        ->and($explain->searches('brenvic.hold'))->toBeFalse()
        ->and($explain->sorts('dc.date'))->toBeTrue()
        ->and($explain->modifies('fuzzy'))->toBeTrue()
        // Of the board’s library, which not everybody may enter, nothing is told.
        ->and($explain->searches('brenvic.confidentiality'))->toBeFalse();
})->with(['1.1', '1.2', '2.0']);

it('finds and gives records in each schema, and in each version as that has it', function (string $version) {
    $asked = $version === '2.0' ? [] : ['version' => $version, 'operation' => 'searchRetrieve'];
    foreach (['dc' => 'dc', 'info:srw/schema/1/dc-v1.1' => 'dc', 'oai_dc' => 'dc', 'mods' => 'mods', 'brenvic' => 'record'] as $schema => $root) {
        $answer = sru([...$asked, 'query' => 'sluice sortBy dc.date', 'recordSchema' => $schema, 'maximumRecords' => '1'])->assertOk();
        expect(elementsOf($answer, 'numberOfRecords'))->toBe(['2'])
            ->and(elementsOf($answer, 'version')[0])->toBe($version)
            ->and(elementsOf($answer, 'nextRecordPosition'))->toBe(['2'])
            ->and((string) $answer->getContent())->toContain($version === '2.0' ? '<recordXMLEscaping>' : '<recordPacking>')
            ->and(elementsOf($answer, $root))->toHaveCount($root === 'record' ? 2 : 1);
    }
    $read = SruAnswer::read((string) sru([...$asked, 'query' => 'sluice sortBy dc.date'])->getContent(), 0);
    expect(array_map(static fn ($record): array => $record->elements['date'], $read->records))->toBe([['2001'], ['2002']]);
    $packed = SruAnswer::read((string) sru([...$asked, 'query' => 'sluice sortBy dc.date', $version === '2.0' ? 'recordXMLEscaping' : 'recordPacking' => 'string'])->getContent(), 0);
    expect($packed->records)->toEqual($read->records);
})->with(['1.1', '1.2', '2.0']);

it('gives records in our own schema that hold to its XML schema', function () {
    $document = new DOMDocument;
    $document->loadXML((string) sru(['query' => 'cql.allRecords=1', 'recordSchema' => 'brenvic'])->getContent());
    $records = iterator_to_array($document->getElementsByTagNameNS('urn:brenvic:record', 'record'));
    expect($records)->toHaveCount(3);
    foreach ($records as $record) {
        $one = new DOMDocument;
        $one->appendChild($one->importNode($record, true));
        expect($one->schemaValidate(base_path('docs/record.xsd')))->toBeTrue();
    }
});

it('shows anybody what their group sees, and a token what its person sees', function () {
    $total = static fn (array $headers = []): string => elementsOf(sru(['query' => 'sluice'], $headers), 'numberOfRecords')[0];
    $token = Tokens::make(User::query()->where('sign_in', 'librarian')->firstOrFail(), 'x', [Right::Read], 5);
    expect($total())->toBe('2')
        ->and($total(['Authorization' => "Bearer {$token}"]))->toBe('3')
        ->and($total(['Authorization' => 'Basic '.base64_encode("librarian:{$token}")]))->toBe('3');
    sru(['query' => 'sluice'], ['Authorization' => 'Bearer brenvic_wrong'])->assertUnauthorized()->assertHeader('WWW-Authenticate');
    $rightless = Tokens::make(User::query()->where('sign_in', 'librarian')->firstOrFail(), 'y', [Right::Redact], 5);
    sru(['query' => 'sluice'], ['Authorization' => "Bearer {$rightless}"])->assertUnauthorized();
    Asking::serve(null);
    test()->flushHeaders();
    expect(elementsOf(sru(['query' => 'sluice'])->assertUnauthorized(), 'numberOfRecords'))->toBe(['0']);
    Asking::serve('A group that is gone');
    sru(['query' => 'sluice'])->assertUnauthorized();
});

it('says what is wrong by its number', function (array $asked, string $number, string $details) {
    expect(diagnosed($asked))->toBe([$number, $details]);
})->with([
    [['operation' => 'searchRetrieve', 'version' => '1.2'], '7', 'query'],
    [['operation' => 'scan', 'version' => '1.2'], '7', 'scanClause'],
    [['operation' => 'dance', 'version' => '1.2'], '4', 'dance'],
    [['version' => '7.1'], '5', '2.0'],
    [['query' => 'a', 'maximumRecords' => '-1'], '6', 'maximumRecords'],
    [['query' => 'a', 'startRecord' => '0'], '6', 'startRecord'],
    [['query' => 'a', 'colour' => 'red'], '8', 'colour'],
    [['query' => 'a', 'stylesheet' => 'x.xsl'], '110', 'stylesheet'],
    [['query' => 'a', 'recordSchema' => 'marcxml'], '66', 'marcxml'],
    [['query' => 'a', 'recordPacking' => 'zip'], '71', 'zip'],
    [['query' => 'sluice', 'startRecord' => '50'], '61', '2'],
    [['query' => 'cql.resultSetId = nothing'], '51', 'nothing'],
    [['query' => 'a sortBy nothing'], '83', 'nothing'],
    [['query' => 'a', 'facetLimit' => 'many'], '6', 'facetLimit'],
    [['scanClause' => 'title = a', 'maximumTerms' => '5000'], '121', '1000'],
    [['scanClause' => 'title = a', 'maximumTerms' => '5', 'responsePosition' => '9'], '120', '9'],
]);

it('says by its number what in a query cannot be', function (string $query, string $number) {
    expect(diagnosed(['query' => $query])[0])->toBe($number);
})->with([
    ['(a', '10'], ['>x="urn:nothing" x.a = 1', '15'], ['nothing.at.all = 1', '16'], ['title < 1', '22'], ['title =/nothing a', '20'],
    ['document_date > yesterdaily', '36'], ['a prox/unit=page b', '46'], ['(a or b) prox c', '37'], ['text = s*', '28'],
]);

it('keeps a result by name for who asked, alone or as part of another', function () {
    $set = elementsOf(sru(['query' => 'sluice']), 'resultSetId')[0];
    expect(elementsOf(sru(['query' => "cql.resultSetId = {$set}"]), 'numberOfRecords'))->toBe(['2'])
        ->and(elementsOf(sru(['query' => "cql.resultSetId = {$set} and sill"]), 'numberOfRecords'))->toBe(['1']);
    $token = Tokens::make(User::query()->where('sign_in', 'librarian')->firstOrFail(), 'x', [Right::Read], 5);
    expect(elementsOf(sru(['query' => "cql.resultSetId = {$set}"], ['Authorization' => "Bearer {$token}"]), 'uri'))->toBe(['info:srw/diagnostic/1/51']);
});

it('counts facets as our own search does, each with the query that narrows to it', function () {
    $answer = sru(['query' => 'sluice', 'facetLimit' => '5:type,3:document_date', 'facetSort' => 'recordCount', 'maximumRecords' => '0']);
    expect(elementsOf($answer, 'facetDisplayLabel'))->toBe(['Document type', 'Document date'])
        ->and(elementsOf($answer, 'actualTerm'))->toBe(['Stoppage notice', '2001', '2002'])
        ->and(elementsOf($answer, 'count'))->toBe(['2', '1', '1']);
    foreach (elementsOf($answer, 'query') as $i => $query) {
        $i === 0 || expect(elementsOf(sru(['query' => $query]), 'numberOfRecords')[0])->toBe(elementsOf($answer, 'count')[$i - 1]);
    }
    $all = sru(['query' => 'cql.allRecords = 1', 'facetLimit' => '2']);
    expect(elementsOf($all, 'index'))->toContain('type', 'library')->not->toContain('hold', 'pull_list', 'confidentiality');
    expect(diagnosed(['query' => 'a', 'facetLimit' => '2:hold'])[0])->toBe('16')->and(diagnosed(['query' => 'a', 'facetLimit' => '2:confidentiality'])[0])->toBe('16');
    expect(elementsOf(sru(['query' => 'sluice', 'version' => '1.2', 'operation' => 'searchRetrieve', 'facetLimit' => '2']), 'facet'))->toBe([]);
    expect(elementsOf(sru(['query' => 'sluice', 'facetLimit' => '1:document_date', 'facetStart' => '2:document_date']), 'actualTerm'))->toBe(['2002']);
});

it('lists the terms of an index around one, of what the asker sees', function () {
    $asked = static fn (string $clause, array $more = []): array => [
        elementsOf($answer = sru(['scanClause' => $clause, ...$more]), 'value'), elementsOf($answer, 'numberOfRecords'),
    ];
    expect($asked('text = lock', ['maximumTerms' => '3']))->toBe([['lock', 'open', 'shut'], ['1', '1', '1']])
        ->and($asked('text = lock', ['maximumTerms' => '3', 'responsePosition' => '2']))->toBe([['leaks', 'lock', 'open'], ['1', '1', '1']])
        ->and($asked('text = lock', ['maximumTerms' => '2', 'responsePosition' => '0'])[0])->toBe(['open', 'shut'])
        ->and($asked('text = b', ['maximumTerms' => '1'])[0])->not->toBe(['byelaw'])
        ->and($asked('type = a', ['maximumTerms' => '9']))->toBe([['Stoppage notice'], ['3']])
        ->and($asked('document_date = 2002', ['maximumTerms' => '9'])[1])->each->toBe('1')
        ->and(diagnosed(['scanClause' => 'pages = 1'])[0])->toBe('16')
        ->and(diagnosed(['scanClause' => 'a and b'])[0])->toBe('10');
});

it('takes POST as well, pages deep, and sorts as version 1.1 says it', function () {
    $answer = $this->post('/sru', ['version' => '1.1', 'operation' => 'searchRetrieve', 'query' => 'cql.allRecords = 1', 'sortKeys' => 'date,dc,0', 'startRecord' => '2', 'maximumRecords' => '1'])->assertOk();
    expect(elementsOf($answer, 'date'))->toBe(['2002'])->and(elementsOf($answer, 'recordPosition'))->toBe(['2']);
});

it('answers whatever is asked with XML and never fails', function () {
    mt_srand(23);
    $user = User::query()->where('sign_in', 'reader')->firstOrFail();
    $server = app(SruServer::class);
    $names = ['version', 'operation', 'query', 'startRecord', 'maximumRecords', 'recordSchema', 'recordPacking', 'sortKeys', 'facetLimit', 'facetStart', 'scanClause', 'responsePosition', 'maximumTerms', 'x-a', 'y'];
    $bits = ['1.1', '1.2', '2.0', '3', 'searchRetrieve', 'scan', 'explain', '0', '1', '-1', '99999999999999999999', 'sluice', 'title', 'dc.date', '=', '==', ' and ', ' prox ', ' not ', '"', '(', ')', '>', '/', '\\', '^', '*', "\0", "\xff\xfe", '<!DOCTYPE a>', '&amp;', ']]>', ' sortBy ', 'cql.allRecords', 'document_date', 'within', '2001', 'dc', 'mods', 'string', '5:type', ':', ',', 'é', '運河', str_repeat('a', 300)];
    for ($i = 0; $i < 10_000; $i++) {
        $given = [];
        for ($n = mt_rand(0, 5); $n > 0; $n--) {
            $value = '';
            for ($b = mt_rand(0, 4); $b > 0; $b--) {
                $value .= $bits[mt_rand(0, count($bits) - 1)];
            }
            $given[$names[mt_rand(0, count($names) - 1)]] = mt_rand(0, 40) === 0 ? [$value] : $value;
        }
        $xml = $server->answer($user, $given, 'http://127.0.0.1/sru');
        $document = new DOMDocument;
        if (! @$document->loadXML($xml)) {
            expect($given)->toBe([], $xml);
        }
    }
    expect($document->documentElement)->not->toBeNull();
});
