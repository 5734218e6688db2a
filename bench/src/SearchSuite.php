<?php

declare(strict_types=1);

namespace Bench;

use App\Index\Names;
use App\Index\SqliteStore;
use Brenvic\Core\Facets\FacetRequest;
use Brenvic\Core\Index\IndexReader;
use Brenvic\Core\Query\Ledger;
use Brenvic\Core\Query\Parser;
use Brenvic\Core\Query\SortKey;
use Brenvic\Core\Search\Asker;
use Brenvic\Core\Search\Searcher;
use Brenvic\Core\Search\SearchRequest;
use Brenvic\Core\Search\SearchSchema;
use RuntimeException;

/** Whole answers: total, ledger, all facets, the first 50 by date and by relevance, for somebody who may see six libraries of eight. */
final readonly class SearchSuite
{
    public function __construct(private Corpus $corpus, private FtsPeer $peer, private Report $report)
    {
    }

    public function run(): void
    {
        $schema = new SearchSchema(Corpus::definitions());
        $searcher = new Searcher(new IndexReader(new SqliteStore), $schema, new Names);
        $facets = [...array_keys(Corpus::FIELDS), 'dated'];
        $asker = new Asker(['1', '2', '3', '4', '5', '6']);
        foreach ($this->questions() as $case => [$cql, $match, $where]) {
            $ledger = Ledger::of(Parser::parse($cql)->root);
            $steps = [];
            $ours = $this->report->time('search', $case, 'Brenvic', function () use ($searcher, $ledger, $facets, $asker, &$steps): int {
                $answer = $searcher->search($asker, new SearchRequest($ledger, [SortKey::of('dated', true)], FacetRequest::of($facets)));
                $steps = $answer->steps;
                $searcher->search($asker, new SearchRequest($ledger, [SortKey::of(Searcher::RELEVANCE, true)], []));

                return $answer->total;
            });
            $theirs = $this->report->time('search', $case, 'SQLite FTS5', fn (): int => $this->peer->ask($match, $where), 3);
            if ($ours !== $theirs) {
                throw new RuntimeException("“{$case}”: Brenvic finds {$ours}, SQLite {$theirs}.");
            }
            $this->report->note(sprintf('  %-40s %9s found  %s', $case, number_format($ours), implode('  ', array_map(static fn (string $step, float $ms): string => "{$step} {$ms}", array_keys($steps), $steps))));
        }
        $this->report->note(sprintf('  peak memory %.0f MB', memory_get_peak_usage(true) / 1e6));
    }

    /** @return array<string, array{string, string|null, string}> case => CQL, FTS5 match, SQL condition */
    private function questions(): array
    {
        $w = Corpus::word(...);
        [$veryCommon, $common, $other, $rare] = [$w(12), $w(140), $w(160), $w(9_000)];

        return [
            'everything' => ['', null, '1'],
            'a very common word' => ["text = {$veryCommon}", $veryCommon, '1'],
            'a common word' => ["text = {$common}", $common, '1'],
            'a rare word' => ["text = {$rare}", $rare, '1'],
            'very common and common' => ["text = {$veryCommon} and text = {$common}", "{$veryCommon} AND {$common}", '1'],
            'a word with a field and years' => ["text = {$common} and kind == 3 and dated within \"1980 1985\"", $common, 'kind = 3 AND year BETWEEN 1980 AND 1985'],
            'a phrase' => ["text = \"{$veryCommon} {$common}\"", "\"{$veryCommon} {$common}\"", '1'],
            'two words near each other' => ["text = {$common} prox/unit=word/distance<=5 text = {$other}", "NEAR({$common} {$other}, 4)", '1'],
            'several values, no text' => ['(kind == 1 or kind == 2) and (grade == 1 or grade == 2 or grade == 3)', null, 'kind IN (1, 2) AND grade IN (1, 2, 3)'],
            'a mask over hundreds of words' => ['text = '.substr($w(300), 0, 3).'*', substr($w(300), 0, 3).'*', '1'],
            'or with not' => ["(text = {$veryCommon} or text = {$common}) not text = {$w(20)}", "({$veryCommon} OR {$common}) NOT {$w(20)}", '1'],
            'one structure of 2,000' => ['structure == 700', null, 'structure = 700'],
        ];
    }
}
