<?php

declare(strict_types=1);

use Brenvic\Core\Exchange\Sru\RemoteQuery;
use Brenvic\Core\Exchange\Sru\SruAnswer;
use Brenvic\Core\Exchange\Sru\SruExplain;
use Brenvic\Core\Exchange\Sru\SruFault;
use Brenvic\Core\Exchange\Sru\SruRequest;
use Brenvic\Core\Fields\Calendar;
use Brenvic\Core\Fields\DateSpan;
use Brenvic\Core\Fields\FieldDefinition;
use Brenvic\Core\Fields\Kinds\ChoiceKind;
use Brenvic\Core\Fields\Kinds\DateKind;
use Brenvic\Core\Fields\Kinds\PersonKind;
use Brenvic\Core\Fields\Kinds\TextKind;
use Brenvic\Core\Fields\Kinds\YesNoKind;
use Brenvic\Core\Fields\PartialDate;
use Brenvic\Core\Fields\Vocabulary;
use Brenvic\Core\Fields\VocabularyTerm;
use Brenvic\Core\Index\Part;
use Brenvic\Core\Query\BooleanNode;
use Brenvic\Core\Query\BooleanOperator;
use Brenvic\Core\Query\Ledger;
use Brenvic\Core\Query\LedgerLine;
use Brenvic\Core\Query\Node;
use Brenvic\Core\Query\Parser;
use Brenvic\Core\Query\SearchClause;
use Brenvic\Core\Query\SortKey;
use Brenvic\Core\Search\Asking\SearchSchema;

function reaches(): Vocabulary
{
    return new Vocabulary('reach', [
        new VocabularyTerm('n', 'North'),
        new VocabularyTerm('n1', 'North basin', 'n', ['the pool']),
        new VocabularyTerm('n11', 'Inner basin', 'n1'),
        new VocabularyTerm('s', 'South?'),
    ]);
}

/** @param  list<Part>|null  $everywhere */
function schemaWithDublinCore(?array $everywhere = null): SearchSchema
{
    $fields = [
        new FieldDefinition('reach', 'Reach', new ChoiceKind, vocabulary: reaches(), dublinCore: 'coverage'),
        new FieldDefinition('dated', 'Dated', new DateKind, dublinCore: 'date'),
        new FieldDefinition('author', 'Author', new TextKind, dublinCore: 'creator'),
        new FieldDefinition('holder', 'Holder', new PersonKind, sensitive: true, dublinCore: 'contributor'),
        new FieldDefinition('sunk', 'Sunk', new YesNoKind, dublinCore: 'subject'),
        new FieldDefinition('alias', 'Other title', new TextKind, dublinCore: 'title'),
        new FieldDefinition('vessel', 'Vessel', new TextKind),
        new FieldDefinition(
            'file_type',
            'File type',
            new ChoiceKind,
            vocabulary: new Vocabulary('file_type', [new VocabularyTerm('pdf', 'PDF')]),
            dublinCore: 'format',
            system: true,
        ),
        new FieldDefinition('rights', 'Rights', new TextKind, dublinCore: 'rights'),
    ];
    $calendar = new Calendar(new DateTimeImmutable('2020-05-20'));

    return $everywhere === null ? new SearchSchema($fields, calendar: $calendar) : new SearchSchema($fields, $everywhere, $calendar);
}

function server(): SruExplain
{
    return new SruExplain(
        'There',
        [
            'dc.title' => true,
            'dc.creator' => false,
            'dc.date' => true,
            'dc.coverage' => false,
            'dc.format' => false,
            'dc.subject' => false,
            'cql.anywhere' => false,
        ],
        ['stem'],
        'dc',
        50,
    );
}

it('says a line in the words of elsewhere', function (string $here, string $there) {
    $query = RemoteQuery::of(Ledger::of(Parser::parse($here)->root), schemaWithDublinCore(), server());
    expect($query->cql)->toBe($there)->and($query->leftOut)->toBe([])->and($query->asks)->toBeTrue();
})->with([
    'words' => ['gate and "lock gear"', 'gate and "lock gear"'],
    'a part of its own' => ['title any "lock sill"', 'dc.title any "lock sill"'],
    'text, which has no index there' => ['text = silt', 'silt'],
    'a term by its name' => ['reach == n11', 'dc.coverage = "Inner basin"'],
    'a term with all below it and its other names' => [
        'reach == n1',
        'dc.coverage = "North basin" or dc.coverage = "the pool" or dc.coverage = "Inner basin"',
    ],
    'a name with a sign that masks' => ['reach == s', 'dc.coverage = "South\?"'],
    'none of a term and what is below it' => ['reach <> n11', 'dc.coverage <> "Inner basin"'],
    'a kind of file by its media type' => ['file_type == pdf', 'dc.format = "application/pdf"'],
    'a year' => ['dated == 2019', 'dc.date >= 2019-01-01 and dc.date <= 2019-12-31'],
    'a day' => ['dated = "14 Mar 2019"', 'dc.date = 2019-03-14'],
    'two dates' => ['dated within "2018 2019-03"', 'dc.date >= 2018-01-01 and dc.date <= 2019-03-31'],
    'a relation by another name of its set' => [
        '>c="info:srw/cql-context-set/1/cql-v1.2" title c.any "lock sill"',
        'dc.title any "lock sill"',
    ],
    'words of terms' => ['reach any "North pool"', 'dc.coverage any "North pool"'],
    'a term that is none here' => ['reach == Elsewhere', 'dc.coverage == Elsewhere'],
    'yes and no' => ['sunk == true or sunk == 0', 'dc.subject == Yes or dc.subject == No'],
    'an element of parts and fields' => ['dc.title = sill', 'dc.title = sill'],
    'words for time' => ['dated within "last year"', 'dc.date >= 2019-01-01 and dc.date <= 2019-12-31'],
    'before and after' => ['dated < 2019 and dated >= 2018-02', 'dc.date < 2019-01-01 and dc.date >= 2018-02-01'],
    'after all of a month' => ['dated > 2019-03', 'dc.date > 2019-03-31'],
    'an element of Dublin Core' => ['dc.creator == "Ada*"', 'dc.creator == Ada*'],
    'under a prefix' => ['>d="http://purl.org/dc/elements/1.1/" d.title = sill', 'dc.title = sill'],
    'a widening it knows' => ['cql.anywhere =/stem gates', 'cql.serverChoice = /stem gates'],
    'the same under the prefix of its set' => ['cql.anywhere =/cql.stem gates', 'cql.serverChoice = /cql.stem gates'],
    'what must not hold' => ['gate not reach == n11', 'gate not dc.coverage = "Inner basin"'],
    'everything' => ['', 'cql.allRecords = 1'],
]);

it('leaves out what cannot or must not be asked there, and says why', function (string $here, string $reason, ?string $there = null) {
    $query = RemoteQuery::of(Ledger::of(Parser::parse("{$here} and gate")->root), schemaWithDublinCore(), server());
    expect($query->leftOut)
        ->toHaveCount(1)
        ->and($query->leftOut[0]->reason)
        ->toContain($reason)
        ->and($query->cql)
        ->toBe($there ?? 'gate');
    $alone = RemoteQuery::of(Ledger::of(Parser::parse($here)->root), schemaWithDublinCore(), server());
    expect($alone->asks)->toBe($there !== null);
})->with([
    'a sensitive field' => ['holder == "Ada Lorne"', 'not sent outside'],
    'the same under the name of its element' => ['dc.contributor == "Ada Lorne"', 'not sent outside'],
    'a field that is mapped to nothing' => ['vessel == Tern', 'not mapped'],
    'an element that is not searched there' => ['rights = open', 'does not search by dc.rights'],
    'what is missing' => ['dated == ""', 'Whether a value is there'],
    'comments' => ['comment = silt', 'only here'],
    'nearness' => ['(lock prox gate)', 'How near'],
    'an alternative with a part that is not known' => ['(vessel == Tern or dated == 2019)', 'not mapped'],
    'a term alone' => ['reach ==/only n', 'without what is below'],
    'a date that holds days' => ['dated encloses 2019-03-14', 'covers'],
    'what is neither yes nor no' => ['sunk == perhaps', 'is neither'],
    'a widening it does not know' => ['cql.anywhere =/fuzzy seepage', 'other spellings', 'seepage and gate'],
]);

it('asks for names where only names are looked in, and for nothing where only paths are', function () {
    $ask = static fn (Part $part): RemoteQuery => RemoteQuery::of(
        Ledger::of(Parser::parse('sill')->root),
        schemaWithDublinCore([$part]),
        server(),
    );
    expect($ask(Part::Names)->cql)->toBe('dc.title = sill')->and($ask(Part::Paths)->asks)->toBeFalse();
});

it('skips lines that are off, and sorts by what can be sorted there', function () {
    $ledger = new Ledger([new LedgerLine(Parser::parse('vessel == Tern')->root, on: false), new LedgerLine(Parser::parse('sill')->root)]);
    $query = RemoteQuery::of($ledger, schemaWithDublinCore(), server(), [
        SortKey::of('author', false),
        SortKey::of('dated', true),
        SortKey::of('vessel', true),
        SortKey::of('title', false),
    ]);
    expect($query->leftOut)->toBe([])->and($query->cql)->toBe('sill sortBy dc.date /sort.descending dc.title');
});

it('means elsewhere what it means here', function () {
    seeded(11);
    $schema = schemaWithDublinCore();
    $terms = reaches();
    $codes = array_map(strval(...), array_keys($terms->terms));
    $dates = ['2018-12-31', '2019-01-01', '2019-03-14', '2019-03-31', '2019-04-01', '2020-05-20'];
    $times = ['2019', '2019-03', '2019-03-14', 'last year', 'this month', '2018-12/2019-03'];
    $relations = ['==', '<', '<=', '>', '>=', '<>', 'within'];
    $here = static function (Node $node, string $reach, string $date) use (&$here, $terms, $schema): bool {
        if ($node instanceof BooleanNode) {
            $left = $here($node->left, $reach, $date);
            $right = $here($node->right, $reach, $date);

            return match ($node->operator) {
                BooleanOperator::And => $left && $right,
                BooleanOperator::Or => $left || $right,
                default => $left && ! $right,
            };
        }
        if ($node->index === 'reach') {
            return in_array($node->term, $terms->lineage($reach), true) !== ($node->relation === '<>');
        }
        $span = DateSpan::parse($node->term, $schema->calendar);
        $day = PartialDate::parse($date)->firstDay();

        return match ($node->relation) {
            '<' => $day < $span->first,
            '<=' => $day <= $span->last,
            '>' => $day > $span->last,
            '>=' => $day >= $span->first,
            '<>' => $day < $span->first || $day > $span->last,
            default => $day >= $span->first && $day <= $span->last,
        };
    };
    $there = static function (Node $node, string $reach, string $date) use (&$there): bool {
        if ($node instanceof BooleanNode) {
            $left = $there($node->left, $reach, $date);
            $right = $there($node->right, $reach, $date);

            return match ($node->operator) {
                BooleanOperator::And => $left && $right,
                BooleanOperator::Or => $left || $right,
                default => $left && ! $right,
            };
        }
        $value = $node->index === 'dc.coverage' ? $reach : $date;
        $term = stripslashes($node->term);

        return match ($node->relation) {
            '=' => $value === $term,
            '<>' => $value !== $term,
            '<' => $value < $term,
            '<=' => $value <= $term,
            '>' => $value > $term,
            default => $value >= $term,
        };
    };
    $random = static function (int $depth) use (&$random, $codes, $times, $relations): Node {
        if ($depth > 0 && mt_rand(0, 1) === 0) {
            return new BooleanNode(
                [BooleanOperator::And, BooleanOperator::Or, BooleanOperator::Not][mt_rand(0, 2)],
                $random($depth - 1),
                $random($depth - 1),
            );
        }

        return mt_rand(0, 1) === 0
            ? new SearchClause('reach', ['==', '<>'][mt_rand(0, 1)], $codes[mt_rand(0, 3)])
            : new SearchClause('dated', $relations[mt_rand(0, 6)], $times[mt_rand(0, 5)]);
    };
    for ($i = 0; $i < 150; $i++) {
        $node = $random(3);
        $query = RemoteQuery::of(Ledger::of($node), $schema, server());
        $asked = Parser::parse($query->cql)->root;
        expect($query->leftOut)->toBe([]);
        foreach ($codes as $code) {
            foreach ($dates as $date) {
                expect($there($asked, $terms->terms[$code]->label, $date))->toBe(
                    $here($node, $code, $date),
                    "{$query->cql} for {$code}, {$date}",
                );
            }
        }
    }
});

it('reads what a server says of itself', function () {
    $explain = SruExplain::read('<explainResponse xmlns="http://www.loc.gov/zing/srw/"><record><recordData><explain xmlns="http://explain.z3950.org/dtd/2.0/">
        <databaseInfo><title>The other archive</title></databaseInfo>
        <indexInfo><index search="true" sort="true"><map><name set="DC">Title</name></map></index><index search="false"><map><name set="dc">rights</name></map></index><index><map><name>anywhere</name></map></index></indexInfo>
        <schemaInfo><schema identifier="info:srw/schema/1/mods-v3.0" name="mods"/><schema identifier="info:srw/schema/1/dc-v1.1" name="dublin"/></schemaInfo>
        <configInfo><setting type="maximumRecords">20</setting><supports type="relationModifier">Stem</supports><supports type="relation">within</supports></configInfo></explain></recordData></record></explainResponse>');
    expect($explain)
        ->toEqual(new SruExplain('The other archive', ['dc.title' => true, 'anywhere' => false], ['stem'], 'dublin', 20))
        ->and($explain->searches('dc.rights'))
        ->toBeFalse()
        ->and((new SruExplain())->searches('dc.rights'))
        ->toBeTrue()
        ->and(fn () => SruExplain::read('<html/>'))
        ->toThrow(SruFault::class);
});

it('reads records of every version of the protocol', function (string $namespace, string $record) {
    $answer = SruAnswer::read(
        "<searchRetrieveResponse xmlns='{$namespace}'><numberOfRecords>41</numberOfRecords><records>{$record}</records></searchRetrieveResponse>",
        20,
    );
    expect($answer->total)
        ->toBe(41)
        ->and($answer->records)
        ->toHaveCount(1)
        ->and($answer->records[0]->elements)
        ->toBe(['title' => ['Sill & gate'], 'date' => ['2019'], 'identifier' => ['SX-1', 'https://there.example/1.pdf']])
        ->and($answer->records[0]->address())
        ->toBe('https://there.example/1.pdf');
})->with([
    '1.1' => ['http://www.loc.gov/zing/srw/', dublinCore()],
    '1.2, as text' => [
        'http://www.loc.gov/zing/srw/',
        '<record><recordPacking>string</recordPacking><recordData>'.htmlspecialchars(inner()).'</recordData></record>',
    ],
    '2.0' => [
        'http://docs.oasis-open.org/ns/search-ws/sruResponse',
        '<record><recordXMLEscaping>xml</recordXMLEscaping><recordData>'.
        inner().
        '</recordData><recordPosition>21</recordPosition></record>',
    ],
]);

function inner(): string
{
    return '<d:dc xmlns:d="info:srw/schema/1/dc-schema" xmlns:x="http://purl.org/dc/elements/1.1/"><x:title> Sill &amp;
        gate</x:title><x:date>2019</x:date><x:identifier>SX-1</x:identifier><x:identifier>https://there.example/1.pdf</x:identifier><x:rights/></d:dc>';
}

function dublinCore(): string
{
    return '<record><recordData>'.inner().'</recordData></record>';
}

it('counts places from the first record asked for, unless the server says them', function () {
    $of = static fn (string $position): SruAnswer => SruAnswer::read(
        '<searchRetrieveResponse><numberOfRecords>9</numberOfRecords><records>'.
            str_replace('</record>', "{$position}</record>", dublinCore()).
            dublinCore().
            '</records></searchRetrieveResponse>',
        4,
    );
    expect(array_column($of('')->records, 'position'))
        ->toBe([4, 5])
        ->and($of('<recordPosition>5</recordPosition>')->records[0]->position)
        ->toBe(4);
});

it('skips a record without data, and keeps the places of the others', function () {
    $answer = SruAnswer::read(
        '<searchRetrieveResponse><numberOfRecords>3</numberOfRecords><records><record><recordPosition>1</recordPosition></record>'.
            dublinCore().
            '<record><recordPacking>string</recordPacking><recordData> '.
            htmlspecialchars(inner()).
            '</recordData><recordPosition>3</recordPosition></record></records></searchRetrieveResponse>',
        0,
    );
    expect(array_column($answer->records, 'position'))
        ->toBe([1, 2])
        ->and($answer->records[1]->first('title'))
        ->toBe('Sill & gate')
        ->and($answer->records[1]->first('creator'))
        ->toBe('');
});

it('names a diagnostic that says nothing by its address', function () {
    $said = static fn (string $inner): array => SruAnswer::read(
        "<searchRetrieveResponse><diagnostics><diagnostic>{$inner}</diagnostic></diagnostics></searchRetrieveResponse>",
        0,
    )->diagnostics;
    expect($said('<uri>info:srw/diagnostic/1/7</uri>'))
        ->toBe(['diagnostic info:srw/diagnostic/1/7'])
        ->and($said(''))
        ->toBe(['diagnostic without a name'])
        ->and($said('<message>No</message>'))
        ->toBe(['No']);
});

it('takes what a server says of the request', function () {
    $answer = SruAnswer::read(
        '<s:searchRetrieveResponse xmlns:s="http://www.loc.gov/zing/srw/"><s:numberOfRecords>0</s:numberOfRecords><s:diagnostics><d:diagnostic xmlns:d="http://www.loc.gov/zing/srw/diagnostic/"><d:uri>info:srw/diagnostic/1/16</d:uri><d:details>dc.rights</d:details><d:message>Unsupported index</d:message></d:diagnostic></s:diagnostics></s:searchRetrieveResponse>',
        0,
    );
    expect($answer->diagnostics)
        ->toBe(['Unsupported index (dc.rights)'])
        ->and($answer->records)
        ->toBe([]);
});

it('names records that are diagnostics, in another schema or broken, and keeps the others', function () {
    $record = static fn (string $data, string $schema = ''): string => '<record>'.
        ($schema === '' ? '' : "<recordSchema>{$schema}</recordSchema>").
        "<recordData>{$data}</recordData></record>";
    $answer = SruAnswer::read(
        '<searchRetrieveResponse><numberOfRecords>6</numberOfRecords><records>'.
            $record(
                '<d:diagnostic xmlns:d="info:srw/xmlns/1/sru-1-1-diagnostic"><d:uri>info:srw/diagnostic/1/64</d:uri><d:message>Record does not exist</d:message><d:details>7</d:details></d:diagnostic>',
                'info:srw/schema/1/diagnostics-v1.1',
            ).
            $record(
                '<m:record xmlns:m="http://www.loc.gov/MARC21/slim"><m:leader>x</m:leader></m:record>',
                'info:srw/schema/1/marcxml-v1.1',
            ).
            $record('<mods xmlns="http://www.loc.gov/mods/v3"/>').
            $record('').
            '<record><recordPacking>string</recordPacking><recordData>&lt;broken</recordData></record>'.
            dublinCore().
            '</records></searchRetrieveResponse>',
        0,
    );
    expect(array_column($answer->records, 'fault'))
        ->toBe([
            'The server gives no record here: Record does not exist (7)',
            'This record is not in Dublin Core but in “info:srw/schema/1/marcxml-v1.1”.',
            'This record is not in Dublin Core but in “http://www.loc.gov/mods/v3”.',
            'This record is empty.',
            'This record cannot be read. It is not XML.',
            '',
        ])
        ->and($answer->records[5]->first('title'))
        ->not->toBe('');
});

it('refuses what is no answer', function (string $xml) {
    expect(fn () => SruAnswer::read($xml, 0))->toThrow(SruFault::class);
})->with([
    '',
    'Bad gateway',
    '<html><body>numberOfRecords</body></html>',
    '<searchRetrieveResponse/>',
    '<searchRetrieveResponse><numberOfRecords>many</numberOfRecords></searchRetrieveResponse>',
    '<!DOCTYPE a [<!ENTITY x SYSTEM "file:///etc/passwd">]><searchRetrieveResponse><numberOfRecords>1</numberOfRecords><records><record><recordData>&x;</recordData></record></records></searchRetrieveResponse>',
]);

it('reads no answer that declares entities, in whatever encoding', function () {
    $xml =
        '<?xml version="1.0" encoding="UTF-16"?><!DOCTYPE a [<!ENTITY x "much">]><searchRetrieveResponse><numberOfRecords>1</numberOfRecords></searchRetrieveResponse>';
    expect(fn () => SruAnswer::read("\xFF\xFE".mb_convert_encoding($xml, 'UTF-16LE', 'UTF-8'), 0))->toThrow(
        SruFault::class,
        'declares XML entities',
    );
});

it('asks by an address that keeps what it had', function () {
    expect(SruRequest::search('https://there.example/sru?key=1', 'dc.title = "a b"', 50, 25, 'dc'))
        ->toBe(
            'https://there.example/sru?key=1&operation=searchRetrieve&version=1.2&query=dc.title%20%3D%20%22a%20b%22&startRecord=51&maximumRecords=25&recordSchema=dc&recordPacking=xml',
        )
        ->and(SruRequest::explain('https://there.example/sru'))
        ->toBe('https://there.example/sru?operation=explain&version=1.2');
});
