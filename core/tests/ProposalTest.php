<?php

declare(strict_types=1);

use Brenvic\Core\Design\Design;
use Brenvic\Core\Design\DesignKind;
use Brenvic\Core\Design\Proposal\CheckDigits;
use Brenvic\Core\Design\Proposal\CodeTree;
use Brenvic\Core\Design\Proposal\ColumnCounts;
use Brenvic\Core\Design\Proposal\ColumnJudge;
use Brenvic\Core\Design\Proposal\ColumnProposal;
use Brenvic\Core\Design\Proposal\DateOrder;
use Brenvic\Core\Design\Proposal\Dependencies;
use Brenvic\Core\Design\Proposal\FolderTree;
use Brenvic\Core\Design\Proposal\Reading;
use Brenvic\Core\Design\Proposal\TableProposal;
use Brenvic\Core\Design\Proposal\TableScan;
use Brenvic\Core\Design\Proposal\TypeProposal;
use Brenvic\Core\Design\Proposal\WrittenDate;
use Brenvic\Core\Design\Proposal\WrittenNumber;
use Brenvic\Core\Fields\CheckCharacter;

/** @param  list<string>  $cells */
function columnOf(array $cells, string $name = 'Column'): ColumnCounts
{
    $column = new ColumnCounts($name);
    array_map($column->add(...), $cells);

    return $column;
}

/** @param  list<string>  $cells */
function readAs(array $cells): Reading
{
    return ColumnJudge::of(columnOf($cells))[0];
}

/** @return list<string> */
function repeated(array $cells, int $times = 5): array
{
    return array_merge(...array_fill(0, $times, $cells));
}

it('reads dates in the forms that registers have them in, and no others', function (string $text, ?string $iso, DateOrder $order = DateOrder::DayFirst) {
    expect(WrittenDate::read($text, $order))->toBe($iso);
})->with([
    ['2024-03-14', '2024-03-14'],
    ['20240314', '2024-03-14'],
    ['2024/3/4', '2024-03-04'],
    ['2024-03', '2024-03'],
    ['1887', '1887'],
    ['14/3/2024', '2024-03-14'],
    ['14.03.2024', '2024-03-14'],
    ['3/14/2024', null],
    ['3/14/2024', '2024-03-14', DateOrder::MonthFirst],
    ['03/2024', '2024-03'],
    ['14 March 2024', '2024-03-14'],
    ['14th of March, 2024', '2024-03-14'],
    ['14-MAR-2024', '2024-03-14'],
    ['March 14, 2024', '2024-03-14'],
    ['Sept. 2024', '2024-09'],
    ['2024 Mar 14', '2024-03-14'],
    ['2024-03-14T10:30:00Z', '2024-03-14'],
    ['14/03/2024 10:30', '2024-03-14'],
    ['14/03/24', null],
    ['31/02/2024', null],
    ['0417', null],
    ['7 of 9', null],
    ['', null],
    ['20249999', null],
]);

it('reads numbers by the sign that parts the decimals of their column', function () {
    expect(WrittenNumber::plain('1.234,50', ','))
        ->toBe('1234.5')
        ->and(WrittenNumber::plain('1,234.50', '.'))
        ->toBe('1234.5')
        ->and(WrittenNumber::plain('1 234', '.'))
        ->toBe('1234')
        ->and(WrittenNumber::plain('12,34.5', '.'))
        ->toBeNull()
        ->and(WrittenNumber::plain('007', '.'))
        ->toBe('7')
        ->and(WrittenNumber::parts('−2,5 m'))
        ->toBe(['digits' => '2,5', 'negative' => true, 'sign' => 'm'])
        ->and(WrittenNumber::parts('£ 1,250.00'))
        ->toBe(['digits' => '1,250.00', 'negative' => false, 'sign' => '£'])
        ->and(WrittenNumber::parts('amd64'))
        ->toBeNull()
        ->and(WrittenNumber::parts('LK-0417'))
        ->toBeNull();
});

it('tells the kind of a column by its values', function (array $cells, string $kind, string $unit = '', string $pattern = '') {
    $reading = readAs($cells);
    expect([$reading->kind, $reading->unit, $reading->pattern])->toBe([$kind, $unit, $pattern]);
})->with([
    'dates' => [['14/03/2024', '1/4/2024', '2 May 2023'], 'date'],
    'years' => [['1987', '2004', '1999', '2011'], 'date'],
    'ranges' => [['Mar 2019 to May 2019', '2020-01/2020-03', '1 Jan 2021 - 4 Feb 2021'], 'date_range'],
    'numbers with a comma and a unit' => [['1,25 m', '0,5 m', '12,75 m', '3 m'], 'number', 'm'],
    'amounts' => [['£1,250.00', '£75', '£0.50', '120.00'], 'amount', 'GBP'],
    'yes and no in words' => [['ja', 'nein', 'Ja', 'nein', 'ja'], 'yes_no'],
    'identifiers' => [['AB-1204', 'AC-0001', 'QX-9310', 'ZZ-4400'], 'identifier', '', 'AA-9999'],
    'numbers with zeros before them' => [['00417', '00418', '01200', '09999'], 'identifier', '', '99999'],
    'web addresses' => [['https://a.example/1', 'http://b.example', 'https://c.example/x'], 'web_address'],
    'terms' => [repeated(['Good', 'Poor', 'Failing']), 'choice'],
    'names' => [['Ash, Ida', 'Rowan Pike', 'Dr Isla Thorne', 'Jan van der Veer'], 'person'],
    'text' => [['The gate leaks at the sill.', 'Nothing seen', 'Paddle replaced by hand'], 'text'],
    'nothing at all' => [['', '', ''], 'text'],
    'small numbers' => [repeated(['1', '2', '3', '4', '5']), 'number'],
    'terms beside a sign for none' => [repeated(['Good', 'n/a', 'Poor', 'Good', '–']), 'choice'],
    'numbers beside a sign for none' => [['12', 'NA', '7', 'NA', '33', '41'], 'number'],
]);

it('decides for the column as a whole whether the day or the month is first, and says why', function () {
    $month = readAs(['3/14/2024', '1/2/2024', '4/5/2024']);
    $day = readAs(['14/3/2024', '1/2/2024', '4/5/2024']);
    $nothing = readAs(['1/2/2024', '4/5/2024', '3/3/2024']);
    expect([$month->order, $day->order, $nothing->order])
        ->toBe([DateOrder::MonthFirst, DateOrder::DayFirst, DateOrder::DayFirst])
        ->and($month->says[0])
        ->toContain('the month is first: 1 date can')
        ->and($nothing->says[0])
        ->toContain('nothing tells');
    $mixed = readAs([...array_fill(0, 99, '14/3/2024'), '3/14/2024']);
    expect([$mixed->order, $mixed->misfits])->toBe([DateOrder::DayFirst, ['3/14/2024' => 1]]);
});

it('finds the system of check characters that identifiers keep to', function (string $name, callable $make) {
    seeded(19);
    $identifiers = array_map(static fn (): string => $make(), range(1, 60));
    expect(CheckDigits::systemOf($identifiers)['name'] ?? null)->toBe($name);
    // Another last character is none of it.
    $wrong = array_map(static fn (string $text): string => substr($text, 0, -1).((int) substr($text, -1) + 1) % 10, $identifiers);
    expect(CheckDigits::systemOf($wrong)['name'] ?? null)->not->toBe($name);
})->with([
    'ISO 7064 MOD 37,36' => ['ISO 7064 MOD 37,36', static function (): string {
        $text = sprintf('LK-%04d-', mt_rand(0, 9999));

        return $text.CheckCharacter::for($text);
    }],
    // ISNI and ORCID; the value is that of the standard’s own computation for these numbers.
    'ISO 7064 MOD 11-2' => ['ISO 7064 MOD 11-2', static function (): string {
        $digits = (string) mt_rand(100_000_000, 999_999_999);
        $sum = 0;
        foreach (str_split($digits) as $digit) {
            $sum = ($sum + (int) $digit) * 2;
        }
        $check = (12 - $sum % 11) % 11;

        return $digits.($check === 10 ? 'X' : $check);
    }],
    'Luhn' => ['modulus 10 (Luhn)', static function (): string {
        $digits = (string) mt_rand(10_000_000, 99_999_999);
        $sum = 0;
        foreach (str_split(strrev($digits)) as $i => $digit) {
            $sum += $i % 2 === 0 ? array_sum(str_split((string) (2 * (int) $digit))) : (int) $digit;
        }

        return $digits.(10 - $sum % 10) % 10;
    }],
    'article numbers' => ['modulus 10, weights 3 and 1', static function (): string {
        $digits = (string) mt_rand(100_000_000_000, 999_999_999_999);
        $sum = 0;
        foreach (str_split($digits) as $i => $digit) {
            $sum += (int) $digit * ($i % 2 === 0 ? 1 : 3);
        }

        return $digits.(10 - $sum % 10) % 10;
    }],
]);

it('knows check characters from outside', function () {
    // Printed in the standards and by those who give the numbers out.
    $twenty = static fn (string $text): array => array_fill(0, 20, $text);
    expect(CheckDigits::systemOf($twenty('0000-0002-1825-0097'))['name'] ?? null)
        ->toBe('ISO 7064 MOD 11-2')
        ->and(CheckDigits::systemOf($twenty('0-306-40615-2'))['name'] ?? null)
        ->toBe('modulus 11, weights 10 to 2')
        ->and(CheckDigits::systemOf($twenty('79927398713'))['name'] ?? null)
        ->toBe('modulus 10 (Luhn)')
        ->and(CheckDigits::systemOf($twenty('4006381333931'))['name'] ?? null)
        ->toBe('modulus 10, weights 3 and 1');
});

it('finds which columns decide which, as comparing every two rows does', function () {
    seeded(41);
    for ($round = 0; $round < 60; $round++) {
        $rows = [];
        $map = array_map(static fn (): string => 'm'.mt_rand(0, 3), range(0, 9));
        $pair = array_map(static fn (): string => 'p'.mt_rand(0, 4), range(0, 99));
        for ($i = 0; $i < 200; $i++) {
            $a = mt_rand(0, 9);
            $b = mt_rand(0, 2);
            $rows[] = ["a{$a}", "b{$b}", $map[$a], $pair[$a * 3 + $b], 'x'.mt_rand(0, 5)];
        }
        $found = array_map(static fn ($d): string => implode('+', $d->from).'>'.$d->to, (new Dependencies($rows))->find());
        foreach ([[[0], 2], [[0], 3], [[0], 4], [[1], 2], [[2], 0], [[4], 0], [[0, 1], 3], [[1, 4], 3]] as [$from, $to]) {
            $holds = true;
            foreach ($rows as $i => $row) {
                foreach (array_slice($rows, $i + 1) as $other) {
                    $same = array_filter($from, static fn (int $c): bool => $row[$c] !== $other[$c]) === [];
                    $holds = $holds && (! $same || $row[$to] === $other[$to]);
                }
            }
            $isConstant = count(array_unique(array_column($rows, $to))) === 1;
            $isTold = in_array(implode('+', $from).">{$to}", $found, true);
            // A pair is told only when neither of the two decides alone.
            $alone = count($from) === 2 && (in_array("{$from[0]}>{$to}", $found, true) || in_array("{$from[1]}>{$to}", $found, true));
            expect($isTold)->toBe($holds && ! $isConstant && ! $alone, implode('+', $from).">{$to}");
        }
    }
});

it('tells what contradicts a dependency', function () {
    $rows = [];
    for ($i = 0; $i < 200; $i++) {
        $rows[] = ['lock '.$i % 4, $i === 7 ? 'Coast' : 'Reach '.$i % 2];
    }
    [$found] = array_filter((new Dependencies($rows))->find(), static fn ($d): bool => $d->from === [0]);
    expect($found->error)
        ->toBe(0.005)
        ->and($found->exceptions)
        ->toBe([['from' => ['lock 3'], 'usual' => 'Reach 1', 'found' => 'Coast', 'rows' => 1]]);
});

/** @return list<list<string>> the table of a known design, with a slip in fifty cells */
function tableOfKnownDesign(float $noise): array
{
    $regions = ['North', 'East', 'South', 'West', 'Coast'];
    $stations = [];
    foreach (range(0, 19) as $i) {
        $stations[] = ['Station '.chr(65 + $i).' upper works', 'S'.sprintf('%02d', $i), $regions[$i % 5]];
    }
    $tags = ['silt', 'weed', 'bridge', 'paddle', 'towpath', 'mooring'];
    $rows = [['Reg. no.', 'Date', 'Depth', 'Fee', 'Region', 'Station', 'Station code', 'Sort', 'Vessel', 'Berth', 'Height', 'Tags', 'Urgent', 'Subject', 'Mail', 'Remarks']];
    for ($i = 0; $i < 3_000; $i++) {
        $number = sprintf('AB-%05d-', $i);
        [$station, $code, $region] = $stations[mt_rand(0, 19)];
        $sort = ['Permit', 'Visit', 'Survey'][mt_rand(0, 2)];
        $row = [
            $number.CheckCharacter::for($number),
            sprintf('%d/%d/%d', mt_rand(1, 12), mt_rand(1, 28), mt_rand(2001, 2024)),
            number_format(mt_rand(10, 9000) / 100, 2, ',', '.').' m',
            '£'.number_format(mt_rand(100, 999_999) / 100, 2),
            $region,
            $station,
            $code,
            $sort,
            $sort === 'Permit' ? 'Vessel '.mt_rand(1, 400) : '',
            $sort !== 'Survey' ? 'B'.mt_rand(1, 30) : '',
            $sort === 'Survey' ? (string) mt_rand(1, 90) : '',
            implode('; ', (array) array_intersect_key($tags, array_flip((array) array_rand($tags, mt_rand(1, 3))))),
            mt_rand(0, 1) === 1 ? 'Yes' : 'No',
            sprintf('NAV.%02d.%d', mt_rand(1, 4), mt_rand(1, 5)),
            'person'.mt_rand(1, 2_000).'@trust.example',
            'Seen at '.mt_rand(1, 9_999).' paces from the '.['sill', 'gate', 'quay'][mt_rand(0, 2)],
        ];
        foreach ($row as $c => $cell) {
            if ($cell !== '' && $c !== 7 && mt_rand() / mt_getrandmax() < $noise) {
                $row[$c] = 'see file '.mt_rand(1, 500);
            }
        }
        $rows[] = $row;
    }

    return $rows;
}

it('gives a known design back from its table, with a slip in fifty cells too', function (float $noise) {
    seeded(77);
    $proposal = TableProposal::of(TableScan::of(tableOfKnownDesign($noise)), new Design());
    $column = static fn (string $name): ColumnProposal => array_values(
        array_filter($proposal->columns, static fn (ColumnProposal $c): bool => $c->name === $name),
    )[0];
    $kinds = array_combine(
        array_map(static fn (ColumnProposal $c): string => $c->name, $proposal->columns),
        array_map(static fn (ColumnProposal $c): string => $c->kind(), $proposal->columns),
    );
    expect($kinds)->toMatchArray([
        'Reg. no.' => 'identifier',
        'Date' => 'date',
        'Depth' => 'number',
        'Fee' => 'amount',
        'Region' => 'choice',
        'Station' => 'choice',
        'Station code' => 'choice',
        'Sort' => 'choice',
        'Height' => 'number',
        'Tags' => 'choice',
        'Urgent' => 'yes_no',
        'Subject' => 'choice',
        'Remarks' => 'text',
    ]);
    expect($column('Reg. no.')->readings[0]->pattern)
        ->toBe('AA-99999-?')
        ->and($column('Date')->readings[0]->order)
        ->toBe(DateOrder::MonthFirst)
        ->and([$column('Depth')->readings[0]->unit, $column('Depth')->readings[0]->decimalSign])
        ->toBe(['m', ','])
        ->and($column('Fee')->readings[0]->unit)
        ->toBe('GBP')
        ->and($column('Tags')->separator)
        ->toBe(';')
        ->and($column('Mail')->sensitivity)
        ->toContain('mail addresses')
        ->and($column('Subject')->isScheme)
        ->toBeTrue()
        ->and($column('Station code')->sameAs)
        ->toBe($column('Station')->place)
        ->and($column('Station')->dependsOn)
        ->toBe($column('Region')->place);
    $station = array_values(array_filter($column('Station')->terms, static fn (array $t): bool => $t['label'] === 'Station H upper works'))[0];
    expect($station)->toMatchArray(['notation' => 'S07', 'under' => ['South']]);
    $section = array_values(array_filter($column('Subject')->terms, static fn (array $t): bool => $t['notation'] === 'NAV.02'));
    expect($section)->toHaveCount(1);
    $types = array_combine(
        array_map(static fn (TypeProposal $t): string => $t->name, $proposal->types),
        array_map(static fn (TypeProposal $t): array => $t->columns, $proposal->types),
    );
    expect(array_keys($types))->toEqualCanonicalizing(['Permit', 'Visit', 'Survey']);
    foreach (['Vessel' => ['Permit'], 'Berth' => ['Permit', 'Visit'], 'Height' => ['Survey']] as $field => $in) {
        foreach ($types as $type => $columns) {
            expect(isset($columns[$column($field)->place]))->toBe(in_array($type, $in, true), "{$field} in {$type}");
        }
    }
    expect($proposal->title[0])->toBe($column('Reg. no.')->place)->and($proposal->levels)->not->toBe([]);
})->with([0.0, 0.02]);

it('prefers a field that is there already, by its terms and not by its name', function () {
    $design = (new Design())
        ->with(DesignKind::Vocabulary, 'grade', [
            'name' => 'Grades',
            'terms' => [['code' => 'a', 'label' => 'Good', 'parent' => null], ['code' => 'b', 'label' => 'Poor', 'parent' => null]],
        ])
        ->with(DesignKind::Field, 'condition', ['label' => 'Condition', 'kind' => 'choice', 'vocabulary' => 'grade']);
    $rows = [['State', 'Colour'], ...repeated([['Good', 'red'], ['Poor', 'blue'], ['Good', 'green']], 20), ['Dreadful', 'red']];
    $proposal = TableProposal::of(TableScan::of($rows), $design);
    expect([$proposal->columns[0]->existing, $proposal->columns[1]->existing])
        ->toBe(['condition', null])
        ->and($proposal->columns[0]->says[0])
        ->toBe('98.4% of its values are terms of Condition; 1 is new: Dreadful');
});

it('makes a tree of codes that nest below each other, and none of codes that all begin alike', function () {
    $tree = array_column(CodeTree::of(['A.1', 'A.2', 'A.2.1', 'B.1', 'B.2', 'B.3'])?->terms([]) ?? [], 'parent', 'notation');
    expect(array_keys($tree))->toEqualCanonicalizing(['A', 'A.1', 'A.2', 'A.2.1', 'B', 'B.1', 'B.2', 'B.3'])
        ->and(CodeTree::of(array_map(static fn (int $i): string => sprintf('P-%04d', $i), range(1, 40))))
        ->toBeNull();
});

it('makes no term of a sign for nothing, but of one that may be a word', function () {
    $rows = [['State', 'Country'], ...repeated([['Good', 'NA'], ['n/a', 'DE'], ['Poor', 'SE'], ['–', 'NO']], 30)];
    $proposal = TableProposal::of(TableScan::of($rows), new Design());
    $labels = static fn (int $place): array => array_column($proposal->columns[$place]->terms, 'label');
    expect($labels(0))->toBe(['Good', 'Poor'])->and($labels(1))->toBe(['DE', 'NA', 'NO', 'SE'])->and($proposal->columns[0]->fill)->toBe(0.5);
});

it('tells no dependency where the deciding column is filled in rows that all say the same', function () {
    seeded(4);
    $rows = [['Sort', 'Format', 'Colour']];
    for ($i = 0; $i < 600; $i++) {
        $isPlan = mt_rand(0, 4) === 0;
        $rows[] = [$isPlan ? 'Plan' : ['Letter', 'Report'][mt_rand(0, 1)], $isPlan ? ['A1', 'A2', 'A3'][mt_rand(0, 2)] : '', ['red', 'blue'][mt_rand(0, 1)]];
    }
    expect((new Dependencies(array_slice($rows, 1)))->find())->toBe([]);
});

it('says what is wrong with a table, and reads on', function () {
    $scan = TableScan::of([['Name', '', 'name', 'Name'], ['a', 'b'], ['c', 'd', 'e', 'f', 'g'], ['', '', '', ''], ['h', 'i', 'j', 'k', '']]);
    expect(array_map(static fn (ColumnCounts $c): string => $c->name, $scan->columns))
        ->toBe(['Name', 'Column 2', 'name 2', 'Name 3'])
        ->and($scan->rows)
        ->toBe(3)
        ->and($scan->faults)
        ->toBe([
            'columns without a name' => 1,
            'columns of a name that another has' => 2,
            'rows with fewer cells than there are columns' => 1,
            'rows with more cells than there are columns' => 1,
        ]);
    expect(TableProposal::of(TableScan::of([]), new Design())->columns)->toBe([]);
    expect(TableProposal::of(TableScan::of([['Only', 'names']]), new Design())->columns[0]->kind())->toBe('text');
});

it('leaves out totals at the foot and names printed on every page, and says when the first line is a row', function () {
    $rows = array_map(static fn (int $i): array => [sprintf('K%03d', $i), (string) (10 * $i), ['Ash', 'Elm'][$i % 2]], range(1, 40));
    $names = ['Key', 'Fee', 'Place'];
    $paged = [$names, ...array_slice($rows, 0, 20), $names, ...array_slice($rows, 20), ['', '', ''], ['Total', '8200', '']];
    $scan = TableScan::of($paged);
    expect([$scan->rows, $scan->faults])->toBe([40, ['rows that repeat the names of the columns' => 1, 'row of totals at the foot' => 1]]);
    // A place called so is none.
    expect(TableScan::of([...array_slice($paged, 0, 21), ['K099', '5', 'Total']])->rows)->toBe(21);
    expect(TableProposal::of($scan, new Design())->faults)->not->toHaveKey('line of names that look like values');
    expect(TableProposal::of(TableScan::of($rows), new Design())->faults)->toBe(['line of names that look like values' => 1]);
});

it('counts what it cannot keep, nearly', function () {
    seeded(3);
    $column = new ColumnCounts('Number');
    for ($i = 0; $i < 120_000; $i++) {
        $column->add('N'.mt_rand(1, 60_000));
    }
    expect($column->isExact())
        ->toBeFalse()
        ->and($column->filled)
        ->toBe(120_000)
        // Of 60,000 numbers some 51,900 are drawn at least once.
        ->and(abs($column->distinct() - 51_880) < 1_500)
        ->toBeTrue()
        ->and(abs(array_sum($column->weights()) - 120_000) < 1)
        ->toBeTrue();
});

it('finds the root and the depth of a folder tree, and counts what lies elsewhere as looking at each path does', function () {
    seeded(11);
    for ($round = 0; $round < 200; $round++) {
        $root = array_slice(['srv', 'office', 'files'], 0, mt_rand(0, 3));
        $depth = mt_rand(1, 4);
        $paths = [];
        for ($i = 0; $i < 60; $i++) {
            $deep = mt_rand(0, 9) === 0 ? mt_rand(0, 5) : $depth;
            $folders = array_map(static fn (int $level): string => "l{$level}-".mt_rand(1, 3), $deep === 0 ? [] : range(1, $deep));
            $paths[] = implode('/', [...$root, ...$folders, 'f'.mt_rand(1, 40).'.txt']);
        }
        // Two that differ at once, so that nothing else is common to all.
        $paths[] = implode('/', [...$root, 'x', ...array_fill(0, $depth - 1, 'y'), 'f.txt']);
        $paths[] = implode('/', [...$root, 'z', ...array_fill(0, $depth - 1, 'y'), 'f.txt']);
        $paths[] = implode('/', [...$root, 'hollow']).'/';
        $tree = FolderTree::of($paths);
        $depths = array_map(static fn (string $path): int => substr_count($path, '/') - count($root), array_slice($paths, 0, -1));
        $counts = array_count_values($depths);
        expect($tree->root)->toBe($root)->and($counts[$tree->depth])->toBe(max($counts));
        $names = array_count_values(array_map(static fn (string $path): string => basename($path), array_slice($paths, 0, -1)));
        expect(array_filter($tree->faults, static fn (string $what): bool => $what !== 'files lying beside folders', ARRAY_FILTER_USE_KEY))->toEqual(array_filter([
            'files nearer to the top than most' => count(array_filter($depths, static fn (int $d): bool => $d < $tree->depth)),
            'files deeper than most' => count(array_filter($depths, static fn (int $d): bool => $d > $tree->depth)),
            'names of files that appear in several folders' => count(array_filter($names, static fn (int $n): bool => $n > 1)),
            'empty folders' => 1,
        ]));
        foreach ($tree->rows() as $i => $row) {
            expect(count($row))->toBe($tree->depth + 1);
        }
    }
});
