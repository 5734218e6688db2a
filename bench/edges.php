<?php

declare(strict_types=1);

/*
 * What other programs are served of so many documents (1,000,000 unless --docs says otherwise), in the data folder of the suite
 * "retention": SRU with seven facets beside our own answer, by turns, and how fast OAI-PMH gives its records.
 */

use App\Find\Finder;
use App\Find\FindRequest;
use App\Models\User;
use App\Served\Changes;
use App\Served\OaiServer;
use App\Served\SruServer;
use Bench\KeptOffice;
use Brenvic\Core\Facets\FacetRequest;
use Brenvic\Core\Search\Asking\Criteria;
use Illuminate\Support\Facades\DB;

require dirname(__DIR__).'/vendor/autoload.php';

$options = getopt('', ['docs::', 'json']);
$documents = (int) ($options['docs'] ?? 1_000_000);
KeptOffice::open();
KeptOffice::fill($documents);
DB::insert("INSERT OR IGNORE INTO document_changes (document_id, changed_at) SELECT id, REPLACE(SUBSTR(filed_at, 1, 19), ' ', 'T') || 'Z' FROM documents");
$say = static function (string $case, float $value, string $unit) use ($options, $documents): void {
    echo isset($options['json'])
        ? json_encode(['suite' => 'edges', 'case' => $case, 'engine' => 'brenvic', 'docs' => $documents, $unit => round($value, 2)])."\n"
        : sprintf("%-58s %10.1f %s\n", $case, $value, $unit);
};
$median = static function (array $times): float {
    sort($times);

    return $times[intdiv(count($times), 2)];
};
$fields = ['type', 'library', 'file_type', 'document_date', 'subject', 'retention', 'retention_action'];
$user = User::query()->where('sign_in', 'librarian')->firstOrFail();
$ours = $theirs = [];
for ($i = 0; $i < 15; $i++) {
    foreach (['ours', 'theirs'] as $whose) {
        app()->forgetScopedInstances();
        $since = hrtime(true);
        if ($whose === 'ours') {
            $criteria = Criteria::of("word{$i}", [], app(App\Catalog\Catalog::class)->schema($user));
            app(Finder::class)->find($user, new FindRequest($criteria, facets: array_combine($fields, FacetRequest::of($fields, 10)), allFacets: false, limit: 10, snippets: false));
        } else {
            app(SruServer::class)->answer($user, ['query' => "word{$i}", 'facetLimit' => implode(',', array_map(static fn (string $f): string => "10:{$f}", $fields))], 'http://127.0.0.1/sru');
        }
        $whose === 'ours' ? ($ours[] = (hrtime(true) - $since) / 1e6) : ($theirs[] = (hrtime(true) - $since) / 1e6);
    }
}
$say('our own answer, ten rows and seven facets', $median($ours), 'median_ms');
$say('SRU, ten records and seven facets', $median($theirs), 'median_ms');
$times = [];
foreach ([1, 900_001] as $start) {
    for ($i = 0; $i < 5; $i++) {
        $since = hrtime(true);
        app(SruServer::class)->answer($user, ['query' => 'cql.allRecords = 1', 'startRecord' => (string) min($start, $documents), 'maximumRecords' => '10'], 'http://127.0.0.1/sru');
        $times[$start][] = (hrtime(true) - $since) / 1e6;
    }
    $say("SRU, ten records from number {$start} on", $median($times[$start]), 'median_ms');
}
$since = hrtime(true);
app(Changes::class)->seen($user);
$say('OAI-PMH, what is seen compared with what was', (hrtime(true) - $since) / 1e6, 'ms');
$query = 'verb=ListRecords&metadataPrefix=oai_dc';
$given = 0;
$before = memory_get_peak_usage();
$since = hrtime(true);
while ($query !== '' && $given < 50_000) {
    app()->forgetScopedInstances();
    $xml = app(OaiServer::class)->answer($user, $query, 'http://127.0.0.1/oai');
    $given += substr_count($xml, '<record>');
    $query = preg_match('#<resumptionToken[^>]*>([^<]+)<#', $xml, $m) === 1 ? "verb=ListRecords&resumptionToken={$m[1]}" : '';
}
$say('OAI-PMH, records', $given / ((hrtime(true) - $since) / 1e9), 'records_a_second');
$say('OAI-PMH, memory that 50,000 records took more', (memory_get_peak_usage() - $before) / 1e6, 'MB');
