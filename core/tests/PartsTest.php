<?php

declare(strict_types=1);

use Brenvic\Core\Design\AccessRule;
use Brenvic\Core\Design\Design;
use Brenvic\Core\Design\DesignCheck;
use Brenvic\Core\Design\DesignKind;
use Brenvic\Core\Design\DossierKindPart;
use Brenvic\Core\Design\FieldPart;
use Brenvic\Core\Design\LibraryPart;
use Brenvic\Core\Design\Part;
use Brenvic\Core\Design\RepositoryPart;
use Brenvic\Core\Design\TablePart;
use Brenvic\Core\Design\TypePart;
use Brenvic\Core\Design\ViewPart;
use Brenvic\Core\Design\VocabularyPart;
use Brenvic\Core\Fields\FieldDefinition;
use Brenvic\Core\Fields\InvalidDefinition;
use Brenvic\Core\Fields\Kinds\TextKind;
use Brenvic\Core\Query\IndexNames;
use Brenvic\Core\Search\Asking\KeptSearch;
use Brenvic\Core\Search\Asking\SearchSchema;

/** A design with one part of each kind, all of which refer to others. */
function designOfParts(): Design
{
    $parts = [
        'repositories' => ['ops' => ['name' => 'Operations'], 'far' => ['name' => 'Far', 'address' => 'https://sru.example/', 'groups' => ['Board']]],
        'vocabularies' => ['reach' => ['name' => 'Reaches', 'terms' => [['code' => 'n', 'label' => 'North']]]],
        'fields' => [
            'reach' => ['label' => 'Reach', 'kind' => 'choice', 'vocabulary' => 'reach'],
            'fee' => ['label' => 'Fee', 'kind' => 'number'],
            'day' => ['label' => 'Day', 'kind' => 'date'],
        ],
        'tables' => ['fees' => ['name' => 'Fees', 'key' => 'reach', 'fills' => ['fee'], 'rows' => [['n', '12']]]],
        'types' => [
            'permit' => [
                'name' => 'Permit',
                'title_pattern' => 'Permit {reach}',
                'fields' => [['code' => 'reach', 'required' => true], ['code' => 'fee', 'default' => '5']],
                'filers' => ['Clerks'],
                'designers' => ['Librarians'],
            ],
        ],
        'libraries' => [
            'harbour' => [
                'name' => 'Harbour',
                'repository' => 'ops',
                'types' => ['permit'],
                'view' => 'fees',
                'groups' => [['group' => 'Clerks', 'change' => true], ['group' => 'Board']],
            ],
        ],
        'views' => [
            'fees' => [
                'name' => 'Fees',
                'criterion' => 'reach == n',
                'columns' => ['title', 'fee'],
                'sort' => [['field' => 'day', 'descending' => true]],
                'levels' => [['field' => 'reach', 'total' => 'fee']],
                'groups' => ['Board'],
            ],
        ],
        'dossier_kinds' => [
            'case' => [
                'name' => 'Case',
                'fields' => [['code' => 'day', 'handed_down' => true]],
                'sections' => [['code' => 'a', 'name' => 'First']],
                'types' => ['permit'],
                'list_view' => 'fees',
            ],
        ],
        'forms' => ['ask' => ['name' => 'Ask', 'libraries' => ['harbour'], 'fields' => [['code' => 'fee', 'relation' => 'between']]]],
        'access' => ['quiet' => ['name' => 'Quiet', 'criterion' => 'fee > 10', 'acts' => ['see'], 'groups' => ['Board']]],
        'sources' => ['scans' => [
            'name' => 'Scans',
            'folder' => 'scans',
            'library' => 'harbour',
            'type' => 'permit',
            'pattern' => '{reach}_{day}',
            'values' => [['code' => 'fee', 'value' => '10']],
            'group' => 'Board',
        ]],
        'readings' => ['days' => [
            'name' => 'Days',
            'field' => 'day',
            'types' => ['permit'],
            'method' => 'words',
            'vocabulary' => 'reach',
            'words' => [['value' => 'Today', 'spellings' => ['now']]],
        ]],
        'work_forms' => ['apply' => [
            'name' => 'Apply',
            'library' => 'harbour',
            'types' => ['permit'],
            'fields' => [['code' => 'reach', 'required' => true], ['code' => 'fee']],
            'files' => 3,
            'group' => 'Board',
            'goes' => 'filed',
        ]],
        'procedures' => ['fees' => [
            'name' => 'Fees',
            'types' => ['permit'],
            'begins' => 'filing',
            'criterion' => 'fee > 1',
            'keepers' => 'Board',
            'steps' => [
                [
                    'code' => 'look',
                    'name' => 'Look',
                    'kind' => 'ask',
                    'who' => [['kind' => 'group', 'value' => 'Clerks']],
                    'question' => 'Is the fee right?',
                    'sheet' => [['code' => 'fee', 'required' => true]],
                    'decisions' => [['code' => 'yes', 'label' => 'Yes', 'ways' => [['to' => 'note', 'criterion' => 'fee > 10'], ['to' => 'done']]]],
                ],
                [
                    'code' => 'note',
                    'name' => 'Note',
                    'kind' => 'act',
                    'acts' => [
                        ['kind' => 'value', 'field' => 'day', 'text' => '{today}'],
                        ['kind' => 'new_dossier', 'dossier_kind' => 'case'],
                        ['kind' => 'notice', 'to' => ['kind' => 'group', 'value' => 'Board'], 'text' => 'Look'],
                        ['kind' => 'begin', 'procedure' => 'fees'],
                    ],
                    'ways' => [['to' => 'done']],
                ],
                ['code' => 'done', 'name' => 'Done', 'kind' => 'end'],
            ],
        ]],
    ];

    return new Design($parts);
}

it('reads every kind of part as a value, and finds nothing wrong with what fits', function () {
    $design = designOfParts();
    foreach (DesignKind::cases() as $kind) {
        $parts = $design->parts($kind->part());
        expect($parts)->not->toBe([]);
        foreach ($parts as $code => $part) {
            expect($part::kind())
                ->toBe($kind)
                ->and($part->code)
                ->toBe($code)
                ->and($part->calledBy())
                ->not->toBe('')
                ->and($part)
                ->toEqual($design->one($kind->part(), (string) $code));
        }
        expect($design->one($kind->part(), 'none'))->toBeNull();
    }
    expect((new DesignCheck($design, [], ['Board', 'Clerks', 'Librarians'], ['Librarians']))->faults())->toBe([]);
});

it('refers only to what is there, and is referred to from there', function () {
    $design = designOfParts();
    $check = new DesignCheck($design, []);
    $built = ['title', 'path'];
    foreach (DesignKind::cases() as $kind) {
        foreach ($design->parts($kind->part()) as $part) {
            foreach ($part->refersTo() as [$of, $code]) {
                if (! in_array($code, $built, true)) {
                    expect($design->part($of, $code))->not->toBeNull("{$kind->value}/{$part->code} refers to {$of->value}/{$code}");
                }
                $users = array_map(static fn (Part $user): string => $user::class.$user->code, $check->references($of, $code));
                expect($users)->toContain($part::class.$part->code);
            }
        }
    }
    expect($check->usersOf(DesignKind::Type, 'permit'))
        ->toBe(['the library “Harbour”', 'the dossier kind “Case”', 'the source “Scans”', 'the reading rule “Days”', 'the procedure “Fees”', 'the work form “Apply”'])
        ->and($check->references(DesignKind::Field, 'none'))
        ->toBe([]);
});

it('names what is wrong where a part that others name is gone', function (DesignKind $kind, string $code, array $faults) {
    $design = designOfParts()->with($kind, $code, null);
    $found = (new DesignCheck($design, []))->faults();
    expect(array_map(static fn (array $f): string => "{$f['kind']}/{$f['code']} {$f['property']}", $found))->toBe($faults);
})->with([
    [DesignKind::Repository, 'ops', ['libraries/harbour repository']],
    // No field can be had while one of them is wrong.
    [DesignKind::Vocabulary, 'reach', ['fields/reach vocabulary', 'types/permit vocabulary', 'views/fees vocabulary', 'access/quiet vocabulary', 'readings/days vocabulary', 'procedures/fees vocabulary', 'work_forms/apply vocabulary']],
    [DesignKind::Type, 'permit', ['libraries/harbour types', 'dossier_kinds/case types', 'sources/scans type', 'readings/days types', 'procedures/fees types', 'work_forms/apply types']],
    [DesignKind::Library, 'harbour', ['forms/ask libraries', 'sources/scans library', 'work_forms/apply library']],
    [DesignKind::View, 'fees', ['libraries/harbour view', 'dossier_kinds/case list_view']],
    [DesignKind::Form, 'ask', []],
    [DesignKind::Field, 'fee', [
        'tables/fees fills', 'types/permit fields', 'views/fees columns', 'forms/ask fields', 'access/quiet criterion', 'sources/scans values', 'procedures/fees criterion',
    ]],
]);

it('refuses what does not work', function (DesignKind $kind, string $code, array $change, string $property, string $message) {
    $design = designOfParts();
    $design = $design->with($kind, $code, [...$design->part($kind, $code) ?? [], ...$change]);
    try {
        (new DesignCheck($design, [], ['Board', 'Clerks', 'Librarians'], ['Librarians']))->part($kind, $code);
        $found = null;
    } catch (InvalidDefinition $fault) {
        $found = $fault;
    }
    expect($found?->property)->toBe($property)->and($found?->getMessage())->toContain($message);
})->with([
    [DesignKind::Repository, 'ops', ['address' => 'https://sru.example/'], 'address', 'Harbour'],
    [DesignKind::Repository, 'far', ['address' => 'ftp://sru.example/'], 'address', 'begins with http'],
    [DesignKind::Repository, 'far', ['address' => 'https://a:b@sru.example/'], 'address', 'no name or password'],
    [DesignKind::Repository, 'far', ['groups' => ['Nobody']], 'groups', 'no group “Nobody”'],
    [DesignKind::WorkForm, 'apply', ['library' => 'none'], 'library', 'no library'],
    [DesignKind::WorkForm, 'apply', ['types' => []], 'types', 'Choose the document type'],
    [DesignKind::WorkForm, 'apply', ['fields' => [['code' => 'day']]], 'fields', 'needs Reach'],
    [DesignKind::WorkForm, 'apply', ['fields' => [['code' => 'day']], 'goes' => 'intake'], 'fields', 'on the index sheet of none'],
    [DesignKind::WorkForm, 'apply', ['fields' => [['code' => 'reach'], ['code' => 'reach']], 'goes' => 'intake'], 'fields', 'appears twice'],
    [DesignKind::Procedure, 'fees', ['types' => ['none']], 'types', 'none'],
    [DesignKind::Procedure, 'fees', ['criterion' => 'nothing = 1'], 'criterion', 'nothing'],
    [DesignKind::Procedure, 'fees', ['begins' => 'when', 'criterion' => ''], 'criterion', 'has to be true'],
    [DesignKind::Procedure, 'fees', ['steps' => []], 'steps', 'no step'],
    [
        DesignKind::Procedure,
        'fees',
        ['steps' => [
            [
                'code' => 'look',
                'name' => 'Look',
                'kind' => 'ask',
                'who' => [['kind' => 'field', 'value' => 'fee']],
                'question' => 'Whose is it?',
                'decisions' => [['code' => 'yes', 'label' => 'Yes', 'ways' => [['to' => 'done']]]],
            ],
            ['code' => 'done', 'name' => 'Done', 'kind' => 'end'],
        ]],
        'steps',
        'Fee does not name people',
    ],
    [
        DesignKind::Procedure,
        'fees',
        ['steps' => [
            [
                'code' => 'look',
                'name' => 'Look',
                'kind' => 'ask',
                'who' => [['kind' => 'group', 'value' => 'Clerks']],
                'question' => 'On which day?',
                'sheet' => [['code' => 'day']],
                'decisions' => [['code' => 'yes', 'label' => 'Yes', 'ways' => [['to' => 'done']]]],
            ],
            ['code' => 'done', 'name' => 'Done', 'kind' => 'end'],
        ]],
        'steps',
        'has no Day to be filled',
    ],
    [DesignKind::Reading, 'days', ['field' => 'none'], 'field', 'none'],
    [DesignKind::Reading, 'days', ['types' => ['none']], 'types', 'none'],
    [DesignKind::Reading, 'days', ['vocabulary' => null, 'words' => []], 'words', 'choose a vocabulary'],
    [DesignKind::Reading, 'days', ['method' => 'position', 'anchor' => ' : '], 'anchor', 'printed beside'],
    [DesignKind::Reading, 'days', ['method' => 'pattern', 'pattern' => ''], 'pattern', 'Enter a pattern'],
    [DesignKind::Reading, 'days', ['method' => 'pattern', 'pattern' => '(a)\\1'], 'pattern', 'not supported'],
    [DesignKind::Library, 'harbour', ['repository' => 'far'], 'repository', 'remote repository'],
    [DesignKind::Library, 'harbour', ['groups' => [['group' => 'Nobody']]], 'groups', 'Nobody'],
    [DesignKind::Library, 'harbour', ['designers' => ['Clerks']], 'designers', 'Nobody who designs'],
    [DesignKind::Vocabulary, 'reach', ['depends_on' => 'fee'], 'depends_on', 'choice field'],
    [DesignKind::Vocabulary, 'reach', ['depends_on' => 'none'], 'depends_on', 'no field'],
    [DesignKind::Field, 'fee', ['formerly' => ['day']], 'formerly', 'still there'],
    [DesignKind::Table, 'fees', ['fills' => ['reach']], 'fills', 'cannot be one of'],
    [DesignKind::Table, 'fees', ['rows' => [['n']]], 'rows', 'Row 1 has 1 cells'],
    [DesignKind::Table, 'fees', ['source' => 'outside', 'columns' => ['k']], 'columns', 'Name a column'],
    [DesignKind::Type, 'permit', ['title_pattern' => '{day}'], 'title_pattern', '{day}'],
    [DesignKind::Type, 'permit', ['fields' => [['code' => 'fee'], ['code' => 'fee']], 'title_pattern' => ''], 'fields', 'twice'],
    [
        DesignKind::Type,
        'permit',
        ['fields' => [['code' => 'fee', 'required' => true, 'read_only' => true]], 'title_pattern' => ''],
        'fields',
        'nobody could fill it in',
    ],
    [DesignKind::Type, 'permit', ['fields' => [['code' => 'reach', 'below' => 'x']]], 'fields', 'no term “x”'],
    [DesignKind::View, 'fees', ['levels' => [['field' => 'reach', 'total' => 'reach']]], 'levels', 'summed up'],
    [DesignKind::View, 'fees', ['levels' => [['field' => 'reach', 'total' => 'day']]], 'levels', 'Dates have no sum'],
    [DesignKind::View, 'fees', ['criterion' => 'nothing == 1'], 'criterion', 'nothing'],
    [DesignKind::DossierKind, 'case', ['sections' => [['code' => 'a'], ['code' => 'a']]], 'sections', 'twice'],
    [DesignKind::Access, 'quiet', ['criterion' => 'fee >'], 'criterion', ''],
]);

it('says what a part has, and who it is for', function () {
    $design = designOfParts();
    $view = $design->one(ViewPart::class, 'fees');
    $rule = $design->one(AccessRule::class, 'quiet');
    $library = $design->one(LibraryPart::class, 'harbour');
    expect([$view?->isFor(['Board']), $view?->isFor(['Clerks']), ViewPart::of('v', [])->isFor([])])
        ->toBe([true, false, true])
        ->and([$rule?->withholds('see', ['Clerks']), $rule?->withholds('see', ['Board']), $rule?->withholds('change', ['Clerks'])])
        ->toBe([true, false, false])
        ->and($library?->members)
        ->toBe(['Clerks' => true, 'Board' => false])
        ->and($library?->groups())
        ->toBe(['Clerks', 'Board'])
        ->and($design->one(TypePart::class, 'permit')?->groups())
        ->toBe(['Clerks', 'Librarians'])
        ->and($design->one(DossierKindPart::class, 'case')?->fields[0]->isHandedDown)
        ->toBeTrue()
        ->and([$design->one(RepositoryPart::class, 'far')?->isSearchedBy(['Board']), $design->isRemote('ops'), $design->isRemote('none')])
        ->toBe([true, false, false])
        ->and([$design->one(TablePart::class, 'fees')?->rows, $design->one(FieldPart::class, 'fee')?->vocabulary])
        ->toBe([[['n', '12']], null])
        ->and($design->one(VocabularyPart::class, 'reach')?->calledBy())
        ->toBe('Reaches');
});

it('leaves out what is not of the shape, whatever a file has', function () {
    seeded(94);
    $any = static function (int $depth) use (&$any): mixed {
        return match (mt_rand(0, 6)) {
            0 => null,
            1 => mt_rand(-5, 5),
            2 => mt_rand(0, 1) === 0,
            3 => ['fee', 'ops', '', 'x'][mt_rand(0, 3)],
            4 => $depth === 0 ? [] : array_map(static fn (): mixed => $any($depth - 1), range(0, mt_rand(0, 3))),
            default => $depth === 0
                ? 'n'
                : ['code' => $any($depth - 1), 'field' => $any($depth - 1), 'group' => $any($depth - 1), 'total' => $any(0)],
        };
    };
    $properties = ['name', 'label', 'fields', 'groups', 'types', 'columns', 'sort', 'levels', 'terms', 'rows', 'view', 'criterion', 'acts'];
    for ($round = 0; $round < 300; $round++) {
        foreach (DesignKind::cases() as $kind) {
            $content = [];
            foreach ($properties as $property) {
                $content[$property] = $any(3);
            }
            $part = $kind->part()::of('p', $content);
            // Whatever it names is a code.
            foreach ($part->refersTo() as [, $code]) {
                expect($code)->toBeString();
            }
            expect(array_filter($part->groups(), is_string(...)))->toBe($part->groups());
        }
    }
});

it('keeps searches as they are, and reads what older ones left out', function () {
    $kept = [
        'words' => 'gate',
        'any' => true,
        'view' => 'fees',
        'where' => ['title'],
        'outside' => [],
        'criteria' => [['cql' => 'fee > 1', 'negated' => true, 'on' => false]],
    ];
    $names = new class implements IndexNames
    {
        public function isIndex(string $name): bool
        {
            return $name === 'fee';
        }
    };
    expect(json_decode((string) json_encode(KeptSearch::of($kept)), true))
        ->toBe($kept)
        ->and(json_decode((string) json_encode(KeptSearch::of(['words' => 'x'])), true))
        ->toBe(['words' => 'x', 'any' => false, 'view' => '', 'where' => [], 'criteria' => []])
        ->and(KeptSearch::of(['words' => 7, 'criteria' => ['x', ['cql' => 'a', 'on' => 0]], 'where' => 'title', 'outside' => [1, 'far']]))
        ->toEqual(new KeptSearch('', false, '', [], ['far'], [['cql' => 'a', 'negated' => false, 'on' => false]]))
        ->and(KeptSearch::of(['words' => 'x', 'reach' => 'same_stem'])->jsonSerialize())
        ->toHaveKey('reach', 'same_stem')
        ->and(KeptSearch::of(['words' => 'gate', 'reach' => 'same_stem'])->read($names)->ledger()->lines[0]->cql())
        ->toBe('cql.serverChoice = /stem gate')
        ->and(KeptSearch::of($kept)->read($names)->ledger()->lines)
        ->toHaveCount(2);
});

it('tells a kept search as the ledger does, without lines that are off or not to be read', function () {
    $schema = new SearchSchema([new FieldDefinition('vessel', 'Vessel', new TextKind)]);
    $line = static fn (string $cql, bool $negated = false, bool $on = true): array => ['cql' => $cql, 'negated' => $negated, 'on' => $on];
    $kept = new KeptSearch(
        'gate',
        criteria: [
            $line('vessel == tern or vessel == gull', true),
            $line('weir'),
            $line('text any "a b"'),
            $line('vessel == off', on: false),
            $line('gone == 1'),
            $line('vessel =='),
        ],
    );
    expect($kept->inWords($schema))->toBe('gate; Vessel is none of tern, gull; contains weir; Full text contains any of a b');
});
