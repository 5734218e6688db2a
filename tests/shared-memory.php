<?php

declare(strict_types=1);

/*
 * Run by SharedMemoryTest in a process that has APCu, which the processes of a server share: whatever is written, and
 * whether it is committed or not, the index in SQLite answers as one in memory does.
 */

use App\Index\SqliteStore;
use Brenvic\Core\Facets\FacetRequest;
use Brenvic\Core\Fields\FieldDefinition;
use Brenvic\Core\Fields\Kinds\NumberKind;
use Brenvic\Core\Fields\Kinds\TextKind;
use Brenvic\Core\Index\IndexedDocument;
use Brenvic\Core\Index\IndexReader;
use Brenvic\Core\Index\IndexStore;
use Brenvic\Core\Index\IndexWriter;
use Brenvic\Core\Index\MemoryStore;
use Brenvic\Core\Query\Ledger;
use Brenvic\Core\Query\Parser;
use Brenvic\Core\Search\Asking\Asker;
use Brenvic\Core\Search\Asking\SearchRequest;
use Brenvic\Core\Search\Asking\SearchSchema;
use Brenvic\Core\Search\Filing\DocumentEntries;
use Brenvic\Core\Search\Filing\FiledDocument;
use Brenvic\Core\Search\Order\DocumentNames;
use Brenvic\Core\Search\Searcher;
use Illuminate\Contracts\Console\Kernel;
use Illuminate\Support\Facades\Artisan;
use Illuminate\Support\Facades\DB;

require __DIR__.'/../vendor/autoload.php';
require_once __DIR__.'/../core/tests/Support/seed.php';

(require __DIR__.'/../bootstrap/app.php')->make(Kernel::class)->bootstrap();
apcu_enabled() || exit("There is no APCu.\n");
Artisan::call('migrate', ['--force' => true]);

$schema = new SearchSchema(
    [
        new FieldDefinition('library', 'Library', new TextKind, faceted: true, system: true),
        new FieldDefinition('vessel', 'Vessel', new TextKind, multiple: true, faceted: true),
        new FieldDefinition('depth', 'Depth', new NumberKind, faceted: true),
    ],
    stamp: 'one',
);
$names = new class implements DocumentNames
{
    public function of(string $name, array $documents): array
    {
        return [];
    }
};
$document = static function (int $number) use ($schema): IndexedDocument {
    $words = array_map(static fn (): string => ['gate', 'lock', 'sill', 'weir'][mt_rand(0, 3)], range(0, mt_rand(0, 5)));

    $values = ['vessel' => ['Vessel '.mt_rand(1, 6)], 'depth' => [(string) mt_rand(0, 9)]];

    return DocumentEntries::of(new FiledDocument($number, '', implode(' ', $words), ['a', 'b'][mt_rand(0, 1)], $values), $schema->fields);
};
/** @return list<mixed> what each search finds and counts, as a request would that begins with nothing in its memory */
$answers = static function (IndexStore $store) use ($schema, $names): array {
    $all = [];
    foreach (['gate', 'text all "lock sill"', 'text = "gate lock"', 'vessel == "Vessel 2"', 'depth > 4', 'text = we*'] as $cql) {
        $answer = (new Searcher(new IndexReader($store), $schema, $names))->search(
            new Asker(['a']),
            new SearchRequest(Ledger::of(Parser::parse($cql)->root), facets: FacetRequest::of(['vessel', 'depth'])),
        );
        $all[] = [$cql, $answer->total, $answer->lines, $answer->documents, $answer->facets()];
    }

    return $all;
};
seeded(41);
$memory = new MemoryStore();
for ($round = 1; $round <= 60; $round++) {
    $numbers = array_unique(array_map(static fn (): int => mt_rand(1, 60) + 65_536 * mt_rand(0, 1), range(0, mt_rand(0, 12))));
    $batch = array_map($document, array_values($numbers));
    $gone = mt_rand(0, 1) === 0 ? mt_rand(1, 60) : 0;
    $write = static function (IndexStore $store) use ($batch, $gone): void {
        $writer = new IndexWriter($store);
        $writer->put($batch);
        $gone > 0 && $writer->remove($gone);
        $writer->flush();
    };
    if (mt_rand(0, 3) === 0) {
        // What is written and taken back was never there, not even for who reads in between.
        DB::beginTransaction();
        $write($store = new SqliteStore());
        $answers($store);
        DB::rollBack();
    } else {
        $write($memory);
        DB::transaction(static fn () => $write(new SqliteStore()));
    }
    // Twice: what the first put into APCu is what the second reads.
    foreach ([1, 2] as $reading) {
        $store = new SqliteStore();
        if ($store->snapshot(static fn (): array => $answers($store)) != $answers($memory)) {
            exit("Round {$round}, reading {$reading}: the answers differ.\n");
        }
    }
}
echo apcu_cache_info()['num_hits'] > 1_000 ? "The same in all rounds.\n" : "APCu was not asked.\n";
