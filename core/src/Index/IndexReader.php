<?php

declare(strict_types=1);

namespace Brenvic\Core\Index;

/** Reads the index for one search, in its own terms: sets, slices, columns. Remembers what it read. */
final class IndexReader
{
    /** Bytes of blobs kept between two searches of one process. */
    private const CACHE_BYTES = 96 * 1024 * 1024;

    /** @var array<int, int> */
    private array $stamps = [];

    /** @var array<string, array<int, string>> */
    private array $cache = [];

    private int $cached = 0;

    public function __construct(private readonly IndexStore $store)
    {
        $this->refresh();
    }

    /** Looks at the newest state of the index from now on. */
    public function refresh(): void
    {
        $stamps = $this->store->stamps();
        if ($stamps !== $this->stamps || $this->cached > self::CACHE_BYTES) {
            $this->stamps = $stamps;
            $this->cache = [];
            $this->cached = 0;
        }
    }

    /** @return list<int> */
    public function segments(): array
    {
        return array_keys($this->stamps);
    }

    public function all(): DocumentSet
    {
        return new DocumentSet($this->read(Keys::ALL));
    }

    /** @param  list<string>  $parts */
    public function word(array $parts, int $word): DocumentSet
    {
        return DocumentSet::union(array_map(
            fn (string $part): DocumentSet => $this->posting(Keys::word($part, $word)),
            $parts,
        ));
    }

    public function value(string $field, int $value): DocumentSet
    {
        return $this->posting(Keys::value($field, $value));
    }

    /** @return array<int, string> segment => stored Posting */
    public function stored(string $key): array
    {
        return $this->read($key);
    }

    public function posting(string $key): DocumentSet
    {
        $stored = $this->read($key);
        $bits = $this->cache["={$key}"] ?? null;
        if ($bits === null) {
            $bits = array_map(Posting::bits(...), $stored);
            $this->remember("={$key}", $bits);
        }

        return new DocumentSet($bits);
    }

    public function slices(string $field): BitSlices
    {
        $present = $this->read(Keys::present($field));
        $slices = [];
        for ($digit = 0; $digit < 62; $digit++) {
            foreach ($this->read(Keys::slice($field, $digit)) as $segment => $bits) {
                $slices[$segment][$digit] = $bits;
            }
        }

        return new BitSlices($slices, new DocumentSet($present));
    }

    /** A byte column of a segment, one byte a document; null when no document has a value there. */
    public function column(string $field, int $block, int $slot, int $segment): ?string
    {
        return $this->read(Keys::column($field, $block, $slot))[$segment] ?? null;
    }

    /**
     * @param  list<string>  $words
     * @return array<string, int> word => number, for those the dictionary holds
     */
    public function wordNumbers(array $words): array
    {
        return $this->store->termNumbers(Keys::WORDS, $words);
    }

    /** @return array<int, string> number => word, for those that begin with `$prefix` */
    public function wordsBeginningWith(string $prefix): array
    {
        return $this->store->terms(Keys::WORDS, $prefix);
    }

    /** @return array<int, string> number => normal form */
    public function valueTerms(string $field): array
    {
        return $this->store->terms(Keys::values($field));
    }

    public function valueNumber(string $field, string $normal): ?int
    {
        return $this->store->termNumbers(Keys::values($field), [$normal])[$normal] ?? null;
    }

    public function valueCount(string $field): int
    {
        return $this->store->termCount(Keys::values($field));
    }

    /**
     * @param  list<int>  $documents
     * @return array<int, ForwardRecord>
     */
    public function records(array $documents): array
    {
        return array_map(ForwardRecord::decode(...), $this->store->records($documents));
    }

    /** @return array<int, string> segment => blob */
    private function read(string $key): array
    {
        if (! isset($this->cache[$key])) {
            $this->remember($key, $this->store->blobs($key));
        }

        return $this->cache[$key];
    }

    /** @param  array<int, string>  $blobs */
    private function remember(string $key, array $blobs): void
    {
        $this->cache[$key] = $blobs;
        $this->cached += 64 + array_sum(array_map(strlen(...), $blobs));
    }
}
