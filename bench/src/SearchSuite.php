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
use Brenvic\Core\Search\Asking\Asker;
use Brenvic\Core\Search\Asking\SearchRequest;
use Brenvic\Core\Search\Asking\SearchSchema;
use Brenvic\Core\Search\Searcher;
use RuntimeException;

/**
 * Whole answers: total, ledger, all facets, the first 50 by date and by relevance, for somebody who may see six
 * libraries of eight. Each question is put to every peer too, in the same run, and all must find as many.
 */
final class SearchSuite
{
    public const ENGINE = 'Brenvic';

    private readonly Searcher $searcher;

    private readonly AnswerStore $store;

    /** @param  list<Peer>  $peers */
    public function __construct(private readonly array $peers, private readonly Report $report)
    {
        $this->store = new AnswerStore(new SqliteStore());
        $this->searcher = new Searcher(new IndexReader($this->store), new SearchSchema(Corpus::definitions(), stamp: 'bench'), new Names());
    }

    public function run(): void
    {
        foreach (Question::all() as $question) {
            $steps = [];
            $found = $this->report->time('search', $question->name, self::ENGINE, function () use ($question, &$steps): int {
                return $this->answer($question, $steps);
            });
            $this->report->note(
                sprintf(
                    '  %-40s %9s found  %s',
                    $question->name,
                    number_format($found),
                    implode('  ', array_map(static fn (string $step, float $ms): string => "{$step} {$ms}", array_keys($steps), $steps)),
                ),
            );
        }
        $this->report->note(sprintf('  peak memory %.0f MB', memory_get_peak_usage(true) / 1e6));
        foreach (Question::all() as $question) {
            $this->cold($question);
            foreach ($this->peers as $peer) {
                $theirs = $this->report->time('search', $question->name, $peer->name(), static fn (): int => $peer->ask($question), 3);
                $steps = [];
                $ours = $this->answer($question, $steps);
                if ($ours !== $theirs) {
                    throw new RuntimeException("“{$question->name}”: Brenvic finds {$ours}, {$peer->name()} {$theirs}.");
                }
            }
        }
        $this->report->compare('search', self::ENGINE);
    }

    /** One answer in a process of its own: what `bench/run.php cold` prints in milliseconds. */
    private function cold(Question $question): void
    {
        $command = [
            PHP_BINARY,
            '-d',
            'memory_limit=1G',
            '-d',
            'opcache.enable_cli=0',
            '-d',
            'apc.enable_cli=0',
            __DIR__.'/../run.php',
            'cold',
            "--docs={$this->report->documents}",
            "--question={$question->name}",
        ];
        $taken = [];
        for ($i = 0; $i < 3; $i++) {
            $taken[] = (float) shell_exec(implode(' ', array_map(escapeshellarg(...), $command)));
        }
        sort($taken);
        $this->report->add('search', $question->name, self::ENGINE.', cold', $taken[1], $taken[2]);
    }

    /** @param  array<string, float>  $steps */
    public function answer(Question $question, array &$steps): int
    {
        $this->store->nextAnswer();
        $ledger = Ledger::of(Parser::parse($question->cql)->root);
        $asker = new Asker(['1', '2', '3', '4', '5', '6']);
        $facets = FacetRequest::of([...array_keys(Corpus::FIELDS), 'dated']);
        $answer = $this->searcher->search($asker, new SearchRequest($ledger, [SortKey::of('dated', true)], $facets));
        $answer->facets();
        $steps = $answer->steps();
        if ($question->match !== '') {
            $byRelevance = $this->searcher->search($asker, new SearchRequest($ledger, [SortKey::of(Searcher::RELEVANCE, true)]));
            $steps['by relevance'] = round(array_sum($byRelevance->steps()), 3);
        }

        return $answer->total;
    }
}
