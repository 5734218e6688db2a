<?php

declare(strict_types=1);

namespace App\Index;

use Brenvic\Core\Index\IndexStore;
use Brenvic\Core\Index\Tokenizer;
use Illuminate\Database\ConnectionInterface;
use Illuminate\Support\Facades\DB;
use PDO;
use PDOStatement;

/**
 * The index in SQLite. Blobs that were read stay in APCu under the stamp of their segment, so that the processes of
 * the server share them and a changed segment is simply read anew.
 */
final class SqliteStore implements IndexStore
{
    private const CHUNK = 500;

    /** @var array<int, int>|null */
    private ?array $stamps = null;

    /** @var array<string, PDOStatement> */
    private array $statements = [];

    private readonly ConnectionInterface $connection;

    private readonly string $cachePrefix;

    public function __construct()
    {
        $this->connection = DB::connection();
        $database = (string) $this->connection->getDatabaseName();
        $this->cachePrefix = function_exists('apcu_enabled') && apcu_enabled() && $database !== ':memory:' ? 'bx'.crc32($database.(@fileinode($database) ?: '')).':' : '';
    }

    /**
     * Runs `$read` on one state of the index and the tables, whatever is written meanwhile.
     *
     * @template T
     *
     * @param  callable(): T  $read
     * @return T
     */
    public function snapshot(callable $read): mixed
    {
        $pdo = $this->pdo();
        if ($pdo->inTransaction() || $this->connection->transactionLevel() > 0) {
            return $read();
        }
        $pdo->beginTransaction();
        try {
            return $read();
        } finally {
            $pdo->commit();
        }
    }

    public function stamps(): array
    {
        $this->stamps = [];
        foreach ($this->run('SELECT segment, stamp FROM ix_segment ORDER BY segment', []) as [$segment, $stamp]) {
            $this->stamps[(int) $segment] = (int) $stamp;
        }

        return $this->stamps;
    }

    public function blob(string $key, int $segment): ?string
    {
        $row = $this->run('SELECT data FROM ix_blob WHERE key = ? AND segment = ?', [$key, $segment])[0] ?? null;

        return $row === null ? null : (string) $row[0];
    }

    public function blobs(string $key): array
    {
        if ($this->cachePrefix === '' || $this->connection->transactionLevel() > 0) {
            return $this->readBlobs($key);
        }
        $names = [];
        foreach ($this->stamps ?? $this->stamps() as $segment => $stamp) {
            $names["{$this->cachePrefix}{$key}:{$segment}:{$stamp}"] = $segment;
        }
        /** @var array<string, string> $cached */
        $cached = (array) apcu_fetch(array_keys($names));
        $blobs = [];
        if (count($cached) === count($names)) {
            foreach ($cached as $name => $blob) {
                if ($blob !== '') {
                    $blobs[$names[$name]] = $blob;
                }
            }
            ksort($blobs);

            return $blobs;
        }
        $blobs = $this->readBlobs($key);
        foreach ($names as $name => $segment) {
            if (! isset($cached[$name])) {
                apcu_store($name, $blobs[$segment] ?? '', 3600);
            }
        }

        return $blobs;
    }

    public function termNumbers(string $space, array $terms): array
    {
        $numbers = [];
        foreach (array_chunk($terms, self::CHUNK) as $chunk) {
            $marks = implode(',', array_fill(0, count($chunk), '?'));
            foreach ($this->run("SELECT term, number FROM ix_term WHERE space = ? AND term IN ({$marks})", [$space, ...$chunk], count($chunk) === 1) as [$term, $number]) {
                $numbers[(string) $term] = (int) $number;
            }
        }

        return $numbers;
    }

    public function addTerms(string $space, array $terms): array
    {
        $next = $this->termCount($space);
        $insert = $this->pdo()->prepare('INSERT INTO ix_term (space, number, term, fold) VALUES (?, ?, ?, ?)');
        $added = [];
        foreach ($terms as $term) {
            $insert->execute([$space, ++$next, $term, Tokenizer::fold($term)]);
            $added[$term] = $next;
        }

        return $added;
    }

    public function terms(string $space, string $prefix = ''): array
    {
        $rows = $prefix === ''
            ? $this->run('SELECT number, term FROM ix_term WHERE space = ?', [$space])
            : $this->run('SELECT number, term FROM ix_term WHERE space = ? AND fold >= ? AND fold < ?', [$space, $prefix, $prefix."\u{10FFFF}"]);
        $terms = [];
        foreach ($rows as [$number, $term]) {
            $terms[(int) $number] = (string) $term;
        }

        return $terms;
    }

    public function termCount(string $space): int
    {
        return (int) ($this->run('SELECT COALESCE(MAX(number), 0) FROM ix_term WHERE space = ?', [$space])[0][0] ?? 0);
    }

    public function records(array $documents): array
    {
        $records = [];
        foreach (array_chunk($documents, self::CHUNK) as $chunk) {
            $list = implode(',', $chunk);
            foreach ($this->run("SELECT document, data FROM ix_record WHERE document IN ({$list})", [], false) as [$document, $data]) {
                $records[(int) $document] = (string) $data;
            }
        }

        return $records;
    }

    public function write(array $blobs, array $records, array $lengths): void
    {
        $this->connection->transaction(function () use ($blobs, $records, $lengths): void {
            $pdo = $this->pdo();
            $put = $pdo->prepare('INSERT INTO ix_blob (key, segment, data) VALUES (?, ?, ?) ON CONFLICT (key, segment) DO UPDATE SET data = excluded.data');
            $drop = $pdo->prepare('DELETE FROM ix_blob WHERE key = ? AND segment = ?');
            $touched = [];
            foreach ($blobs as $key => $segments) {
                foreach ($segments as $segment => $data) {
                    $touched[$segment] = true;
                    if ($data === null) {
                        $drop->execute([$key, $segment]);
                    } else {
                        self::bindBlob($put, [$key, $segment], $data);
                    }
                }
            }
            $put = $pdo->prepare('INSERT INTO ix_record (document, data) VALUES (?, ?) ON CONFLICT (document) DO UPDATE SET data = excluded.data');
            foreach ($records as $document => $data) {
                $touched[$document >> 16] = true;
                if ($data === null) {
                    $pdo->exec("DELETE FROM ix_record WHERE document = {$document}");
                } else {
                    self::bindBlob($put, [$document], $data);
                }
            }
            $put = $pdo->prepare('INSERT INTO ix_length (part, documents, words) VALUES (?, ?, ?) ON CONFLICT (part) DO UPDATE SET documents = documents + excluded.documents, words = words + excluded.words');
            foreach ($lengths as $part => [$documents, $words]) {
                $put->execute([$part, $documents, $words]);
            }
            // Stamps are never used twice, even when a rebuild starts from nothing: caches outlive it.
            $stamp = (int) (microtime(true) * 1_000_000);
            $put = $pdo->prepare('INSERT INTO ix_segment (segment, stamp) VALUES (?, ?) ON CONFLICT (segment) DO UPDATE SET stamp = MAX(stamp + 1, excluded.stamp)');
            foreach (array_keys($touched) as $segment) {
                $put->execute([$segment, $stamp]);
            }
        });
        $this->stamps = null;
    }

    public function lengths(): array
    {
        $lengths = [];
        foreach ($this->run('SELECT part, documents, words FROM ix_length', []) as [$part, $documents, $words]) {
            $lengths[(string) $part] = [(int) $documents, (int) $words];
        }

        return $lengths;
    }

    /** Empties the index. */
    public function clear(): void
    {
        $this->connection->transaction(function (): void {
            foreach (['ix_segment', 'ix_blob', 'ix_term', 'ix_record', 'ix_length'] as $table) {
                $this->pdo()->exec("DELETE FROM {$table}");
            }
        });
        $this->stamps = null;
    }

    /** @return array<int, string> */
    private function readBlobs(string $key): array
    {
        $blobs = [];
        foreach ($this->run('SELECT segment, data FROM ix_blob WHERE key = ? ORDER BY segment', [$key]) as [$segment, $data]) {
            $blobs[(int) $segment] = (string) $data;
        }

        return $blobs;
    }

    /**
     * @param  list<int|string>  $values
     * @return list<list<mixed>>
     */
    private function run(string $sql, array $values, bool $keep = true): array
    {
        $statement = $this->statements[$sql] ?? $this->pdo()->prepare($sql);
        if ($keep) {
            $this->statements[$sql] = $statement;
        }
        $statement->execute($values);
        /** @var list<list<mixed>> $rows */
        $rows = $statement->fetchAll(PDO::FETCH_NUM);

        return $rows;
    }

    /** @param  list<int|string>  $keys */
    private static function bindBlob(PDOStatement $statement, array $keys, string $data): void
    {
        foreach ($keys as $i => $key) {
            $statement->bindValue($i + 1, $key, is_int($key) ? PDO::PARAM_INT : PDO::PARAM_STR);
        }
        $statement->bindValue(count($keys) + 1, $data, PDO::PARAM_LOB);
        $statement->execute();
    }

    private function pdo(): PDO
    {
        /** @var \Illuminate\Database\Connection $connection */
        $connection = $this->connection;

        return $connection->getPdo();
    }
}
