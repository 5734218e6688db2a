<?php

declare(strict_types=1);

namespace Bench;

use App\Index\Names;
use App\Index\SqliteStore;
use Brenvic\Core\Copies\Once;
use Brenvic\Core\Facets\FacetRequest;
use Brenvic\Core\Index\DocumentSet;
use Brenvic\Core\Index\IndexReader;
use Brenvic\Core\Query\Ledger;
use Brenvic\Core\Query\Parser;
use Brenvic\Core\Search\Asking\Asker;
use Brenvic\Core\Search\Asking\SearchRequest;
use Brenvic\Core\Search\Asking\SearchSchema;
use Brenvic\Core\Search\Searcher;
use Brenvic\Core\Themes\ThemeFinder;
use Illuminate\Support\Facades\DB;
use Random\Engine\Xoshiro256StarStar;
use Random\Randomizer;

/**
 * What is made of a result besides rows and facets: its themes, near copies counted once where every tenth document is one, and what
 * it takes to find the documents that a text has a key in common with.
 */
final readonly class ThemesSuite
{
    private const KEYS = 4;

    public function __construct(private Report $report)
    {
    }

    public function run(): void
    {
        $reader = new IndexReader(new SqliteStore());
        $schema = new SearchSchema(Corpus::definitions(), stamp: 'bench');
        $searcher = new Searcher($reader, $schema, new Names());
        $asker = new Asker(['1', '2', '3', '4', '5', '6']);
        $sight = $searcher->sight($asker);
        $themes = new ThemeFinder($reader, $schema);
        foreach ([100_000, 10_000, 1_000] as $most) {
            $some = DocumentSet::of(array_slice($sight->documents(), 0, $most));
            $found = $this->report->time('themes', "themes of {$most} documents", 'Brenvic', static fn () => $themes->of($some, $sight, $schema->fields));
            $this->report->note('  '.count($found->themes).' themes, '.count($found->words).' words that stand out');
        }
        $this->once($searcher, $asker);
        $this->candidates();
        $this->report->compare('themes', 'Brenvic');
    }

    private function once(Searcher $searcher, Asker $asker): void
    {
        $chance = new Randomizer(new Xoshiro256StarStar(7));
        $families = [];
        for ($copy = intdiv($this->report->documents, 20); $copy > 0; $copy--) {
            $first = $chance->getInt(1, $this->report->documents - 1_000);
            array_push($families, $first, $first + $chance->getInt(1, 999), 0);
        }
        $ledger = Ledger::of(Parser::parse('cql.allRecords = 1')->root);
        $facets = FacetRequest::of([...array_keys(Corpus::FIELDS), 'dated']);
        foreach (['each' => false, 'once' => true] as $how => $isOnce) {
            $ask = static function () use ($searcher, $asker, $ledger, $facets, $families, $isOnce): int {
                $once = $isOnce ? new Once($families, 'bench') : null;
                $answer = $searcher->search($asker, new SearchRequest($ledger, [], $facets, once: $once));
                $answer->facets();

                return $answer->total;
            };
            $total = $this->report->time('themes', "everything, near copies {$how}", 'Brenvic', $ask);
            $this->report->note('  '.number_format($total).' documents');
        }
    }

    private function candidates(): void
    {
        $chance = new Randomizer(new Xoshiro256StarStar(8));
        DB::statement('CREATE TEMP TABLE tried ("key" INTEGER NOT NULL, document_id INTEGER NOT NULL, PRIMARY KEY ("key", document_id)) WITHOUT ROWID');
        $insert = DB::connection()->getPdo()->prepare('INSERT OR IGNORE INTO tried VALUES (?, ?)');
        DB::transaction(function () use ($insert, $chance): void {
            for ($document = 1; $document <= $this->report->documents; $document++) {
                for ($key = 0; $key < self::KEYS; $key++) {
                    $insert->execute([$chance->getInt(0, 0x7FFFFFFF), $document]);
                }
            }
        });
        $pages = DB::selectOne('PRAGMA temp.page_count');
        $this->report->note(sprintf('  keys take %.1f bytes a document', (int) $pages->page_count * 4096 / $this->report->documents));
        $this->report->time('themes', 'documents with a key in common', 'Brenvic', static function () use ($chance): int {
            $keys = array_map(static fn (): int => $chance->getInt(0, 0x7FFFFFFF), range(1, self::KEYS));

            return count(DB::table('tried')->whereIntegerInRaw('key', $keys)->groupBy('document_id')->limit(200)->get('document_id'));
        });
    }
}
