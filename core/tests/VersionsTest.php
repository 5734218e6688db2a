<?php

declare(strict_types=1);

use Brenvic\Core\Pages\PagePlan;
use Brenvic\Core\Versions\DiffKind;
use Brenvic\Core\Versions\DiffPiece;
use Brenvic\Core\Versions\PageMap;
use Brenvic\Core\Versions\Quote;
use Brenvic\Core\Versions\TextDiff;

it('gives both texts back from what differs, and takes no more apart than it must', function () {
    seeded(31);
    $side = static fn (array $pieces, DiffKind $not): string => implode(
        '',
        array_map(static fn (DiffPiece $p): string => $p->kind === $not ? '' : $p->text, $pieces),
    );
    // The longest common subsequence of words, the slow and plain way.
    $common = static function (array $a, array $b): int {
        $row = array_fill(0, count($b) + 1, 0);
        foreach ($a as $word) {
            $before = $row;
            foreach ($b as $j => $other) {
                $row[$j + 1] = $word === $other ? $before[$j] + 1 : max($before[$j + 1], $row[$j]);
            }
        }

        return end($row);
    };
    for ($i = 0; $i < 400; $i++) {
        $text = static fn (): string => implode(
            '',
            array_map(
                static fn (): string => ['sluice', 'gate', ' ', ' ', "\n", 'sill', "\n", 'weir '][mt_rand(0, 7)],
                range(1, mt_rand(1, 25)),
            ),
        );
        [$old, $new] = [$text(), mt_rand(0, 4) === 0 ? '' : $text()];
        $pieces = TextDiff::of($old, $new);
        expect($side($pieces, DiffKind::PutIn))->toBe($old)->and($side($pieces, DiffKind::TakenOut))->toBe($new);
        for ($j = 1; $j < count($pieces); $j++) {
            expect($pieces[$j]->kind)->not->toBe($pieces[$j - 1]->kind);
        }
        if (! str_contains($old.$new, "\n")) {
            $words = static fn (string $t): array => preg_split('/(\s+)/', $t, -1, PREG_SPLIT_NO_EMPTY | PREG_SPLIT_DELIM_CAPTURE);
            $kept = array_sum(
                array_map(static fn (DiffPiece $p): int => $p->kind === DiffKind::Same ? count($words($p->text)) : 0, $pieces),
            );
            expect($kept)->toBe($common($words($old), $words($new)));
        }
    }
    expect(TextDiff::of('same', 'same'))
        ->toEqual([new DiffPiece(DiffKind::Same, 'same')])
        ->and(TextDiff::of('', ''))
        ->toBe([]);
});

it('tells long texts that share nothing in bounded time', function () {
    $words = static fn (string $of): string => implode(' ', array_map(static fn (int $n): string => "{$of}{$n}", range(1, 4_000)));
    $pieces = TextDiff::of($words('a'), $words('b'));
    expect($pieces)->toHaveCount(2)->and($pieces[0]->kind)->toBe(DiffKind::TakenOut);
});

it('finds a quoted place again where its words moved, and not where it is unsure', function () {
    $text = "The gate leaks. Seepage near\nthe sill at low water. The gate was repaired. Seepage near the sill is gone.";
    $second = (int) strrpos($text, 'Seepage');
    $quote = Quote::in($text, $second, strlen('Seepage near the sill'));
    expect($quote->exact)
        ->toBe('Seepage near the sill')
        ->and($quote->find($text))
        ->toBe([$second, strlen('Seepage near the sill')]);
    $moved = "A new first page. {$text}";
    expect($quote->find($moved))
        ->toBe([$second + 18, strlen('Seepage near the sill')])
        ->and(Quote::in($text, 16, 21)->find($moved))
        ->toBe([34, strlen("Seepage near\nthe sill")])
        ->and($quote->find('Nothing of it is left.'))
        ->toBeNull()
        ->and((new Quote('gate'))->find('gate and gate'))
        ->toBeNull()
        ->and((new Quote('gate'))->find('one gate'))
        ->toBe([4, 4])
        ->and((new Quote(''))->find('x'))
        ->toBeNull();
});

it('keeps the order of pages in runs and ranges', function () {
    seeded(5);
    for ($i = 0; $i < 300; $i++) {
        $pages = array_map(
            static fn (): array => [
                'source' => ['', 'b'][mt_rand(0, 1)],
                'page' => mt_rand(1, 9),
                'turn' => [0, 90, -90, 180, 450][mt_rand(0, 4)],
            ],
            range(1, mt_rand(1, 20)),
        );
        $plan = PagePlan::of($pages, ['' => 9, 'b' => 9]);
        $spread = static fn (string $range): array => array_merge(
            ...array_map(
                static fn (string $p): array => str_contains($p, '-') ? range(...array_map(intval(...), explode('-', $p))) : [(int) $p],
                explode(',', $range),
            ),
        );
        $order = [];
        foreach ($plan->runs() as ['source' => $source, 'range' => $range]) {
            foreach ($spread($range) as $page) {
                $order[] = [$source, $page];
            }
        }
        expect($order)->toBe(array_map(static fn (array $p): array => [$p['source'], $p['page']], $pages));
        $turned = array_fill(0, count($pages), 0);
        foreach ($plan->turns() as $turn => $range) {
            foreach ($spread($range) as $page) {
                $turned[$page - 1] = $turn;
            }
        }
        expect($turned)->toBe(array_map(static fn (array $p): int => (($p['turn'] % 360) + 360) % 360, $pages));
    }
    expect(
        PagePlan::of([['source' => '', 'page' => 1, 'turn' => 0], ['source' => '', 'page' => 2, 'turn' => 360]], ['' => 2])->changesNothing(
            '',
            2,
        ),
    )->toBeTrue();
});

it('refuses page work that cannot be done', function (array $pages, string $says) {
    expect(fn () => PagePlan::of($pages, ['' => 2]))->toThrow(InvalidArgumentException::class, $says);
})->with([
    [[], 'at least one page'],
    [[['source' => '', 'page' => 3, 'turn' => 0]], 'no page 3'],
    [[['source' => 'x', 'page' => 1, 'turn' => 0]], 'not there'],
    [[['source' => '', 'page' => 1, 'turn' => 45]], 'by quarters'],
]);

it('follows pages through several versions, and back', function () {
    seeded(14);
    for ($i = 0; $i < 500; $i++) {
        // A document is the list of its pages, each with how it lies.
        $document = array_map(static fn (int $n): array => [$n, 0], range(1, mt_rand(1, 6)));
        $count = count($document);
        $map = null;
        foreach (range(1, mt_rand(1, 4)) as $_) {
            $from = array_map(
                static fn (): ?array => mt_rand(0, 4) === 0 ? null : [mt_rand(1, count($document)), [0, 90, 180, 270][mt_rand(0, 3)]],
                range(1, mt_rand(1, 6)),
            );
            $document = array_map(
                static fn (?array $f): ?array => $f === null || $document[$f[0] - 1] === null
                    ? null
                    : [$document[$f[0] - 1][0], ($document[$f[0] - 1][1] + $f[1]) % 360],
                $from,
            );
            $map = $map?->then(new PageMap($from)) ?? new PageMap($from);
        }
        expect($map->from)->toBe($document);
        foreach (range(1, $count) as $page) {
            $there = array_keys(array_filter($document, static fn (?array $p): bool => $p !== null && $p[0] === $page));
            expect(array_column($map->to($page), 0))->toBe(array_map(static fn (int $k): int => $k + 1, $there));
            $back = $map->back($count)->from[$page - 1];
            expect($back === null)->toBe($there === []);
            if ($back !== null) {
                expect(($document[$back[0] - 1][1] + $back[1]) % 360)->toBe(0);
            }
        }
    }
});

it('is unsure of a common word whose surroundings are others', function () {
    $pages = [1 => 'The boat passed the lock at noon and the keeper noted the hour.', 2 => 'The gate leaks; the sill was not seen.'];
    $the = Quote::in($pages[2], 16, 3);
    expect($the->findAmong($pages, 1))
        ->toBe([2, 16, 3])
        ->and($the->findAmong([1 => $pages[1], 2 => 'Nothing of it is the same here.'], 2))
        ->toBeNull()
        ->and((new Quote('seen', 'was not', ''))->findAmong([1 => 'was not seen', 2 => 'was not seen'], 2))
        ->toBe([2, 8, 4])
        ->and((new Quote('seen', 'was not', ''))->findAmong([1 => 'was not seen', 2 => 'was not seen, was not seen'], 2))
        ->toBeNull()
        ->and(
            (new Quote('The Oxbeck culvert was closed in March', 'Before.', 'After.'))->find(
                'X. The Oxbeck culvert was closed in March; Y',
            ),
        )
        ->toBe([3, 38]);
});
