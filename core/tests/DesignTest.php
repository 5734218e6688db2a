<?php

declare(strict_types=1);

use Brenvic\Core\Design\Design;
use Brenvic\Core\Design\DesignChange;
use Brenvic\Core\Design\DesignCheck;
use Brenvic\Core\Design\DesignKind;
use Brenvic\Core\Fields\InvalidDefinition;

function smallDesign(): Design
{
    return (new Design)
        ->with(DesignKind::Repository, 'ops', ['name' => 'Operations'])
        ->with(DesignKind::Vocabulary, 'grade', ['name' => 'Grades', 'terms' => [['code' => 'a', 'label' => 'Good', 'parent' => null, 'synonyms' => ['Fine']], ['code' => 'b', 'label' => 'Poor', 'parent' => 'a']]])
        ->with(DesignKind::Field, 'grade', ['label' => 'Grade', 'kind' => 'choice', 'vocabulary' => 'grade', 'faceted' => true])
        ->with(DesignKind::Field, 'depth', ['label' => 'Depth', 'kind' => 'number', 'unit' => 'm'])
        ->with(DesignKind::Type, 'survey', ['name' => 'Survey', 'title_pattern' => 'Survey {grade}', 'fields' => [['code' => 'grade', 'required' => true]]])
        ->with(DesignKind::Library, 'canal', ['name' => 'Canal', 'repository' => 'ops', 'types' => ['survey'], 'note' => ''])
        ->with(DesignKind::View, 'all', ['name' => 'All', 'criterion' => 'grade == a and depth > 1', 'columns' => ['grade', 'title'], 'sort' => [], 'levels' => [['field' => 'grade', 'total' => 'depth']]]);
}

it('makes one design of another by the changes between them', function () {
    mt_srand(51);
    $parts = [];
    foreach (DesignKind::cases() as $kind) {
        foreach (smallDesign()->all($kind) as $code => $content) {
            $parts[] = [$kind, (string) $code, $content];
        }
    }
    $random = static function () use ($parts): Design {
        $design = new Design;
        foreach ($parts as [$kind, $code, $content]) {
            mt_rand(0, 3) > 0 && $design = $design->with($kind, $code, mt_rand(0, 1) === 0 ? $content : [...$content, 'name' => 'N'.mt_rand(0, 2)]);
        }

        return $design;
    };
    for ($i = 0; $i < 300; $i++) {
        [$a, $b] = [$random(), $random()];
        $changes = DesignChange::between($a, $b);
        $made = $a;
        foreach ($changes as $change) {
            expect($made->part($change->kind, $change->code))->toBe($change->before);
            $made = $made->with($change->kind, $change->code, $change->after);
        }
        expect(DesignChange::between($made, $b))->toBe([])->and(DesignChange::between($a, $a))->toBe([]);
        // What comes stands behind what it may refer to, what goes before it.
        $places = array_map(static fn (DesignChange $c): int => (int) array_search($c->kind, DesignKind::cases(), true) * ($c->after === null ? -1 : 1), $changes);
        $come = array_filter($places, static fn (int $p, int $i): bool => $changes[$i]->after !== null, ARRAY_FILTER_USE_BOTH);
        $sorted = $come;
        sort($sorted);
        expect(array_values($come))->toBe($sorted);
    }
});

it('tells changes in the words that differ', function () {
    $old = ['name' => 'Grades', 'terms' => [['code' => 'a', 'label' => 'Good', 'parent' => null], ['code' => 'b', 'label' => 'Poor', 'parent' => 'a']]];
    $new = ['terms' => [['label' => 'Good', 'code' => 'a', 'parent' => null], ['code' => 'b', 'label' => 'Bad', 'parent' => 'a']], 'name' => 'Grades'];
    expect((new DesignChange(DesignKind::Vocabulary, 'grade', $old, $new))->properties())->toBe([['property' => 'terms', 'before' => 'b Poor a', 'after' => 'b Bad a']])
        ->and(Design::same(['maximum' => 3.0], ['maximum' => 3]))->toBeTrue()->and(Design::same(['label' => '1000'], ['label' => '1e3']))->toBeFalse();
});

it('finds no fault in what fits, and names the property of what does not', function (DesignKind $kind, string $code, array $change, string $property) {
    $design = smallDesign();
    expect((new DesignCheck($design, []))->faults())->toBe([]);
    $wrong = $design->with($kind, $code, [...$design->part($kind, $code), ...$change]);
    try {
        (new DesignCheck($wrong, []))->part($kind, $code);
        $this->fail('accepted');
    } catch (InvalidDefinition $fault) {
        expect($fault->property)->toBe($property);
    }
    expect(array_column((new DesignCheck($wrong, []))->faults(), 'property'))->toContain($property);
})->with([
    [DesignKind::Field, 'grade', ['vocabulary' => 'none'], 'vocabulary'],
    [DesignKind::Field, 'depth', ['minimum' => 3, 'maximum' => 1], 'maximum'],
    [DesignKind::Vocabulary, 'grade', ['terms' => [['code' => 'a', 'label' => 'A', 'parent' => 'a']]], 'terms'],
    [DesignKind::Type, 'survey', ['fields' => [['code' => 'nothing']]], 'fields'],
    [DesignKind::Type, 'survey', ['title_pattern' => '{depth}'], 'title_pattern'],
    [DesignKind::Library, 'canal', ['repository' => 'none'], 'repository'],
    [DesignKind::Library, 'canal', ['types' => ['none']], 'types'],
    [DesignKind::View, 'all', ['columns' => ['none']], 'columns'],
    [DesignKind::View, 'all', ['levels' => [['field' => 'none']]], 'levels'],
    [DesignKind::View, 'all', ['levels' => [['field' => 'grade', 'total' => 'grade']]], 'levels'],
    [DesignKind::View, 'all', ['criterion' => 'depth > 1 and (grade == a or dept < 2)'], 'criterion'],
    [DesignKind::View, 'all', ['criterion' => '(grade'], 'criterion'],
]);

it('knows what refers to a part', function () {
    $check = new DesignCheck(smallDesign(), []);
    expect($check->usersOf(DesignKind::Field, 'grade'))->toBe(['the document type “Survey”', 'the view “All”'])
        ->and($check->usersOf(DesignKind::Vocabulary, 'grade'))->toBe(['the field “Grade”'])
        ->and($check->usersOf(DesignKind::Repository, 'ops'))->toBe(['the library “Canal”'])
        ->and($check->usersOf(DesignKind::View, 'all'))->toBe([]);
});

it('fills in a term by its label and its other names', function () {
    $field = smallDesign()->field('grade');
    expect([$field->parse('good'), $field->parse('FINE'), $field->parse('b')])->toBe(['a', 'a', 'b']);
});
