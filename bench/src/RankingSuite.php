<?php

declare(strict_types=1);

namespace Bench;

use App\Support\Column;
use Brenvic\Core\Index\IndexReader;
use Brenvic\Core\Index\IndexWriter;
use Brenvic\Core\Index\MemoryStore;
use Brenvic\Core\Query\BooleanNode;
use Brenvic\Core\Query\Ledger;
use Brenvic\Core\Query\Node;
use Brenvic\Core\Query\PlainQuery;
use Brenvic\Core\Query\SearchClause;
use Brenvic\Core\Query\SortKey;
use Brenvic\Core\Search\Asking\Asker;
use Brenvic\Core\Search\Asking\Reach;
use Brenvic\Core\Search\Asking\SearchRequest;
use Brenvic\Core\Search\Asking\SearchSchema;
use Brenvic\Core\Search\Filing\DocumentEntries;
use Brenvic\Core\Search\Filing\FiledDocument;
use Brenvic\Core\Search\Order\DocumentNames;
use Brenvic\Core\Search\Searcher;
use PDO;

/**
 * How far up the right answer stands: real texts asked for by the line that says what they are, all words required and any
 * of them, as written and with other endings. The figure is the mean reciprocal rank of the first ten. FTS5 (bm25, title
 * four times the text) and Xapian (BM25) answer the same questions about the same titles and texts, for other endings by
 * the stemmers that they come with.
 */
final readonly class RankingSuite
{
    private const QUESTIONS = 800;

    private const FIRST = 10;

    private const SEED = 11;

    public function __construct(private string $folder, private Report $report)
    {
    }

    public function run(): void
    {
        $collections = TextCollection::all($this->folder);
        if ($collections === []) {
            $this->report->note('  there are too few texts on this machine (manual pages, READMEs of packages)');
        }
        foreach ($collections as $collection) {
            $questions = $collection->questions(self::QUESTIONS, self::SEED);
            $this->report->note(sprintf('  %s: %d texts, %d questions', $collection->name, count($collection->texts), count($questions)));
            $engines = [
                'Brenvic' => $this->brenvic($collection),
                'SQLite FTS5' => $this->fts($collection),
                ...XapianPeer::isThere() ? ['Xapian' => $this->xapian($collection)] : [],
            ];
            foreach ([[false, false], [true, false], [false, true], [true, true]] as [$any, $endings]) {
                $ranks = [];
                foreach ($engines as $engine => $ask) {
                    $ranks[$engine] = self::reciprocal($ask, $questions, $any, $endings);
                }
                $this->report->note(
                    sprintf(
                        '    %-30s %s',
                        ($any ? 'any word' : 'all words').($endings ? ', other endings' : ''),
                        implode(
                            '   ',
                            array_map(
                                static fn (string $engine, float $rank): string => sprintf('%s %.3f', $engine, $rank),
                                array_keys($ranks),
                                $ranks,
                            ),
                        ),
                    ),
                );
            }
        }
    }

    /**
     * @param  callable(string, bool, bool): list<int>  $ask
     * @param  list<array{string, int}>  $questions
     */
    private static function reciprocal(callable $ask, array $questions, bool $any, bool $endings): float
    {
        $sum = 0.0;
        foreach ($questions as [$words, $right]) {
            $place = array_search($right, array_slice($ask($words, $any, $endings), 0, self::FIRST), true);
            $sum += $place === false ? 0.0 : 1 / ($place + 1);
        }

        return $sum / max(1, count($questions));
    }

    /** @return callable(string, bool, bool): list<int> */
    private function brenvic(TextCollection $collection): callable
    {
        $store = new MemoryStore();
        $writer = new IndexWriter($store);
        foreach (array_chunk($collection->texts, 200, true) as $chunk) {
            $documents = [];
            foreach ($chunk as $i => $text) {
                // As a document that was brought in: its title, its file’s name, its reference, its path.
                $name = "{$text['title']}.txt";
                $filed = new FiledDocument($i + 1, $text['title'], $text['text'], 'a', [], $name, sprintf('D-%05d-X', $i), $name);
                $documents[] = DocumentEntries::of($filed, []);
            }
            $writer->put($documents);
            $writer->flush();
        }
        $names = new class implements DocumentNames
        {
            public function of(string $name, array $documents): array
            {
                return [];
            }
        };
        $searcher = new Searcher(new IndexReader($store), new SearchSchema([]), $names);

        return static function (string $words, bool $any, bool $endings) use ($searcher): array {
            $root = PlainQuery::parse($words, $any)->root;
            $root = $endings ? self::withEndings($root) : $root;
            $request = new SearchRequest(Ledger::of($root), [SortKey::of(Searcher::RELEVANCE, true)], limit: self::FIRST);

            return $searcher->search(new Asker(['a']), $request)->documents;
        };
    }

    private static function withEndings(Node $node): Node
    {
        return match (true) {
            $node instanceof BooleanNode => new BooleanNode(
                $node->operator,
                self::withEndings($node->left),
                self::withEndings($node->right),
            ),
            $node instanceof SearchClause => Reach::SameStem->applied($node),
            default => $node,
        };
    }

    /** @return callable(string, bool, bool): list<int> */
    private function fts(TextCollection $collection): callable
    {
        $pdo = new PDO('sqlite::memory:', options: [PDO::ATTR_ERRMODE => PDO::ERRMODE_EXCEPTION]);
        $selects = [];
        foreach (['written' => 'unicode61', 'stems' => 'porter unicode61'] as $table => $tokenize) {
            $pdo->exec("CREATE VIRTUAL TABLE {$table} USING fts5(title, text, tokenize='{$tokenize}')");
            $insert = $pdo->prepare("INSERT INTO {$table} (rowid, title, text) VALUES (?, ?, ?)");
            foreach ($collection->texts as $i => $text) {
                $insert->execute([$i + 1, $text['title'], $text['text']]);
            }
            $selects[] = $pdo->prepare(
                "SELECT rowid FROM {$table} WHERE {$table} MATCH ? ORDER BY bm25({$table}, 4.0, 1.0) LIMIT ".self::FIRST,
            );
        }

        return static function (string $words, bool $any, bool $endings) use ($selects): array {
            $select = $selects[(int) $endings];
            $select->execute([
                implode($any ? ' OR ' : ' AND ', array_map(static fn (string $word): string => "\"{$word}\"", explode(' ', $words))),
            ]);

            return Column::numbers($select->fetchAll(PDO::FETCH_COLUMN));
        };
    }

    /** @return callable(string, bool, bool): list<int> */
    private function xapian(TextCollection $collection): callable
    {
        $process = proc_open(['/usr/bin/python3', __DIR__.'/../peers/xapian_ranking.py'], [['pipe', 'r'], ['pipe', 'w'], STDERR], $pipes);
        if ($process === false) {
            return static fn (): array => [];
        }
        $line = static fn (mixed $what) => fwrite($pipes[0], json_encode($what, JSON_THROW_ON_ERROR | JSON_INVALID_UTF8_SUBSTITUTE)."\n");
        foreach ($collection->texts as $text) {
            $line([$text['title'], $text['text']]);
        }
        $line(null);

        return static function (string $words, bool $any, bool $endings) use ($line, $pipes, $process): array {
            $line([explode(' ', $words), $any, $endings]);

            return is_resource($process) ? Column::numbers(json_decode((string) fgets($pipes[1]), true)) : [];
        };
    }
}
