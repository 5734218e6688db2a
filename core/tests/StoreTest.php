<?php

declare(strict_types=1);

use Brenvic\Core\Index\MemoryStore;

use function Brenvic\Core\Tests\Support\storeContract;

require_once __DIR__.'/Support/store-contract.php';

storeContract(static fn (): MemoryStore => new MemoryStore);
