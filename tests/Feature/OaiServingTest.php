<?php

declare(strict_types=1);

use App\Models\Right;
use App\Models\User;
use App\People\Tokens;
use App\Served\Asking;
use App\Served\Changes;
use App\Served\OaiServer;
use Brenvic\Core\Exchange\Oai\ListPlace;
use Brenvic\Core\Exchange\Oai\OaiFault;
use Illuminate\Support\Carbon;
use Illuminate\Support\Facades\DB;

/** A response, which holds to the schema of the protocol. */
function oai(string $query, array $headers = []): DOMXPath
{
    $content = (string) test()->withHeaders(['Accept-Encoding' => '', ...$headers])->get("/oai?{$query}")->assertOk()->assertHeader('Content-Type', 'text/xml; charset=utf-8')->getContent();
    $document = new DOMDocument;
    expect($document->loadXML($content))->toBeTrue();
    libxml_use_internal_errors(true);
    $isValid = $document->schemaValidate(base_path('tests/fixtures/oai/all.xsd'));
    expect($isValid)->toBeTrue(json_encode(array_map(static fn (LibXMLError $fault): string => $fault->message, libxml_get_errors())).$content);
    libxml_clear_errors();
    $path = new DOMXPath($document);
    $path->registerNamespace('o', 'http://www.openarchives.org/OAI/2.0/');

    return $path;
}

/** @return list<string> */
function textsIn(DOMXPath $path, string $of): array
{
    return array_map(static fn (DOMNode $node): string => $node->textContent, iterator_to_array($path->query($of)));
}

/** @return array<string, string> what is listed: `there` or `deleted` by reference, over all pieces */
function harvested(string $more = '', array $headers = [], string $verb = 'ListIdentifiers'): array
{
    $listed = [];
    for ($query = "verb={$verb}&metadataPrefix=oai_dc{$more}"; $query !== '';) {
        $path = oai($query, $headers);
        foreach ($path->query('//o:header') as $header) {
            assert($header instanceof DOMElement);
            $ref = substr(textsInNode($header, 'identifier'), strlen(OaiServer::prefix()));
            expect($listed)->not->toHaveKey($ref);
            $listed[$ref] = $header->getAttribute('status') ?: 'there';
        }
        $token = textsIn($path, '//o:resumptionToken')[0] ?? '';
        $query = $token === '' ? '' : "verb={$verb}&resumptionToken={$token}";
    }

    return $listed;
}

function textsInNode(DOMElement $node, string $name): string
{
    return (string) $node->getElementsByTagName($name)->item(0)?->textContent;
}

/** @return list<string> */
function faultsOf(string $query): array
{
    return array_map(static fn (DOMElement $node): string => $node->getAttribute('code'), iterator_to_array(oai($query)->query('//o:error')));
}

beforeEach(function () {
    Asking::serve('Everyone');
    config(['brenvic.mail_from' => 'records@tarnwick.example']);
});

afterEach(fn () => Carbon::setTestNow());

it('says what it is, which forms and which sets there are, as far as the harvester sees', function () {
    stoppageOf('2001', ['subject' => ['NAV.02.3']]);
    $this->filed('Of the byelaw', 'b.txt', 'byelaw', ['document_date' => ['1999'], 'confidentiality' => ['confidential']], 'board', 'librarian');
    expect(textsIn(oai('verb=Identify'), '//o:deletedRecord|//o:granularity|//o:baseURL'))->toBe(['http://localhost:8080/oai', 'persistent', 'YYYY-MM-DDThh:mm:ssZ'])
        ->and(textsIn(oai('verb=ListMetadataFormats'), '//o:metadataPrefix'))->toBe(['oai_dc', 'mods']);
    $sets = textsIn(oai('verb=ListSets'), '//o:setSpec');
    expect($sets)->toContain('library:waterways', 'subject:NAV.02.3', 'subject:NAV.02', 'waterway:tarn-sea')->not->toContain('library:board', 'library:harbour');
    expect(array_keys(harvested('&set=subject:NAV.02')))->toHaveCount(1)->and(faultsOf('verb=ListIdentifiers&metadataPrefix=oai_dc&set=library:board'))->toBe(['noRecordsMatch']);
});

it('gives records by what changed when, to the second', function () {
    Carbon::setTestNow('2026-03-01 10:00:00');
    $first = stoppageOf('2001');
    Changes::settle();
    Carbon::setTestNow('2026-03-01 10:00:05');
    $second = stoppageOf('2002');
    Changes::settle();
    Carbon::setTestNow('2026-03-02 09:00:00');
    expect(array_keys(harvested()))->toBe([$first, $second])
        ->and(array_keys(harvested('&from=2026-03-01T10:00:01Z')))->toBe([$second])
        ->and(array_keys(harvested('&until=2026-03-01T10:00:04Z')))->toBe([$first])
        ->and(array_keys(harvested('&from=2026-03-01&until=2026-03-01')))->toBe([$first, $second])
        ->and(faultsOf('verb=ListRecords&metadataPrefix=oai_dc&from=2026-03-02'))->toBe(['noRecordsMatch']);
    $title = DB::table('documents')->where('ref', $first)->value('title');
    $this->as('librarian')->putJson("/api/documents/{$first}", [
        'title' => 'Shut again', 'type' => 'stoppage_notice', 'lock_version' => 1, 'values' => ['document_date' => ['2003'], 'waterway' => ['tarn-sea']],
    ])->assertOk();
    expect(array_keys(harvested('&from=2026-03-02')))->toBe([$first]);
    $record = oai('verb=GetRecord&metadataPrefix=oai_dc&identifier='.OaiServer::prefix().$first);
    $record->registerNamespace('dc', 'http://purl.org/dc/elements/1.1/');
    expect(textsIn($record, '//dc:date'))->toBe(['2003'])->and(textsIn($record, '//o:datestamp'))->toBe(['2026-03-02T09:00:00Z'])->and($title)->not->toBe('');
    $mods = oai('verb=GetRecord&metadataPrefix=mods&identifier='.OaiServer::prefix().$first);
    $mods->registerNamespace('m', 'http://www.loc.gov/mods/v3');
    expect(textsIn($mods, '//m:dateCreated'))->toBe(['2003']);
});

it('says of what was removed, destroyed or went out of sight that it is deleted, for good, and nothing else', function () {
    Carbon::setTestNow('2026-03-01 10:00:00');
    [$stays, $removed, $hidden] = [stoppageOf('2001'), stoppageOf('2002'), stoppageOf('2003')];
    $never = $this->filed('Of the byelaw', 'b.txt', 'byelaw', ['document_date' => ['1999'], 'confidentiality' => ['confidential']], 'board', 'librarian');
    expect(harvested())->toBe(array_fill_keys([$stays, $removed, $hidden], 'there'));
    Carbon::setTestNow('2026-03-02 10:00:00');
    $this->as('librarian')->postJson('/api/removed', ['documents' => [$removed], 'reason' => 'x'])->assertSuccessful();
    $id = DB::table('documents')->where('ref', $hidden)->value('id');
    DB::table('documents')->where('id', $id)->update(['library_id' => $this->libraryId('board')]);
    app(App\Index\Indexer::class)->update([$id]);
    $since = harvested('&from=2026-03-02');
    ksort($since);
    $wanted = [$removed => 'deleted', $hidden => 'deleted'];
    ksort($wanted);
    expect($since)->toBe($wanted)->and(harvested()[$stays])->toBe('there');
    $path = oai('verb=ListRecords&metadataPrefix=oai_dc&from=2026-03-02');
    expect(textsIn($path, '//o:metadata|//o:setSpec'))->toBe([]);
    expect(textsIn(oai('verb=GetRecord&metadataPrefix=oai_dc&identifier='.OaiServer::prefix().$hidden), '//o:metadata'))->toBe([])
        ->and(faultsOf('verb=GetRecord&metadataPrefix=oai_dc&identifier='.OaiServer::prefix().$never))->toBe(['idDoesNotExist']);
    // It stays so, and comes back when it is there again.
    Carbon::setTestNow('2027-03-02 10:00:00');
    expect(harvested()[$removed])->toBe('deleted');
    $this->as('librarian')->postJson('/api/removed/restore', ['documents' => [$removed]])->assertSuccessful();
    expect(harvested('&from=2027-03-02'))->toBe([$removed => 'there']);
});

it('goes on by a token whatever changes and whoever starts it anew, and ends', function () {
    Carbon::setTestNow('2026-03-01 10:00:00');
    $refs = array_map(static fn (int $i): string => stoppageOf((string) (1900 + $i)), range(1, 6));
    Changes::settle();
    $ids = DB::table('documents')->whereIn('ref', $refs)->pluck('id', 'ref')->all();
    // As many as make two pieces: heads are given a thousand at a time.
    $rows = array_map(static fn (int $i): array => ['document_id' => 50_000 + $i, 'changed_at' => '2026-03-01T10:00:00Z'], range(1, 20));
    DB::table('document_changes')->insert($rows);
    $changes = app(Changes::class);
    $user = User::query()->where('sign_in', 'reader')->firstOrFail();
    $sight = $changes->seen($user);
    $asker = $changes->asker($user);
    $found = [];
    [$stamp, $number] = ['', 0];
    while (($piece = $changes->next($asker, $sight, '', '2026-03-01T10:00:00Z', $stamp, $number, 2)) !== []) {
        foreach ($piece as $of) {
            $found[] = $of['id'];
        }
        [$stamp, $number] = [$piece[count($piece) - 1]['stamp'], $piece[count($piece) - 1]['id']];
        if (count($found) === 2) {
            // One that was given and one that is still to come change: both are for the next harvest.
            Carbon::setTestNow('2026-03-01 10:00:09');
            Changes::note([$found[0], $ids[$refs[5]]]);
            Changes::settle();
        }
    }
    expect($found)->toBe(array_slice(array_values($ids), 0, 5));
    $next = array_column($changes->next($asker, $sight, '2026-03-01T10:00:01Z', '9', '', 0, 9), 'id');
    expect($next)->toBe([$found[0], $ids[$refs[5]]]);
});

it('gives out a token that holds for the same list of the same harvester, and for no other', function () {
    $place = (new ListPlace('a', 'ListRecords', 'mods', 'library:x', '2026-01-01T00:00:00Z', '9'))->at('2026-02-01T00:00:00Z', 7, 250);
    $token = $place->token('key');
    expect(ListPlace::read($token, 'key', 'a', 'ListRecords'))->toEqual($place);
    foreach ([[$token, 'other key', 'a', 'ListRecords'], [$token, 'key', 'b', 'ListRecords'], [$token, 'key', 'a', 'ListIdentifiers'], [substr($token, 0, -2), 'key', 'a', 'ListRecords'], ['', 'key', 'a', 'ListRecords']] as $not) {
        expect(static fn () => ListPlace::read(...$not))->toThrow(OaiFault::class);
    }
});

it('says what is wrong by the codes of the protocol', function (string $query, string $code) {
    stoppageOf('2001');
    expect(faultsOf($query))->toBe([$code]);
})->with([
    ['', 'badVerb'], ['verb=Nothing', 'badVerb'], ['verb=Identify&verb=Identify', 'badVerb'], ['verb=Identify&set=a', 'badArgument'],
    ['verb=ListRecords', 'badArgument'], ['verb=GetRecord&metadataPrefix=oai_dc', 'badArgument'], ['verb=ListRecords&metadataPrefix=marc21', 'cannotDisseminateFormat'],
    ['verb=GetRecord&metadataPrefix=oai_dc&identifier=oai:elsewhere:1', 'idDoesNotExist'], ['verb=ListMetadataFormats&identifier=oai:elsewhere:1', 'idDoesNotExist'],
    ['verb=ListRecords&resumptionToken=abc', 'badResumptionToken'], ['verb=ListRecords&resumptionToken=abc&metadataPrefix=oai_dc', 'badArgument'],
    ['verb=ListRecords&metadataPrefix=oai_dc&from=2026-13-01', 'badArgument'], ['verb=ListRecords&metadataPrefix=oai_dc&from=2026-02-01&until=2026-01-01', 'badArgument'],
    ['verb=ListRecords&metadataPrefix=oai_dc&from=2026-01-01&until=2026-02-01T00:00:00Z', 'badArgument'], ['verb=ListRecords&metadataPrefix=oai_dc&from=2099-01-01', 'noRecordsMatch'],
    ['verb=ListRecords&metadataPrefix=oai_dc&set=a:b', 'noRecordsMatch'], ['verb=%FF', 'badArgument'],
]);

it('serves each by what they see, nobody where the office does not want it, and packs what it gives', function () {
    stoppageOf('2001');
    $secret = $this->filed('Of the byelaw', 'b.txt', 'byelaw', ['document_date' => ['1999'], 'confidentiality' => ['confidential']], 'board', 'librarian');
    $token = Tokens::make(User::query()->where('sign_in', 'librarian')->firstOrFail(), 'x', [Right::Read], 5);
    expect(harvested())->not->toHaveKey($secret)->and(harvested('', ['Authorization' => "Bearer {$token}"]))->toHaveKey($secret);
    $this->flushHeaders();
    $packed = (string) $this->withHeaders(['Accept-Encoding' => 'gzip'])->get('/oai?verb=Identify')->assertHeader('Content-Encoding', 'gzip')->getContent();
    expect((string) gzdecode($packed))->toContain('<Identify>');
    $this->get('/oai?verb=Identify', ['Authorization' => 'Bearer brenvic_no'])->assertUnauthorized();
    $this->flushHeaders();
    Asking::serve(null);
    $this->get('/oai?verb=Identify')->assertUnauthorized();
    Asking::serve('Everyone');
    expect((string) $this->call('POST', '/oai', [], [], [], ['CONTENT_TYPE' => 'application/x-www-form-urlencoded', 'HTTP_ACCEPT_ENCODING' => ''], 'verb=Identify')->assertOk()->getContent())->toContain('<Identify>');
});

it('answers whatever is asked with XML and never fails', function () {
    stoppageOf('2001');
    mt_srand(29);
    $user = User::query()->where('sign_in', 'reader')->firstOrFail();
    $server = app(OaiServer::class);
    $bits = ['verb', 'Identify', 'ListRecords', 'ListIdentifiers', 'ListSets', 'GetRecord', 'ListMetadataFormats', '=', '&', 'metadataPrefix', 'oai_dc', 'mods', 'from', 'until', 'set', 'identifier', 'resumptionToken', '2026-01-01', '2026-01-01T00:00:00Z', '%00', '%FF', '%', '<', 'library:waterways', OaiServer::prefix().'D-00001-H', 'é', str_repeat('x', 200), 'verb=ListRecords&metadataPrefix=oai_dc', '&from=', '&set='];
    for ($i = 0; $i < 10_000; $i++) {
        $query = '';
        for ($n = mt_rand(0, 9); $n > 0; $n--) {
            $query .= $bits[mt_rand(0, count($bits) - 1)];
        }
        $document = new DOMDocument;
        if (! @$document->loadXML($server->answer($user, $query, 'http://127.0.0.1/oai'))) {
            expect($query)->toBe('');
        }
    }
    expect($document->documentElement?->localName)->toBe('OAI-PMH');
});
