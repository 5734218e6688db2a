<?php

declare(strict_types=1);

use Brenvic\Core\Index\MemoryStore;
use Brenvic\Core\Tests\Support\Collection;

use function Brenvic\Core\Tests\Support\namesContract;
use function Brenvic\Core\Tests\Support\storeContract;

require_once __DIR__.'/Support/store-contract.php';
require_once __DIR__.'/Support/names-contract.php';

storeContract(static fn (): MemoryStore => new MemoryStore);

namesContract(static function (array $titles): array {
    $collection = new Collection();
    foreach (array_values($titles) as $i => $title) {
        $collection->documents[$i + 1] = [
            'text' => [],
            'ends' => [],
            'title' => $title,
            'library' => 'a',
            'reaches' => [],
            'depths' => [],
            'dated' => null,
        ];
    }

    return [$collection->names(), array_keys($collection->documents)];
});
