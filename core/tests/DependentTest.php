<?php

declare(strict_types=1);

use Brenvic\Core\Design\Design;
use Brenvic\Core\Design\DesignChange;
use Brenvic\Core\Design\DesignKind;
use Brenvic\Core\Design\Effect;
use Brenvic\Core\Design\EffectCount;
use Brenvic\Core\Design\EffectKind;
use Brenvic\Core\Design\Returned;
use Brenvic\Core\Design\StoredValues;
use Brenvic\Core\Index\DocumentSet;
use Brenvic\Core\Query\BooleanNode;
use Brenvic\Core\Query\Node;
use Brenvic\Core\Query\SearchClause;

/** @param  array<int, array<string, list<string>>>  $documents  values by field, by document */
function storedValues(array $documents): StoredValues
{
    return new class($documents) implements StoredValues
    {
        /** @param  array<int, array<string, list<string>>>  $documents */
        public function __construct(private readonly array $documents)
        {
        }

        public function distinct(string $field): array
        {
            return array_count_values(array_merge([], ...array_map(static fn (array $d): array => array_unique($d[$field] ?? []), $this->documents)));
        }

        public function several(string $field): int
        {
            return 0;
        }

        public function returned(string $field): Returned
        {
            return Returned::nothing();
        }

        public function titled(string $type, array $fields): iterable
        {
            return [];
        }

        public function dossiers(string $kind, ?string $without = null): int
        {
            return 0;
        }

        public function heirs(string $kind, string $field): int
        {
            return 0;
        }
    };
}

/** @param  array<string, list<string>>  $document  values by field */
function hasAll(Node $node, array $document): bool
{
    if ($node instanceof BooleanNode) {
        [$left, $right] = [hasAll($node->left, $document), hasAll($node->right, $document)];

        return $node->operator->value === 'and' ? $left && $right : $left || $right;
    }
    assert($node instanceof SearchClause);

    return in_array($node->term, $document[$node->index] ?? [], true);
}

/** @param  list<array<string, mixed>>  $places */
function placesAndReaches(array $places, array $reaches, ?string $dependsOn): Design
{
    return (new Design())
        ->with(DesignKind::Vocabulary, 'places', ['name' => 'Places', 'terms' => $places])
        ->with(DesignKind::Vocabulary, 'reaches', ['name' => 'Reaches', 'terms' => $reaches, 'depends_on' => $dependsOn])
        ->with(DesignKind::Field, 'place', ['label' => 'Place', 'kind' => 'choice', 'vocabulary' => 'places', 'multiple' => true])
        ->with(DesignKind::Field, 'reach', ['label' => 'Reach', 'kind' => 'choice', 'vocabulary' => 'reaches', 'multiple' => true]);
}

it('counts the values that could no longer be chosen beside the value they depend on, as trying each document does', function () {
    seeded(83);
    $codes = ['p' => ['p0', 'p1', 'p2', 'p3'], 'r' => ['r0', 'r1', 'r2', 'r3', 'r4']];
    $some = static fn (array $of, int $most): array => array_values(array_intersect_key($of, array_flip((array) array_rand($of, mt_rand(1, $most)))));
    $under = static fn (): array => mt_rand(0, 3) === 0 ? [] : $some($codes['p'], 3);
    $counted = 0;
    for ($round = 0; $round < 300; $round++) {
        $places = array_map(static fn (string $c): array => ['code' => $c, 'label' => $c], $codes['p']);
        $reaches = array_map(static fn (string $c): array => ['code' => $c, 'label' => $c, 'under' => $under()], $codes['r']);
        $old = placesAndReaches($places, $reaches, mt_rand(0, 5) === 0 ? null : 'place');
        $documents = [];
        for ($id = 1; $id <= 40; $id++) {
            $documents[$id] = [
                'place' => mt_rand(0, 4) === 0 ? [] : $some($codes['p'], 2),
                'reach' => mt_rand(0, 4) === 0 ? [] : $some($codes['r'], 2),
                'mark' => mt_rand(0, 1) === 1 ? ['x'] : [],
            ];
        }
        // What is moved: some places retired for another, one split off by a criterion, some reaches retired.
        $moves = ['place' => [], 'reach' => []];
        if (mt_rand(0, 2) > 0) {
            $places[] = ['code' => 'p9', 'label' => 'p9', 'from' => ['code' => 'p1', 'criterion' => 'mark == x']];
            $moves['place'][] = ['p1', 'p9', true];
        }
        if (mt_rand(0, 2) > 0) {
            $places[0] = [...$places[0], 'retired' => true, 'replaced_by' => 'p2'];
            $moves['place'][] = ['p0', 'p2', false];
        }
        if (mt_rand(0, 2) === 0) {
            $reaches[4] = [...$reaches[4], 'retired' => true, 'replaced_by' => 'r0'];
            $moves['reach'][] = ['r4', 'r0', false];
        }
        if (mt_rand(0, 1) === 0) {
            $reaches[1]['under'] = $under();
        }
        $new = placesAndReaches($places, $reaches, mt_rand(0, 5) === 0 ? null : 'place');

        $refused = static function (Design $design, array $document): bool {
            $vocabulary = $design->field('reach')?->vocabulary;
            foreach ($document['reach'] as $reach) {
                if (! $vocabulary?->allows($reach, $document['place'])) {
                    return true;
                }
            }

            return false;
        };
        $expected = 0;
        foreach ($documents as $document) {
            $moved = $document;
            foreach ($moves as $field => $list) {
                foreach ($list as [$from, $to, $marked]) {
                    if (in_array($from, $moved[$field], true) && (! $marked || $document['mark'] !== [])) {
                        $moved[$field] = array_unique([...array_diff($moved[$field], [$from]), $to]);
                    }
                }
            }
            $expected += $refused($new, $moved) && ! $refused($old, $document) ? 1 : 0;
        }
        $finder = static fn (Node $node): DocumentSet => DocumentSet::of(
            array_keys(array_filter($documents, static fn (array $d): bool => hasAll($node, $d))),
        );
        $effect = new Effect($old, $new, storedValues($documents), $finder, $finder);
        $found = array_filter(
            array_merge([], ...array_map($effect->of(...), DesignChange::between($old, $new))),
            static fn (EffectCount $count): bool => $count->kind === EffectKind::Invalid && str_contains($count->what, 'could no longer be chosen'),
        );
        expect(array_sum(array_map(static fn (EffectCount $c): int => $c->documents, $found)))->toBe($expected);
        expect(count($found))->toBeLessThan(2);
        $counted += $expected;
    }
    expect($counted)->toBeGreaterThan(500);
});

it('counts only what a change of the terms does, and nothing that was at fault before', function () {
    $terms = static fn (array $codes): array => array_map(static fn (string $c): array => ['code' => $c, 'label' => $c], $codes);
    $old = placesAndReaches($terms(['p0', 'p1']), [], null);
    $new = placesAndReaches($terms(['p0']), [], null);
    $documents = [1 => ['place' => ['p1']], 2 => ['place' => ['gone']], 3 => ['place' => ['p0']]];
    $finder = static fn (Node $node): DocumentSet => DocumentSet::of(
        array_keys(array_filter($documents, static fn (array $d): bool => hasAll($node, $d))),
    );
    $effect = new Effect($old, $new, storedValues($documents), $finder, $finder);
    $counts = array_merge([], ...array_map($effect->of(...), DesignChange::between($old, $new)));
    expect(array_map(static fn (EffectCount $c): array => [$c->kind, $c->documents], $counts))->toBe([[EffectKind::Lost, 1]]);
});
