<?php

declare(strict_types=1);

use Brenvic\Core\Query\BooleanNode;
use Brenvic\Core\Query\BooleanOperator;
use Brenvic\Core\Query\IndexNames;
use Brenvic\Core\Query\Ledger;
use Brenvic\Core\Query\LedgerLine;
use Brenvic\Core\Query\Lexer;
use Brenvic\Core\Query\Modifier;
use Brenvic\Core\Query\Node;
use Brenvic\Core\Query\Parser;
use Brenvic\Core\Query\PlainQuery;
use Brenvic\Core\Query\PrefixNode;
use Brenvic\Core\Query\Printer;
use Brenvic\Core\Query\Query;
use Brenvic\Core\Query\SearchClause;
use Brenvic\Core\Query\SortKey;
use Brenvic\Core\Query\SyntaxError;

function randomNode(int $depth): Node
{
    $terms = ['gate', 'lock 12', 'a"b', 'or', 'é*', '', 'x\\*y', '(', '=', 'Ünïcode/…', "tab\there", '\\\\'];
    $modifiers = static fn (): array => mt_rand(0, 3) === 0
        ? [new Modifier('stem'), new Modifier('fuzzy', '=', (string) mt_rand(1, 3))]
        : [];
    if ($depth === 0 || mt_rand(0, 2) === 0) {
        $index = [SearchClause::ANYWHERE, 'title', 'silt_depth', 'dc.date'][mt_rand(0, 3)];
        $relation = ['=', '==', '<>', '<=', 'any', 'within', 'exact'][mt_rand(0, 6)];

        return new SearchClause($index, $relation, $terms[mt_rand(0, count($terms) - 1)], $modifiers());
    }
    if (mt_rand(0, 9) === 0) {
        return new PrefixNode(['', 'dc'][mt_rand(0, 1)], 'urn:x', randomNode($depth - 1));
    }

    return new BooleanNode(BooleanOperator::cases()[mt_rand(0, 3)], randomNode($depth - 1), randomNode($depth - 1), $modifiers());
}

it('gives back the tree it printed', function () {
    seeded(42);
    for ($i = 0; $i < 1500; $i++) {
        $keys = mt_rand(0, 2) === 0 ? [SortKey::of('document_date', true), new SortKey('title')] : [];
        $query = new Query(randomNode(4), $keys);
        expect(Parser::parse(Printer::print($query)))->toEqual($query);
    }
});

it('never crashes or hangs on any input', function () {
    seeded(3);
    $pieces = [
        '"',
        '\\',
        '(',
        ')',
        '/',
        '=',
        '<',
        '>',
        '<>',
        'and',
        'not',
        'prox',
        'sortby',
        ' ',
        'a',
        'é',
        "\xC3",
        'any',
        '*',
        "\n",
        '>x=y',
    ];
    for ($i = 0; $i < 3000; $i++) {
        $text = '';
        for ($n = mt_rand(0, 14); $n > 0; $n--) {
            $text .= $pieces[mt_rand(0, count($pieces) - 1)];
        }
        try {
            Parser::parse($text);
        } catch (SyntaxError $error) {
            expect($error->position)->toBeGreaterThanOrEqual(0)->toBeLessThanOrEqual(strlen($text));
        }
        expect(PlainQuery::parse($text))->toBeInstanceOf(Query::class);
    }
    expect(fn () => Parser::parse(str_repeat('(', 5000)))
        ->toThrow(SyntaxError::class, 'nested')
        ->and(fn () => Parser::parse(str_repeat('a', Lexer::MAX_BYTES + 1)))
        ->toThrow(SyntaxError::class, 'longer');
});

it('reads booleans from left to right with one strength', function () {
    $tree = Parser::parse('a or b and c')->root;
    expect($tree)
        ->toBeInstanceOf(BooleanNode::class)
        ->and($tree->operator)
        ->toBe(BooleanOperator::And)
        ->and($tree->left->operator)
        ->toBe(BooleanOperator::Or);
});

it('says where and why a query cannot be read', function (string $cql, int $position, string $message) {
    try {
        Parser::parse($cql);
        $this->fail('accepted');
    } catch (SyntaxError $error) {
        expect($error->position)->toBe($position)->and($error->getMessage())->toContain($message);
    }
})->with([
    ['gate and', 8, 'the end of the query'],
    ['title = "open', 8, 'never closed'],
    ['(gate or lock', 13, 'closing bracket'],
    ['gate)', 4, 'never opened'],
    ['lock gate', 5, 'Expected and, or, not'],
    ['title = ', 8, 'a value for title'],
]);

it('counts how deep brackets are nested, not how many there are', function () {
    $nested = static fn (int $deep): string => str_repeat('(', $deep).'gate'.str_repeat(')', $deep);
    expect(Parser::parse($nested(99))->root)
        ->toEqual(Parser::parse('gate')->root)
        ->and(fn () => Parser::parse($nested(100)))
        ->toThrow(SyntaxError::class, 'Brackets are nested more than 100 deep.')
        // One behind the other they may be as many as there is room for, those with prefixes too.
        ->and(Ledger::of(Parser::parse(implode(' and ', array_fill(0, 300, '(gate)')))->root)->lines)
        ->toHaveCount(300)
        ->and(Ledger::of(Parser::parse(implode(' and ', array_fill(0, 300, '(>dc="urn:dc" gate)')))->root)->lines)
        ->toHaveCount(300);
});

it('takes operators, names, relations, modifiers and prefixes in either case', function (string $written, string $plain) {
    expect(Parser::parse($written))->toEqual(Parser::parse($plain));
})->with([
    ['gate AND lock', 'gate and lock'],
    ['gate Or lock NOT weir', 'gate or lock not weir'],
    ['gate PROX/Distance<3 lock', 'gate prox/distance<3 lock'],
    ['TITLE =/STEM gate', 'title =/stem gate'],
    ['Title Any "gate lock"', 'title any "gate lock"'],
    ['gate SORTBY Title/Sort.Descending', 'gate sortby title/sort.descending'],
    ['>DC="urn:dc" DC.Title DC.near gate', '>dc="urn:dc" dc.title dc.near gate'],
]);

it('reads a query up to its longest, and says of a longer one where it ends', function () {
    $most = str_repeat('a', Lexer::MAX_BYTES);
    expect(Parser::parse($most)->root->term)->toBe($most);
    foreach ([[$most.'a', Lexer::MAX_BYTES], ["gate \xFF", 0]] as [$text, $position]) {
        try {
            Parser::parse($text);
            $this->fail('accepted');
        } catch (SyntaxError $fault) {
            expect($fault->position)->toBe($position);
        }
    }
});

it('takes plain words as all required, with phrases and words left out', function () {
    $words = Printer::print(PlainQuery::parse('gate seepage "lock 12" -draft'));
    expect($words)
        ->toBe('gate and seepage and "lock 12" not draft')
        ->and(Printer::print(PlainQuery::parse('gate seepage', any: true)))
        ->toBe('gate or seepage')
        ->and(PlainQuery::parse("  \n "))
        ->toEqual(Query::everything())
        ->and(Printer::print(PlainQuery::parse('"unclosed phrase')))
        ->toBe('"unclosed phrase"')
        // Signs alone say nothing, whatever stands behind them; brackets round a word neither; a backslash is one.
        ->and(PlainQuery::parse('gate – … (lock) [weir'))
        ->toEqual(PlainQuery::parse('gate lock weir'))
        ->and(PlainQuery::parse('" gate "')->root->term)
        ->toBe('gate')
        ->and(PlainQuery::parse('plans\\locks')->root->term)
        ->toBe('plans\\\\locks');
});

it('tells CQL from plain words by reading it', function (string $text, bool $cql) {
    $names = new class implements IndexNames
    {
        public function isIndex(string $name): bool
        {
            return in_array(strtolower($name), ['title', 'text', 'vessel', 'silt_depth', 'dc.title', 'cql.serverchoice'], true);
        }
    };
    expect(PlainQuery::cql($text, $names) !== null)->toBe($cql);
    $plain = Printer::print(PlainQuery::parse($text));
    expect(Printer::print(PlainQuery::read($text, $names)))->toBe($cql ? Printer::print(Parser::parse($text)) : $plain);
})->with([
    ['marigold ash', false],
    ['vessel = "Marigold Ash"', true],
    ['gate and lock', true],
    ['"a = b"', false],
    ['the lock and the gate', false],
    ['-draft gate', false],
    ['(a or b)', true],
    ['and', false],
    ['silt_depth>0.5', true],
    // The relations that are words, with and without the prefix of their set.
    ['dc.title any "survey permit"', true],
    ['title all survey', true],
    ['title exact "Survey"', true],
    ['text scr gate', true],
    ['title cql.any "survey permit"', true],
    ['text cql.adj "lock gate"', true],
    ['title cql.exact survey', true],
    ['TITLE ANY survey', true],
    ['>c="info:srw/cql-context-set/1/cql-v1.2" title c.any survey', true],
    ['cql.serverChoice all gate', true],
    // Words of the language between plain words.
    ['find any survey', false],
    ['was there any silt', false],
    ['search within results', false],
    ['not all gates', false],
    ['or', false],
    ['and gate', false],
    ['gate (lower)', false],
    ['lock/gate', false],
    ['see fig.3 below', false],
    ['depth > 3 m', false],
    ['gate sortby title', true],
    ['lock not gate', true],
    ['lock prox/distance<3 gate', true],
    ["vessel\u{A0}=\u{3000}Tern", true],
    ['a "b', false],
    // Both sides of a boolean must be meant so.
    ['title any gate and was there silt', false],
    ['find any silt and title any gate', false],
    ['title any gate and text any silt', true],
    ['>c="info:srw/cql-context-set/1/cql-v1.2" >d="urn:d" (find c.any silt or gate d.near lock)', true],
]);

it('says what is wrong where a field is compared', function (string $text) {
    $names = new class implements IndexNames
    {
        public function isIndex(string $name): bool
        {
            return $name === 'vessel';
        }
    };
    expect(fn () => PlainQuery::read($text, $names))->toThrow(SyntaxError::class);
})->with(['vessel = ', 'vessel = Marigold Ash', 'vessel == "open', '(vessel = Tern', 'vessel <> a b']);

it('takes white space of every script as a blank', function (string $blank) {
    expect(Parser::parse("{$blank}gate{$blank}and{$blank}{$blank}lock{$blank}")->root)
        ->toEqual(Parser::parse('gate and lock')->root)
        ->and(PlainQuery::parse("gate{$blank}lock")->root)
        ->toEqual(PlainQuery::parse('gate lock')->root);
})->with(["\u{A0}", "\u{3000}", "\u{2003}", "\u{202F}", "\u{2028}", "\u{1680}", "\u{200B}", "\u{FEFF}", "\u{85}", "\v"]);

it('makes no token that is not valid UTF-8, whatever it is given', function () {
    seeded(17);
    for ($i = 0; $i < 3000; $i++) {
        $text = '';
        for ($n = mt_rand(1, 12); $n > 0; $n--) {
            $text .=
                mt_rand(0, 3) === 0
                    ? ['\\', '"', '(', ' ', '='][mt_rand(0, 4)]
                    : mb_chr([mt_rand(1, 0x2FF), mt_rand(0x2000, 0x30FF), mt_rand(0x10000, 0x10FFF)][mt_rand(0, 2)]);
        }
        try {
            foreach (Lexer::tokens($text) as $token) {
                expect(mb_check_encoding($token->text, 'UTF-8'))->toBeTrue();
            }
            $query = Parser::parse($text);
            expect(Parser::parse(Printer::print($query)))->toEqual($query);
        } catch (SyntaxError) {
        }
    }
});

it('reads words and phrases as long as a query may be', function () {
    $long = str_repeat('a', Lexer::MAX_BYTES - 10);
    expect(Parser::parse($long)->root->term)
        ->toBe($long)
        ->and(Parser::parse('"'.$long.'"')->root->term)
        ->toBe($long)
        ->and(Parser::parse('title = "'.str_repeat('a\\*', 20_000).'"')->root->term)
        ->toBe(str_repeat('a\\*', 20_000))
        ->and(Parser::parse(str_repeat('\\*', 30_000))->root->term)
        ->toBe(str_repeat('\\*', 30_000))
        ->and(PlainQuery::parse($long)->root->term)
        ->toBe($long);
});

it('keeps one form of each escape', function (string $cql, string $term) {
    $tree = Parser::parse($cql);
    expect($tree->root->term)->toBe($term)->and(Parser::parse(Printer::print($tree)))->toEqual($tree);
})->with([
    ['lo\\ck', 'lock'],
    ['title = a\\"b', 'a"b'],
    ['title = "a\\"b"', 'a"b'],
    ['x\\*y', 'x\\*y'],
    ['"\\\\"', '\\\\'],
    ['end\\', 'end\\\\'],
    ['a\\ b', 'a b'],
    ['"C:\\plans\\*"', 'C:plans\\*'],
    ['\\é', 'é'],
    ['\\^a', '\\^a'],
    ['title = \\(a\\)', '(a)'],
]);

it('gives back the tree of any term', function () {
    seeded(5);
    $signs = ['\\', '"', '*', '?', '^', 'a', 'é', ' ', '(', '=', "\u{A0}", '漢', '/'];
    for ($i = 0; $i < 4000; $i++) {
        $term = '';
        for ($n = mt_rand(0, 6); $n > 0; $n--) {
            $term .= $signs[mt_rand(0, count($signs) - 1)];
        }
        $query = new Query(new SearchClause('title', '=', $term));
        expect(Parser::parse(Printer::print($query)))->toEqual($query);
    }
});

it('shows a query as lines and makes the same query of them', function () {
    $root = Parser::parse('gate and (a or b) not draft and year within "2019 2020"')->root;
    $ledger = Ledger::of($root);
    expect(array_map(fn (LedgerLine $line): string => ($line->negated ? '-' : '').$line->cql(), $ledger->lines))
        ->toBe(['gate', 'a or b', '-draft', 'year within "2019 2020"'])
        ->and(Printer::node($ledger->tree()))
        ->toBe('gate and (a or b) and year within "2019 2020" not draft')
        ->and(Ledger::of(Query::everything()->root)->lines)
        ->toBe([]);
});

it('keeps together as one line what is no conjunction', function (string $cql, array $lines) {
    $made = Ledger::of(Parser::parse($cql)->root)->lines;
    expect(array_map(static fn (LedgerLine $line): string => ($line->negated ? '-' : '').$line->cql(), $made))->toBe($lines);
})->with([
    ['gate not (a and b)', ['gate', '-a and b']],
    ['gate not (a not b)', ['gate', '-a not b']],
    ['gate not cql.allRecords = 1', ['gate', '-cql.allRecords = 1']],
    ['cql.allRecords = 1 not gate', ['-gate']],
    ['gate prox lock', ['gate prox lock']],
    ['>dc="urn:dc" gate and lock', ['>dc=urn:dc gate and lock']],
]);
