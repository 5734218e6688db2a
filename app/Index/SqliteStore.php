<?php

declare(strict_types=1);

namespace App\Index;

use Brenvic\Core\Index\IndexStore;
use Brenvic\Core\Index\Tokenizer;
use Illuminate\Database\ConnectionInterface;
use Illuminate\Support\Facades\DB;
use OverflowException;
use PDO;
use PDOStatement;

/**
 * The index in SQLite, in one of two sets of tables: searches read the live one while a rebuild fills the other (see
 * IndexState). Blobs that were read stay in APCu under the stamps of their segments, so that the processes of the
 * server share them and a changed segment is simply read anew.
 */
final class SqliteStore implements IndexStore
{
    private const CHUNK = 500;

    /** A blob is numbered by its segment, its space and its number in there, of so many binary digits. */
    private const SPACE_DIGITS = 26;

    private const NUMBER_DIGITS = 24;

    /** So many things made of the index are kept in one process, the latest. */
    private const MOST_MADE = 256;

    /** The space that counts how often terms were forgotten. */
    private const SWEEPS = '~';

    /** Seconds that what was read stays in APCu without being asked for. */
    private const KEPT = 3600;

    /** @var array<int, int>|null */
    private ?array $stamps = null;

    /** @var array<string, array{array<int, int>, mixed}> name => the state it was made of, and what was made */
    private array $made = [];

    /** @var array<string, PDOStatement> */
    private array $statements = [];

    /** @var array<int, array<string, int>> generation => name of a space of blobs => its number */
    private array $spaces = [];

    private readonly ConnectionInterface $connection;

    private readonly string $cacheName;

    private int $generation;

    /** @param  int|null  $fixed  the set of tables to work on; null for the one that is live at each call of `stamps` */
    public function __construct(private readonly ?int $fixed = null)
    {
        $this->connection = DB::connection();
        $database = (string) $this->connection->getDatabaseName();
        $this->cacheName =
            function_exists('apcu_enabled') && apcu_enabled() && $database !== ':memory:'
                ? 'bx'.crc32($database.(@fileinode($database) ?: ''))
                : '';
        $this->generation = $fixed ?? IndexState::read()->live;
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
        $this->generation = $this->fixed ?? (int) $this->run('SELECT live FROM ix_state WHERE id = 1', [])[0][0];
        $this->stamps = [];
        foreach ($this->run('SELECT segment, stamp FROM {segment} ORDER BY segment', []) as [$segment, $stamp]) {
            $this->stamps[(int) $segment] = (int) $stamp;
        }

        return $this->stamps;
    }

    public function blob(string $key, int $segment): ?string
    {
        $id = $this->id($key, $segment, false);
        $row = $id === null ? null : $this->run('SELECT data FROM {blob} WHERE id = ?', [$id])[0] ?? null;

        return $row === null ? null : (string) $row[0];
    }

    public function blobs(string $key): array
    {
        return $this->many([$key])[$key];
    }

    public function many(array $keys): array
    {
        if ($this->cacheName === '' || $this->connection->transactionLevel() > 0) {
            return $this->readBlobs($keys);
        }
        $stamps = $this->stamps ?? $this->stamps();
        $head = "{$this->cacheName}:{$this->generation}:";
        $found = $stale = [];
        foreach (array_chunk($keys, self::CHUNK) as $chunk) {
            /** @var array<string, array{array<int, int>, array<int, string>}> $cached */
            $cached = (array) apcu_fetch(array_map(static fn (string $key): string => $head.$key, $chunk));
            foreach ($chunk as $key) {
                [$known, $blobs] = $cached[$head.$key] ?? [null, []];
                if ($known === $stamps) {
                    $found[$key] = $blobs;
                } else {
                    $stale[] = $key;
                }
            }
        }
        if ($stale !== []) {
            foreach ($this->readBlobs($stale) as $key => $blobs) {
                $found[$key] = $blobs;
                apcu_store($head.$key, [$stamps, $blobs], self::KEPT);
            }
        }

        return $found;
    }

    public function termNumbers(string $space, array $terms): array
    {
        $numbers = [];
        foreach (array_chunk($terms, self::CHUNK) as $chunk) {
            $marks = implode(',', array_fill(0, count($chunk), '?'));
            foreach (
                $this->run(
                    "SELECT term, number FROM {term} WHERE space = ? AND term IN ({$marks})",
                    [$space, ...$chunk],
                    count($chunk) === 1,
                ) as [$term, $number]
            ) {
                $numbers[(string) $term] = (int) $number;
            }
        }

        return $numbers;
    }

    public function addTerms(string $space, array $terms): array
    {
        return $this->connection->transaction(function () use ($space, $terms): array {
            $next = $this->termCount($space);
            $insert = $this->prepare('INSERT INTO {term} (space, number, term, fold) VALUES (?, ?, ?, ?)');
            $added = [];
            foreach ($terms as $term) {
                $fold = Tokenizer::fold($term);
                $insert->execute([$space, ++$next, $term, $fold === $term ? null : $fold]);
                $added[$term] = $next;
            }

            return $added;
        });
    }

    public function forgetTerms(string $space, array $terms): void
    {
        $this->connection->transaction(function () use ($space, $terms): void {
            $update = $this->prepare('UPDATE {term} SET term = ? || number, fold = NULL WHERE space = ? AND term = ?');
            foreach ($terms as $term) {
                $update->execute([self::FORGOTTEN, $space, $term]);
            }
            // What is in APCu of the space is known to be old by this.
            $this->addTerms(self::SWEEPS, [(string) ($this->termCount(self::SWEEPS) + 1)]);
        });
    }

    public function terms(string $space, string $prefix = ''): array
    {
        return $prefix === ''
            ? $this->allTerms($space)
            : self::numbered(
                $this->run(
                    'SELECT number, term FROM {term} WHERE space = ? AND term >= ? AND term < ? AND fold IS NULL UNION ALL SELECT number, term FROM {term} WHERE space = ? AND fold >= ? AND fold < ?',
                    [$space, $prefix, $prefix."\u{10FFFF}", $space, $prefix, $prefix."\u{10FFFF}"],
                ),
            );
    }

    public function termsFrom(string $space, string $term, int $most, bool $isBefore = false): array
    {
        [$relation, $order] = $isBefore ? ['<', 'DESC'] : ['>=', 'ASC'];
        $rows = $this->run(
            "SELECT term FROM {term} WHERE space = ? AND term {$relation} ? AND SUBSTR(term, 1, 1) != ? ORDER BY term {$order} LIMIT ?",
            [$space, $term, self::FORGOTTEN, $most],
        );

        return array_map(static fn (array $row): string => (string) $row[0], $rows);
    }

    public function termsNumbered(string $space, array $numbers): array
    {
        return self::numbered(
            $this->run(
                'SELECT t.number, t.term FROM json_each(?) n CROSS JOIN {term} t ON t.space = ? AND t.number = n.value',
                [self::json($numbers), $space],
            ),
        );
    }

    /**
     * A space only grows, so what is in APCu is whole as long as the count is and no term was forgotten.
     *
     * @return array<int, string>
     */
    private function allTerms(string $space): array
    {
        $read = fn (): array => self::numbered($this->run('SELECT number, term FROM {term} WHERE space = ?', [$space]));
        if ($this->cacheName === '' || $this->connection->transactionLevel() > 0) {
            return $read();
        }
        $count = $this->termCount($space);
        $name = "{$this->cacheName}:{$this->generation}:terms:{$space}:{$this->termCount(self::SWEEPS)}";
        /** @var array<int, string>|false $terms */
        $terms = apcu_fetch($name);
        if ($terms === false || count($terms) !== $count) {
            $terms = $read();
            apcu_store($name, $terms, self::KEPT);
        }

        return $terms;
    }

    /**
     * @param  list<list<mixed>>  $rows
     * @return array<int, string>
     */
    private static function numbered(array $rows): array
    {
        $terms = [];
        foreach ($rows as [$number, $term]) {
            $terms[(int) $number] = (string) $term;
        }

        return $terms;
    }

    public function termCount(string $space): int
    {
        return (int) ($this->run('SELECT COALESCE(MAX(number), 0) FROM {term} WHERE space = ?', [$space])[0][0] ?? 0);
    }

    public function records(array $documents, array $holding = []): array
    {
        $sql = 'SELECT r.document, r.data FROM json_each(?) d CROSS JOIN {record} r ON r.document = d.value';
        if ($holding !== []) {
            // In SQLite, so that the many that do not hold it are not even passed on.
            $sql .= ' WHERE '.implode(' OR ', array_fill(0, count($holding), 'instr(r.data, ?) > 0'));
        }
        $statement = $this->statement($sql);
        $statement->bindValue(1, self::json($documents));
        foreach ($holding as $i => $bytes) {
            $statement->bindValue($i + 2, $bytes, PDO::PARAM_LOB);
        }
        $statement->execute();

        return array_map(strval(...), $statement->fetchAll(PDO::FETCH_KEY_PAIR));
    }

    public function remembered(string $name, callable $make, float $least = 0.0): mixed
    {
        $stamps = $this->stamps ?? $this->stamps();
        if (($this->made[$name][0] ?? null) === $stamps) {
            return $this->made[$name][1];
        }
        $key = "{$this->cacheName}:{$this->generation}:made:{$name}";
        $isShared = $this->cacheName !== '' && $this->connection->transactionLevel() === 0;
        /** @var array{array<int, int>, mixed}|false $kept */
        $kept = $isShared ? apcu_fetch($key) : false;
        if ($kept === false || $kept[0] !== $stamps) {
            $since = hrtime(true);
            $kept = [$stamps, $make()];
            if ((hrtime(true) - $since) / 1e6 < $least) {
                return $kept[1];
            }
            $isShared && apcu_store($key, $kept, self::KEPT);
        }
        $this->made[$name] = $kept;
        if (count($this->made) > self::MOST_MADE) {
            array_shift($this->made);
        }

        return $kept[1];
    }

    public function write(array $blobs, array $records): void
    {
        $this->connection->transaction(function () use ($blobs, $records): void {
            $this->spaces = [];
            $put = $this->prepare('INSERT INTO {blob} (id, data) VALUES (?, ?) ON CONFLICT (id) DO UPDATE SET data = excluded.data');
            $drop = $this->prepare('DELETE FROM {blob} WHERE id = ?');
            $touched = $byId = [];
            foreach ($blobs as $key => $segments) {
                foreach ($segments as $segment => $data) {
                    $touched[$segment] = true;
                    $byId[$this->id((string) $key, $segment, true)] = $data;
                }
            }
            // In their order, so that a batch is written page by page and leaves no page half empty.
            ksort($byId);
            foreach ($byId as $id => $data) {
                if ($data === null) {
                    $drop->execute([$id]);
                } else {
                    self::bindBlob($put, (int) $id, $data);
                }
            }
            $put = $this->prepare(
                'INSERT INTO {record} (document, data) VALUES (?, ?) ON CONFLICT (document) DO UPDATE SET data = excluded.data',
            );
            $drop = $this->prepare('DELETE FROM {record} WHERE document = ?');
            foreach ($records as $document => $data) {
                $touched[$document >> 16] = true;
                if ($data === null) {
                    $drop->execute([$document]);
                } else {
                    self::bindBlob($put, $document, $data);
                }
            }
            // Stamps are never used twice, even when a rebuild starts from nothing: caches outlive it.
            $stamp = (int) (microtime(true) * 1_000_000);
            $put = $this->prepare(
                'INSERT INTO {segment} (segment, stamp) VALUES (?, ?) ON CONFLICT (segment) DO UPDATE SET stamp = MAX(stamp + 1, excluded.stamp)',
            );
            foreach (array_keys($touched) as $segment) {
                $put->execute([$segment, $stamp]);
            }
        });
        $this->stamps = null;
    }

    /**
     * The keys that a segment has blobs under.
     *
     * @return list<string>
     */
    public function keys(int $segment): array
    {
        $names = array_flip($this->allSpaces());
        $keys = [];
        foreach (
            $this->run('SELECT id FROM {blob} WHERE id >= ? AND id < ?', [self::number($segment, 0, 0), self::number($segment + 1, 0, 0)]) as [$id]
        ) {
            $name = $names[($id >> self::NUMBER_DIGITS) & ((1 << self::SPACE_DIGITS) - 1)];
            $keys[] = str_ends_with($name, '/') ? $name.($id & ((1 << self::NUMBER_DIGITS) - 1)) : $name;
        }
        sort($keys);

        return $keys;
    }

    private static function number(int $segment, int $space, int $number): int
    {
        return ((($segment << self::SPACE_DIGITS) | $space) << self::NUMBER_DIGITS) | $number;
    }

    /**
     * The number of a blob.
     *
     * @return int|null null when nothing is kept under such keys and `$make` is false
     */
    private function id(string $key, int $segment, bool $make): ?int
    {
        [$name, $number] = self::place($key);
        $space = $this->spaces[$this->generation][$name] ?? ($this->allSpaces()[$name] ?? ($make ? $this->addSpace($name) : null));

        return $space === null ? null : self::number($segment, $space, $number);
    }

    /**
     * A key that ends in a number belongs to the space of all keys that are equal up to it, any other is a space of its own.
     *
     * @return array{string, int} the name of the space, the number in it
     */
    private static function place(string $key): array
    {
        $slash = strrpos($key, '/');
        $end = $slash === false ? '' : substr($key, $slash + 1);
        [$name, $number] = ctype_digit($end) ? [substr($key, 0, (int) $slash + 1), (int) $end] : [$key, 0];
        if ($number >> self::NUMBER_DIGITS !== 0) {
            throw new OverflowException("The index cannot number {$key}.");
        }

        return [$name, $number];
    }

    /** @return array<string, int> */
    private function allSpaces(): array
    {
        $spaces = [];
        foreach ($this->run('SELECT name, number FROM {space}', []) as [$name, $number]) {
            $spaces[(string) $name] = (int) $number;
        }

        return $this->spaces[$this->generation] = $spaces;
    }

    /** Numbered by a hash of the name: whatever was rolled back or forgotten, a name never takes the number of another. */
    private function addSpace(string $name): int
    {
        $taken = array_flip($this->allSpaces());
        for (
            $number = crc32($name) >> (32 - self::SPACE_DIGITS);
            isset($taken[$number]);
            $number = ($number + 1) & ((1 << self::SPACE_DIGITS) - 1)
        ) {
        }
        $this->run('INSERT INTO {space} (number, name) VALUES (?, ?)', [$number, $name]);

        return $this->spaces[$this->generation][$name] = $number;
    }

    /** @return list<int> the documents of a segment that have a record */
    public function recorded(int $segment): array
    {
        return $this->recordedBetween(($segment << 16) - 1, (($segment + 1) << 16) - 1);
    }

    /** @return list<int> the documents behind one, up to another, that are in the index */
    public function recordedBetween(int $after, int $last): array
    {
        return array_map(
            static fn (array $row): int => (int) $row[0],
            $this->run('SELECT document FROM {record} WHERE document > ? AND document <= ? ORDER BY document', [$after, $last]),
        );
    }

    /** Empties this set of tables. */
    public function clear(): void
    {
        $this->connection->transaction(function (): void {
            foreach (['segment', 'space', 'blob', 'term', 'record'] as $table) {
                $this->prepare("DELETE FROM {{$table}}")->execute();
            }
        });
        $this->stamps = null;
        $this->spaces = [];
    }

    /**
     * @param  list<string>  $keys
     * @return array<string, array<int, string>>
     */
    private function readBlobs(array $keys): array
    {
        $blobs = array_fill_keys($keys, []);
        $segments = array_keys($this->stamps ?? $this->stamps());
        $ids = $of = [];
        $spaces = $this->spaces[$this->generation] ?? [];
        $isFresh = false;
        foreach ($keys as $key) {
            [$name, $number] = self::place($key);
            // Some spaces are empty, of comments where there are none: looked for once, not for each word.
            if (! isset($spaces[$name]) && ! $isFresh) {
                $spaces = $this->allSpaces();
                $isFresh = true;
            }
            if (isset($spaces[$name])) {
                $first = self::number(0, $spaces[$name], $number);
                $of[$first] = $key;
                foreach ($segments as $segment) {
                    $ids[] = self::number($segment, 0, 0) | $first;
                }
            }
        }
        $rest = self::number(1, 0, 0) - 1;
        foreach (
            $this->run('SELECT b.id, b.data FROM json_each(?) i CROSS JOIN {blob} b ON b.id = i.value', [self::json($ids)]) as [$id, $data]
        ) {
            $blobs[$of[$id & $rest]][$id >> (self::SPACE_DIGITS + self::NUMBER_DIGITS)] = (string) $data;
        }

        return $blobs;
    }

    /** @param  list<int>  $numbers */
    private static function json(array $numbers): string
    {
        return '['.implode(',', $numbers).']';
    }

    /**
     * @param  string  $sql  with the tables as {blob}, {term} …
     * @param  list<int|string>  $values
     * @return list<list<mixed>>
     */
    private function run(string $sql, array $values, bool $keep = true): array
    {
        $statement = $keep ? $this->statement($sql) : $this->prepare($sql);
        $statement->execute($values);
        /** @var list<list<mixed>> $rows */
        $rows = $statement->fetchAll(PDO::FETCH_NUM);

        return $rows;
    }

    /** A statement that is kept for the next time. */
    private function statement(string $sql): PDOStatement
    {
        return $this->statements["{$this->generation} {$sql}"] ??= $this->prepare($sql);
    }

    private function prepare(string $sql): PDOStatement
    {
        return $this->pdo()->prepare((string) preg_replace('/\{(\w+)\}/', "ix{$this->generation}_$1", $sql));
    }

    private static function bindBlob(PDOStatement $statement, int $id, string $data): void
    {
        $statement->bindValue(1, $id, PDO::PARAM_INT);
        $statement->bindValue(2, $data, PDO::PARAM_LOB);
        $statement->execute();
    }

    private function pdo(): PDO
    {
        /** @var \Illuminate\Database\Connection $connection */
        $connection = $this->connection;

        return $connection->getPdo();
    }
}
