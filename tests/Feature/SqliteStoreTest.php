<?php

declare(strict_types=1);

use App\Index\Names;
use App\Index\SqliteStore;
use App\Models\Document;
use App\Models\Library;
use Illuminate\Support\Facades\DB;

use function Brenvic\Core\Tests\Support\namesContract;
use function Brenvic\Core\Tests\Support\searchProperties;
use function Brenvic\Core\Tests\Support\storeContract;

require_once __DIR__.'/../../core/tests/Support/store-contract.php';
require_once __DIR__.'/../../core/tests/Support/names-contract.php';
require_once __DIR__.'/../../core/tests/Support/search-properties.php';

function emptyStore(): SqliteStore
{
    $store = new SqliteStore(1);
    $store->clear();

    return $store;
}

// The store that is searched in use answers as the one in memory does.
storeContract(emptyStore(...));

namesContract(static function (array $titles): array {
    $library = Library::query()->firstOrFail()->id;
    DB::table('files')->insertOrIgnore(['sha256' => str_repeat('0', 64), 'bytes' => 1, 'created_at' => now()]);
    $ids = [];
    foreach ($titles as $i => $title) {
        $ids[] = DB::table('documents')->insertGetId([
            'ref' => "N-{$i}",
            'title' => $title,
            'library_id' => $library,
            'state' => Document::FILED,
            'file_name' => 'a.txt',
            'file_kind' => 'text',
            'sha256' => str_repeat('0', 64),
            'bytes' => 1,
            'text_state' => Document::TEXT_READ,
        ]);
    }

    return [new Names(), $ids];
});

searchProperties(emptyStore(...), 25);
