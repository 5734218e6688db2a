<?php

declare(strict_types=1);

namespace App\Index;

use App\Models\Document;
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
        $store = new SqliteStore();
        [$segments, $ids, $recorded] = $store->snapshot(static function () use ($store): array {
            $segments = array_keys($store->stamps());

            $ids = Document::query()->where('state', Document::FILED)->orderBy('id')->pluck('id')->all();

            return [$segments, $ids, array_merge([], ...array_map($store->recorded(...), $segments))];
        });
        $found = [
            'missing' => array_values(array_diff($ids, $recorded)),
            'surplus' => array_values(array_diff($recorded, $ids)),
            'different' => [],
            'keys' => [],
        ];
        $all = count($ids) + count($segments) * Bits::SEGMENT_DOCUMENTS;
        $done = 0;
        foreach (array_chunk($ids, self::PIECE) as $chunk) {
            array_push($found['different'], ...$this->differing($store, $chunk));
            $progress($done += count($chunk), $all);
        }
        $check = new IndexCheck($store);
        foreach ($segments as $segment) {
            foreach ($store->snapshot(static fn (): array => self::wrong($store, $check, $segment)) as $key => $documents) {
                $found['keys'][$key] = [...$found['keys'][$key] ?? [], ...$documents];
            }
            $progress($done += Bits::SEGMENT_DOCUMENTS, $all);
        }

        return $found;
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
        DB::beginTransaction();
        try {
            $should = (new IndexWriter($store))->records(array_values($this->indexer->documents($ids)));
        } finally {
            // Making the records may have given numbers to words the index has not met.
            DB::rollBack();
        }
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
