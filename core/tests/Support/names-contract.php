<?php

declare(strict_types=1);

namespace Brenvic\Core\Tests\Support;

use Brenvic\Core\Search\Order\DocumentNames;
use Closure;

/**
 * What everything must do that gives the index the texts it sorts by.
 *
 * @param  Closure(array<string>): array{DocumentNames, list<int>}  $made  for titles: the names, and the numbers of the documents
 */
function namesContract(Closure $made): void
{
    it('gives the title of each document that is asked for, and of no other', function () use ($made) {
        [$names, $documents] = $made(['Weir', 'Écluse 7', '']);
        expect($names->of('title', $documents))
            ->toEqual(array_combine($documents, ['Weir', 'Écluse 7', '']))
            ->and($names->of('title', [$documents[1]]))
            ->toBe([$documents[1] => 'Écluse 7'])
            ->and($names->of('title', []))
            ->toBe([]);
    });

    it('gives many at once, and has nothing for what is not there', function () use ($made) {
        [$names, $documents] = $made(array_map(static fn (int $i): string => "Gate {$i}", range(1, 1_203)));
        $found = $names->of('title', [...$documents, 9_999_999]);
        ksort($found);
        expect(array_values(array_filter($found)))->toBe(array_map(static fn (int $i): string => "Gate {$i}", range(1, 1_203)));
    });
}
