<?php

declare(strict_types=1);

use Brenvic\Core\Design\Design;
use Brenvic\Core\Design\DesignKind;
use Brenvic\Core\Design\Proposal\FolderName;
use Brenvic\Core\Design\Proposal\FolderTree;
use Brenvic\Core\Design\Proposal\GatheredAs;
use Brenvic\Core\Design\Proposal\GatheringTaken;
use Brenvic\Core\Design\Proposal\Mapping;
use Brenvic\Core\Design\Proposal\ProposedDesign;
use Brenvic\Core\Design\Proposal\SharedRows;
use Brenvic\Core\Design\Proposal\TableProposal;
use Brenvic\Core\Design\Proposal\TableScan;
use Brenvic\Core\Design\Proposal\Taken;
use Brenvic\Core\Fields\FieldDefinition;

/**
 * Letters about works: each of a job, which has a name and a bridge and lasts some weeks, and to a supplier, who comes again all
 * the years.
 *
 * @return list<list<string>>
 */
function worksRegister(int $rows = 900, float $noise = 0.0): array
{
    $jobs = $suppliers = [];
    for ($i = 0; $i < intdiv($rows, 8); $i++) {
        $jobs[] = [sprintf('J-%04d', $i), 'Job '.base_convert((string) ($i * 7919 + 46_656), 10, 36), 'Bridge '.mt_rand(1, 30), mt_rand(0, 3_000)];
    }
    for ($i = 0; $i < 25; $i++) {
        $suppliers[] = [sprintf('S%03d', $i), 'Maker '.chr(65 + $i), ['Tarnwick', 'Ashby', 'Elmsea'][mt_rand(0, 2)], ['Ida', 'Rowan', 'Isla', 'Jan'][$i % 4]];
    }
    $table = [['Letter', 'Date', 'Job no.', 'Job name', 'Bridge', 'Supplier no.', 'Town', 'Buyer']];
    for ($i = 0; $i < $rows; $i++) {
        $job = $jobs[mt_rand(0, count($jobs) - 1)];
        $supplier = $suppliers[mt_rand(0, 24)];
        $date = date('Y-m-d', 1_500_000_000 + 86_400 * ($job[3] + mt_rand(0, 40)));
        $row = [sprintf('L%05d', $i), $date, $job[0], $job[1], $job[2], $supplier[0], $supplier[2], $supplier[3]];
        if (mt_rand() / mt_getrandmax() < $noise) {
            $row[6] = 'Elsewhere';
        }
        $table[] = $row;
    }

    return $table;
}

function placeOf(TableProposal $proposal, string $name): int
{
    foreach ($proposal->columns as $column) {
        if ($column->name === $name) {
            return $column->place;
        }
    }
    throw new LogicException("There is no column {$name}.");
}

/** @return array<string, array<string, mixed>> by code */
function partsOf(ProposedDesign $made, DesignKind $kind): array
{
    $parts = [];
    foreach ($made->parts as [$of, $code, $content]) {
        if ($of === $kind) {
            $parts[$code] = $content;
        }
    }

    return $parts;
}

/** @return array<string, FieldDefinition> */
function fieldsOf(ProposedDesign $made): array
{
    $design = new Design();
    foreach ($made->parts as [$kind, $code, $content]) {
        $design = $design->with($kind, $code, $content);
    }

    return $design->fields();
}

it('tells dossiers from reference tables by when their rows are, and what they share', function (int $seed, float $noise) {
    seeded($seed);
    $proposal = TableProposal::of(TableScan::of(worksRegister(900, $noise)), new Design());
    $found = [];
    foreach ($proposal->gatherings as $gathering) {
        $names = array_map(static fn (int $place): string => $proposal->columns[$place]->name, $gathering->shares);
        $found[$proposal->columns[$gathering->key]->name] = [$gathering->as, $names];
    }
    // The number of a job says the same as its name, and is the notation there.
    expect($found)->toBe([
        'Job name' => [GatheredAs::Dossiers, ['Bridge']],
        'Supplier no.' => [GatheredAs::Table, ['Town', 'Buyer']],
    ]);
})->with([[1, 0.0], [2, 0.0], [3, 0.02], [4, 0.02], [5, 0.0], [6, 0.02]]);

it('finds nothing that gathers rows where there is nothing', function () {
    seeded(8);
    $rows = [['A', 'B', 'C']];
    for ($i = 0; $i < 600; $i++) {
        $rows[] = ['a'.mt_rand(1, 90), 'b'.mt_rand(1, 40), 'c'.mt_rand(1, 12)];
    }
    expect(TableProposal::of(TableScan::of($rows), new Design())->gatherings)->toBe([]);
});

it('makes a reference table of what most rows have beside a key, as counting by hand has it', function () {
    seeded(21);
    $table = worksRegister(700, 0.02);
    $proposal = TableProposal::of(TableScan::of($table), new Design());
    $made = new ProposedDesign($proposal, [], new Design(), 'Letters');
    $tables = array_values(partsOf($made, DesignKind::Table));
    expect($tables)->toHaveCount(1)->and($tables[0]['name'])->toBe('Supplier');
    $counts = [];
    foreach (array_slice($table, 1) as $row) {
        $counts[$row[5]][$row[6]] = ($counts[$row[5]][$row[6]] ?? 0) + 1;
    }
    $field = fieldsOf($made)['town'];
    expect($tables[0]['fills'])->toBe(['town', 'buyer']);
    foreach ($tables[0]['rows'] as [$code, $town]) {
        $key = strtoupper($code);
        arsort($counts[$key]);
        expect($field->display($town))->toBe(array_key_first($counts[$key]));
    }
    expect(array_map(strtoupper(...), array_column($tables[0]['rows'], 0)))->toEqualCanonicalizing(array_keys($counts));
});

it('makes a dossier kind that hands down what its rows share, and asks for none of it on the documents', function () {
    seeded(5);
    $proposal = TableProposal::of(TableScan::of(worksRegister()), new Design());
    $job = placeOf($proposal, 'Job name');
    $made = new ProposedDesign($proposal, [], new Design(), 'Letters');
    $kinds = partsOf($made, DesignKind::DossierKind);
    expect(array_keys($kinds))->toBe(['job_name'])->and($kinds['job_name']['title_pattern'])->toBe('{job_name} {bridge}');
    $down = array_column(array_filter($kinds['job_name']['fields'], static fn (array $f): bool => $f['handed_down']), 'code');
    expect($down)->toBe(['job_name', 'bridge']);
    $required = [];
    foreach (array_values(partsOf($made, DesignKind::Type))[0]['fields'] as $field) {
        $required[$field['code']] = $field['required'];
    }
    expect($required['job_name'])->toBeFalse()->and($required['letter'])->toBeTrue()->and($required['bridge'])->toBeFalse();

    // Turned down, nothing of it is left.
    $none = new ProposedDesign($proposal, [], new Design(), 'Letters', true, [$job => new GatheringTaken(GatheredAs::Nothing, 'Job')]);
    expect(partsOf($none, DesignKind::DossierKind))->toBe([]);
    $names = array_map(static fn (string $n): string => GatheringTaken::name($n), ['Job no.', 'Supplier number', 'File_ref', 'No.', 'Permit', 'Code']);
    expect($names)->toBe(['Job', 'Supplier', 'File', 'No.', 'Permit', 'Code']);
});

it('puts a column that refines another below it, in one tree, and files what is coarse by the coarse term', function () {
    seeded(13);
    $rows = [['Region', 'Place']];
    $places = ['North' => ['Ash', 'Elm', 'Other'], 'South' => ['Oak', 'Yew', 'Fir']];
    for ($i = 0; $i < 400; $i++) {
        $region = array_rand($places);
        $rows[] = [$region, $i % 20 === 0 ? '' : $places[$region][mt_rand(0, 2)]];
    }
    $proposal = TableProposal::of(TableScan::of($rows), new Design());
    expect($proposal->columns[1]->dependsOn)->toBe(0);
    $made = new ProposedDesign(
        $proposal,
        [0 => new Taken(false, 'Region', 'choice', null), 1 => new Taken(true, 'Place', 'choice', null, isTree: true)],
        new Design(),
        'Places',
    );
    $vocabulary = array_values(partsOf($made, DesignKind::Vocabulary))[0];
    $above = array_column($vocabulary['terms'], 'parent', 'code');
    expect($vocabulary['scheme'])->toBeTrue()->and($above)->toHaveCount(8)->and($above['ash'])->toBe('north')->and($above['yew'])->toBe('south')
        ->and($above['north'])->toBeNull();
    $mapping = Mapping::of($proposal, $made);
    expect($mapping->values(['North', 'Elm'])['values'])->toBe(['place' => ['elm']])
        ->and($mapping->values(['South', ''])['values'])->toBe(['place' => ['south']])
        ->and($mapping->values(['', ''])['values'])->toBe([]);

    // Both as fields of their own: the tree does not reach into the other one.
    $both = new ProposedDesign($proposal, [1 => new Taken(true, 'Place', 'choice', null, isTree: true)], new Design(), 'Places');
    $values = Mapping::of($proposal, $both)->values(['North', 'Elm'])['values'];
    expect($values)->toBe(['region' => ['North'], 'place' => ['elm']]);
});

it('gives the values of two columns to one field', function () {
    $rows = [['Maker', 'Second maker', 'Third'], ...array_merge(...array_fill(0, 30, [['Ash', 'Elm', ''], ['Elm', '', ''], ['Oak', 'Yew', 'x']]))];
    $proposal = TableProposal::of(TableScan::of($rows), new Design());
    $made = new ProposedDesign(
        $proposal,
        [
            0 => new Taken(true, 'Makers', 'choice', null),
            1 => new Taken(true, 'Second maker', 'choice', null, into: 0),
            2 => new Taken(false, 'Third', 'choice', null, into: 1),
        ],
        new Design(),
        'Makers',
    );
    $fields = partsOf($made, DesignKind::Field);
    expect(array_keys($fields))->toBe(['makers'])->and($fields['makers']['multiple'])->toBeTrue();
    $labels = array_column(array_values(partsOf($made, DesignKind::Vocabulary))[0]['terms'], 'label');
    expect($labels)->toEqualCanonicalizing(['Ash', 'Elm', 'Oak', 'Yew']);
    $mapping = Mapping::of($proposal, $made);
    expect($mapping->values(['Oak', 'Yew', ''])['values'])->toBe(['makers' => ['Oak', 'Yew']])
        ->and($mapping->values(['Oak', 'Oak', ''])['values'])->toBe(['makers' => ['Oak']]);
    expect(array_column(array_values(partsOf($made, DesignKind::Type))[0]['fields'], 'code'))->toBe(['makers']);
});

it('adds to a vocabulary in use what it does not know, only when asked', function () {
    $design = (new Design())
        ->with(DesignKind::Vocabulary, 'grade', ['name' => 'Grades', 'terms' => [
            ['code' => 'a', 'label' => 'Good', 'parent' => null, 'note' => 'kept'],
            ['code' => 'fair', 'label' => 'Poor', 'parent' => null],
        ]])
        ->with(DesignKind::Field, 'condition', ['label' => 'Condition', 'kind' => 'choice', 'vocabulary' => 'grade']);
    $rows = [['State'], ...array_merge(...array_fill(0, 30, [['Good'], ['Poor'], ['Good'], ['Good'], ['Poor'], ['Good']])), ...array_fill(0, 30, ['Fair'])];
    $proposal = TableProposal::of(TableScan::of($rows), $design);
    expect($proposal->columns[0]->existing)->toBe('condition')->and($proposal->columns[0]->unknown)->toBe(['Fair']);
    $plain = new ProposedDesign($proposal, [], $design, 'State');
    expect(partsOf($plain, DesignKind::Vocabulary))->toBe([]);
    $made = new ProposedDesign($proposal, [0 => new Taken(true, 'State', 'choice', 'condition', addsTerms: true)], $design, 'State');
    $terms = partsOf($made, DesignKind::Vocabulary)['grade']['terms'];
    // The code that its label would make is another term’s.
    expect(array_column($terms, 'label', 'code'))->toBe(['a' => 'Good', 'fair' => 'Poor', 'fair_2' => 'Fair'])->and($terms[0]['note'])->toBe('kept');
});

it('finds numbers and states in the names of folders, and leaves other names whole', function (array $names, array $columns, array $first) {
    $name = FolderName::of($names);
    expect($name->columns())->toBe($columns)->and($name->parts($names[0]))->toBe($first);
})->with([
    'numbers' => [['0417 Swan lock', '0418 Ash bridge', '0420 Pound', '0421 Weir'], ['Number', 'Name'], ['0417', 'Swan lock']],
    'notations' => [['NAV.02 Dredging', 'NAV.03 Locks', 'NAV.04 Weirs', 'NAV.05-Towpath'], ['Number', 'Name'], ['NAV.02', 'Dredging']],
    'numbers and states' => [
        ['J-12 Ash (closed)', 'J-13 Elm', 'J-14 Oak (closed)', 'J-15 Yew (closed)', 'J-16 Fir'],
        ['Number', 'Name', 'Status'],
        ['J-12', 'Ash', 'closed'],
    ],
    'states behind a dash' => [
        ['Ash - open', 'Elm - open', 'Oak - open', 'Yew - closed', 'Fir - closed', 'Tarn - closed'],
        ['Name', 'Status'],
        ['Ash', 'open'],
    ],
    'years' => [['2019', '2020', '2021', '2022'], ['Name'], ['2019']],
    'words' => [['Letters', 'Plans (old)', 'Photos', 'Minutes'], ['Name'], ['Letters']],
    'what is said once' => [['Ash (north bank)', 'Elm (mill)', 'Oak (weir)', 'Yew (quay)', 'Fir'], ['Name'], ['Ash (north bank)']],
    'too few to tell' => [['1 Ash', '2 Elm'], ['Name'], ['1 Ash']],
]);

it('reads the folders that a file lies in as they were proposed', function () {
    $paths = [];
    foreach (['0417 Swan lock (closed)', '0418 Ash bridge', '0420 Pound (closed)', '0421 Weir (closed)', '0422 Quay'] as $i => $structure) {
        foreach ([2019, 2020, 2021, 2022, 2023] as $year) {
            foreach (range(1, 4) as $n) {
                $paths[] = "office/{$structure}/{$year}/survey {$i}{$n}.pdf";
            }
        }
    }
    $proposal = TableProposal::ofFolders(FolderTree::of($paths), new Design(), 'Surveys');
    expect(array_map(static fn ($c): string => $c->name, $proposal->columns))->toBe(['File', 'Number', 'Folder 1', 'Status', 'Year']);
    $made = new ProposedDesign($proposal, [], new Design(), 'Surveys');
    $mapping = Mapping::of($proposal, $made);
    expect($mapping->valuesOfPath(['0420 Pound (closed)', '2021'], 'x.pdf')['values'])
        ->toEqual(['folder_1' => ['Pound'], 'status' => ['closed'], 'year' => ['2021']])
        ->and($mapping->valuesOfPath(['0422 Quay'], 'x.pdf')['values'])->toBe(['folder_1' => ['Quay']]);
    // The number is another word for the name: its notation.
    $terms = partsOf($made, DesignKind::Vocabulary)['folder_1']['terms'];
    expect(array_column($terms, 'notation', 'label'))->toMatchArray(['Pound' => '0420', 'Quay' => '0422']);
    $levels = array_column(array_values(partsOf($made, DesignKind::View))[0]['levels'], 'field');
    expect($levels)->toBe(['folder_1', 'year']);
});

it('makes no reference table larger than a design keeps', function () {
    $field = (new Design())->with(DesignKind::Field, 'key', ['label' => 'Key', 'kind' => 'text'])->fields()['key'];
    $shared = new SharedRows(0, [1]);
    for ($key = 0; $key < SharedRows::MOST; $key++) {
        $shared->addCells(["K{$key}", 'Ash']);
    }
    expect($shared->rows([$field, $field]))->toHaveCount(SharedRows::MOST);
    $shared->addCells(['one more', 'Ash']);
    expect($shared->rows([$field, $field]))->toBeNull();
});

it('walks the rows of a large table once more, since its sample has not all of them', function () {
    $rows = [['Number', 'Town']];
    for ($i = 0; $i < 30_000; $i++) {
        $rows[] = ['K'.$i % 400, ['Ash', 'Elm', 'Oak'][$i % 400 % 3]];
    }
    $walks = 0;
    $proposal = TableProposal::of(TableScan::of($rows), new Design(), 'Keys', function () use ($rows, &$walks): array {
        $walks++;

        return $rows;
    });
    expect($walks)->toBe(1)->and($proposal->gathered)->toHaveCount(400)->and(array_column($proposal->gathered, 1, 0)['K7'])->toBe('Elm');
});
