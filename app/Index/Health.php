<?php

declare(strict_types=1);

namespace App\Index;

use App\Models\Document;
use App\Support\Column;
use Brenvic\Core\Index\Bits;
use Brenvic\Core\Index\ForwardRecord;
use Brenvic\Core\Index\IndexCheck;
use Brenvic\Core\Index\IndexWriter;
use Brenvic\Core\Index\Keys;
use Illuminate\Support\Facades\DB;

/**
 * Checks the index in two steps: each document’s record against the tables, then what the index holds under its keys
 * against the records. Reads only, and each step from one moment, so that work goes on meanwhile.
 */
final readonly class Health
{
    private const PIECE = 500;

    private const KINDS = ['missing', 'surplus', 'different'];

    public function __construct(private Indexer $indexer)
    {
    }

    /**
     * @param  callable(int $done, int $all): void  $progress
     * @return array{missing: list<int>, surplus: list<int>, different: list<int>, keys: array<string, list<int>>} ids of
     *                                                                                                            documents that are not in the index, are in it and should not be, differ; and by key
     */
    public function check(callable $progress): array
    {
        $found = ['missing' => [], 'surplus' => [], 'different' => [], 'keys' => []];
        $segments = $this->segments();
        $filed = Document::query()->where('state', Document::FILED)->count();
        $all = $filed + count($segments) * Bits::SEGMENT_DOCUMENTS;
        for ($after = $done = 0; $after !== null; $after = $piece['reached']) {
            $piece = $this->records($after);
            foreach (self::KINDS as $kind) {
                array_push($found[$kind], ...$piece[$kind]);
            }
            $progress($done = min($filed, $done + self::PIECE), $all);
        }
        foreach ($segments as $i => $segment) {
            foreach ($this->keys($segment) as $key => $documents) {
                $found['keys'][$key] = [...$found['keys'][$key] ?? [], ...$documents];
            }
            $progress($filed + ($i + 1) * Bits::SEGMENT_DOCUMENTS, $all);
        }

        return $found;
    }

    /** @return list<int> the parts that the index has */
    public function segments(): array
    {
        $store = new SqliteStore();

        return $store->snapshot(static fn (): array => array_keys($store->stamps()));
    }

    /**
     * Compares the records of the next documents behind one, all from one moment.
     *
     * @return array{missing: list<int>, surplus: list<int>, different: list<int>, reached: int|null} ids as `check` has them, and the
     *                                                                                               last that was looked at; null when there are no more
     */
    public function records(int $after): array
    {
        DB::beginTransaction();
        try {
            $store = new SqliteStore();
            $store->stamps();
            $ids = Column::numbers(
                Document::query()
                    ->where('state', Document::FILED)
                    ->where('id', '>', $after)
                    ->orderBy('id')
                    ->limit(self::PIECE)
                    ->pluck('id'),
            );
            $last = count($ids) < self::PIECE ? PHP_INT_MAX : $ids[self::PIECE - 1];
            $recorded = $store->recordedBetween($after, $last);

            return [
                'missing' => array_values(array_diff($ids, $recorded)),
                'surplus' => array_values(array_diff($recorded, $ids)),
                'different' => $this->differing($store, $ids),
                'reached' => $last === PHP_INT_MAX ? null : $last,
            ];
        } finally {
            // Making the records may have given numbers to words the index has not met.
            DB::rollBack();
        }
    }

    /** @return array<string, list<int>> documents by the key under which they stand wrongly in a part of the index */
    public function keys(int $segment): array
    {
        $store = new SqliteStore();

        return $store->snapshot(static fn (): array => self::wrong($store, new IndexCheck($store), $segment));
    }

    /** @return array<string, list<int>> documents by the key under which they stand wrongly */
    private static function wrong(SqliteStore $store, IndexCheck $check, int $segment): array
    {
        $store->stamps();
        $records = [];
        foreach (array_chunk($store->recorded($segment), self::PIECE) as $chunk) {
            $records += $store->records($chunk);
        }

        return $check->segment($segment, $records, $store->keys($segment));
    }

    /**
     * @param  list<int>  $ids
     * @return list<int> those whose record is not what their values and text make
     */
    private function differing(SqliteStore $store, array $ids): array
    {
        $should = (new IndexWriter($store))->records(array_values($this->indexer->documents($ids)));
        $is = $store->records($ids);

        return array_values(
            array_filter(
                array_keys($should),
                static fn (int $id): bool => isset($is[$id]) && ForwardRecord::decode($is[$id]) != ForwardRecord::decode($should[$id]),
            ),
        );
    }

    /** A key in words, for people. */
    public static function describe(string $key): string
    {
        $parts = explode('/', $key);

        return match ($parts[0]) {
            'w' => "word {$parts[2]} in part {$parts[1]}",
            'v' => "value {$parts[2]} of {$parts[1]}",
            'c' => "facet of {$parts[1]}",
            'n' => "number of {$parts[1]}",
            Keys::ALL => 'list of documents',
            default => $key,
        };
    }
}
