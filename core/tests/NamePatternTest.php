<?php

declare(strict_types=1);

use Brenvic\Core\Design\Design;
use Brenvic\Core\Design\DesignCheck;
use Brenvic\Core\Design\DesignKind;
use Brenvic\Core\Design\FieldMerge;
use Brenvic\Core\Design\NamePattern;
use Brenvic\Core\Design\SourcePart;
use Brenvic\Core\Fields\InvalidDefinition;

it('reads what the name of a file says', function (string $pattern, string $path, ?array $read) {
    expect((new NamePattern($pattern))->read($path))->toBe($read);
})->with([
    ['{structure}_{day}', 'Swan lock_2024-03-14.pdf', ['structure' => 'Swan lock', 'day' => '2024-03-14']],
    ['{structure}_{day}', 'Swan_lock_2024.pdf', ['structure' => 'Swan', 'day' => 'lock_2024']],
    ['{structure}_{day}', 'Swan lock.pdf', null],
    ['{water}/{day} {title}', 'Tarn/2024-03 Survey of the weir.tiff', ['water' => 'Tarn', 'day' => '2024-03', 'title' => 'Survey of the weir']],
    ['{water}/{day} {title}', 'deep/Tarn/2024-03 Survey.tiff', null],
    ['Permit {no}', 'Permit LK-0417.pdf', ['no' => 'LK-0417']],
    ['Permit {no}', 'permit LK-0417.pdf', null],
    // What would mean something in a regular expression is what it is.
    ['({no}) [{day}].{x}', '(7) [2024].a.pdf', ['no' => '7', 'day' => '2024', 'x' => 'a']],
    ['{no}', 'Größe 7.PDF', ['no' => 'Größe 7']],
    ['{a}-{b}', ' x - y .pdf', ['a' => 'x', 'b' => 'y']],
    ['', 'x.pdf', null],
    ['{a}', "\xFF.pdf", null],
]);

it('gives back what it was made of, whatever the texts, as long as they have not the signs between them', function () {
    seeded(17);
    $signs = ['a', 'ß', '7', ' ', '.', '(', '$', '-'];
    for ($round = 0; $round < 400; $round++) {
        $fields = array_map(static fn (int $i): string => "f{$i}", range(1, mt_rand(1, 4)));
        $texts = array_map(
            static fn (): string => trim(implode('', array_map(static fn (): string => $signs[mt_rand(0, 7)], range(1, 9)))) ?: 'x',
            $fields,
        );
        $pattern = implode('_', array_map(static fn (string $field): string => "{{$field}}", $fields));
        expect((new NamePattern($pattern))->read(implode('_', $texts).'.pdf'))->toBe(array_combine($fields, $texts));
    }
});

it('is done at once with a name that is made to take long', function () {
    $pattern = new NamePattern('{a}_{b}_{c}_{d}_{e}_{f}!');
    expect($pattern->read(str_repeat('_', 900).'.pdf'))->toBeNull()->and($pattern->read(str_repeat('x', 2_000)))->toBeNull();
});

it('says why a pattern cannot tell its fields apart', function (string $pattern, string $says) {
    try {
        (new NamePattern($pattern))->check('pattern');
        $said = '';
    } catch (InvalidDefinition $fault) {
        $said = $fault->getMessage();
    }
    expect($said)->toContain($says);
})->with([
    ['{a}_{b}', ''],
    ['', ''],
    ['scan', 'at least one field'],
    ['{a}{b}', 'Something must stand between'],
    ['{a}_{a}', 'once only'],
    ['{a}_{B c}', 'a brace that encloses no field'],
]);

it('refuses a source that could not work', function (array $change, string $property) {
    $design = (new Design())
        ->with(DesignKind::Repository, 'here', ['name' => 'Here'])
        ->with(DesignKind::Field, 'day', ['label' => 'Day', 'kind' => 'date'])
        ->with(DesignKind::Type, 'letter', ['name' => 'Letter', 'fields' => [['code' => 'day']]])
        ->with(DesignKind::Type, 'plan', ['name' => 'Plan', 'fields' => [['code' => 'day']]])
        ->with(DesignKind::Library, 'office', ['name' => 'Office', 'repository' => 'here', 'types' => ['letter']])
        ->with(DesignKind::Source, 'scans', ['name' => 'Scans', 'folder' => 'a/b', 'library' => 'office', 'group' => 'Clerks'])
        ->with(DesignKind::Source, 'new', [
            'name' => 'New', 'folder' => 'c', 'library' => 'office', 'type' => 'letter', 'pattern' => 'x {day}', 'group' => 'Clerks', ...$change,
        ]);
    $faults = (new DesignCheck($design, [], ['Clerks']))->faults();
    expect(array_values(array_unique(array_column($faults, 'property'))))->toBe($property === '' ? [] : [$property]);
})->with([
    'sound' => [[], ''],
    'no library' => [['library' => 'none'], 'library'],
    'a type that is none' => [['type' => 'none'], 'type'],
    'a type that its library does not take' => [['type' => 'plan'], 'type'],
    'no folder' => [['folder' => '/'], 'folder'],
    'a folder above' => [['folder' => '../etc'], 'folder'],
    'a hidden folder' => [['folder' => 'x/.taken'], 'folder'],
    'the folder of another' => [['folder' => 'a/b'], 'folder'],
    'a folder in that of another' => [['folder' => 'a/b/c'], 'folder'],
    'a folder that has that of another in it' => [['folder' => 'a'], 'folder'],
    'a folder that only begins alike' => [['folder' => 'a/bc'], ''],
    'a pattern without a field' => [['pattern' => 'x'], 'pattern'],
    'a field that is none' => [['pattern' => '{none}'], 'pattern'],
    'a value of a field that is none' => [['values' => [['code' => 'none', 'value' => '1']]], 'values'],
    'a group that is none' => [['group' => 'None'], 'group'],
]);

it('follows a field that is merged into another', function () {
    $design = (new Design())
        ->with(DesignKind::Field, 'day', ['label' => 'Day', 'kind' => 'date'])
        ->with(DesignKind::Field, 'date', ['label' => 'Date', 'kind' => 'date'])
        ->with(DesignKind::Source, 'scans', [
            'name' => 'Scans', 'folder' => 'a', 'library' => 'office', 'pattern' => 'x {day}', 'group' => 'g',
            'values' => [['code' => 'day', 'value' => '2024']],
        ]);
    $source = $design->one(SourcePart::class, 'scans');
    foreach (FieldMerge::changes($design, [$source], 'day', 'date') as [$kind, $code, $content]) {
        if ($kind === DesignKind::Source) {
            expect($content['pattern'])->toBe('x {date}')->and($content['values'])->toBe([['code' => 'date', 'value' => '2024']]);
        }
    }
});
