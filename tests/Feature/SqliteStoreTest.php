<?php

declare(strict_types=1);

use App\Index\SqliteStore;

use function Brenvic\Core\Tests\Support\searchProperties;
use function Brenvic\Core\Tests\Support\storeContract;

require_once __DIR__.'/../../core/tests/Support/store-contract.php';
require_once __DIR__.'/../../core/tests/Support/search-properties.php';

function emptyStore(): SqliteStore
{
    $store = new SqliteStore(1);
    $store->clear();

    return $store;
}

// The store that is searched in use answers as the one in memory does.
storeContract(emptyStore(...));

searchProperties(emptyStore(...), 25);
