<?php

declare(strict_types=1);

namespace Bench;

use Brenvic\Core\Fields\PartialDate;
use PDO;
use RuntimeException;

/** The same questions to SQLite alone: FTS5 for the words, columns with indexes for the fields, one GROUP BY a facet. */
final class FtsPeer implements Peer
{
    private PDO $pdo;

    public function __construct(string $path, private readonly Corpus $corpus)
    {
        $made = is_file($path);
        $this->pdo = new PDO("sqlite:{$path}", options: [PDO::ATTR_ERRMODE => PDO::ERRMODE_EXCEPTION]);
        $this->pdo->exec('PRAGMA cache_size = -200000; PRAGMA mmap_size = 2000000000; PRAGMA temp_store = MEMORY');
        if (! $made) {
            $this->make();
        }
    }

    public function name(): string
    {
        return 'SQLite FTS5';
    }

    private function make(): void
    {
        $fields = array_keys(Corpus::FIELDS);
        $this->pdo->exec('PRAGMA synchronous = OFF; PRAGMA journal_mode = OFF');
        $this->pdo->exec(
            'CREATE TABLE docs (id INTEGER PRIMARY KEY, '.
                implode(', ', array_map(static fn (string $f): string => "{$f} INTEGER", $fields)).
                ', branch INTEGER, year INTEGER, day INTEGER, amount INTEGER)',
        );
        $this->pdo->exec("CREATE VIRTUAL TABLE words USING fts5(title, text, content='', tokenize='ascii')");
        $this->pdo->beginTransaction();
        $document = $this->pdo->prepare('INSERT INTO docs VALUES (?'.str_repeat(', ?', count($fields) + 4).')');
        $text = $this->pdo->prepare('INSERT INTO words (rowid, title, text) VALUES (?, ?, ?)');
        foreach ($this->corpus->documents() as $number => $d) {
            $document->execute([
                $number,
                ...array_values($d['values']),
                ($d['values']['reach'] % 10) + 1,
                PartialDate::ofDay($d['day'])->year,
                $d['day'],
                $d['amount'],
            ]);
            $text->execute([$number, $d['title'], $d['text']]);
        }
        foreach ([...$fields, 'year', 'day'] as $field) {
            $this->pdo->exec("CREATE INDEX docs_{$field} ON docs ({$field})");
        }
        $this->pdo->commit();
        $this->pdo->exec("INSERT INTO words (words) VALUES ('optimize')");
        $this->pdo->exec('ANALYZE');
    }

    public function ask(Question $question): int
    {
        $match = $question->match === '' ? null : $question->match;
        $condition = "library <= 6 AND {$question->where}";
        $fields = [...array_keys(Corpus::FIELDS), 'branch', 'year'];
        $columns = 'docs.id, day, '.implode(', ', $fields);
        $this->pdo->exec('DROP TABLE IF EXISTS temp.found');
        $this->pdo->exec(
            $match === null
                ? "CREATE TEMP TABLE found AS SELECT {$columns} FROM docs WHERE {$condition}"
                : "CREATE TEMP TABLE found AS SELECT {$columns} FROM words JOIN docs ON docs.id = words.rowid WHERE words MATCH ".
                    $this->pdo->quote($match).
                    " AND {$condition}",
        );
        $total = (int) $this->rows('SELECT count(*) FROM found')[0][0];
        foreach ($fields as $field) {
            $this->rows("SELECT {$field}, count(*) FROM found GROUP BY 1");
        }
        $this->rows('SELECT id FROM found ORDER BY day DESC LIMIT 50');
        if ($match !== null) {
            $this->rows(
                'SELECT docs.id FROM words JOIN docs ON docs.id = words.rowid WHERE words MATCH '.
                    $this->pdo->quote($match).
                    " AND {$condition} ORDER BY bm25(words) LIMIT 50",
            );
        }

        return $total;
    }

    /** @return list<list<mixed>> */
    private function rows(string $sql): array
    {
        /** @var list<list<mixed>> */
        return ($this->pdo->query($sql) ?: throw new RuntimeException('The question could not be asked.'))->fetchAll(PDO::FETCH_NUM);
    }
}
