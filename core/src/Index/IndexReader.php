<?php

declare(strict_types=1);

namespace Brenvic\Core\Index;

/** Reads the index for one search, in its own terms: sets, slices, columns. Remembers what it read. */
final class IndexReader
{
    /** Bytes of blobs kept between two searches of one process. */
    private const CACHE_BYTES = 96 * 1024 * 1024;

    /** Of so many words the sets are kept, and of so many sets the counts. */
    private const FEW_WORDS = 8;

    /** So many sets gathered from many postings are kept. */
    private const MOST_GATHERED = 12;

    /** @var array<int, int> */
    private array $stamps = [];

    /** @var array<string, array<int, string>> */
    private array $cache = [];

    private int $cached = 0;

    /** @var array<string, DocumentSet> */
    private array $sets = [];

    /** @var list<array{DocumentSet, array{array<string, array<int, int>>, array<string, list<list<int>>>}}> the latest sets that were counted from records */
    private array $counted = [];

    /** @var array<string, BitSlices> field and slot => slices */
    private array $slices = [];

    /** @var array<string, array<int, string>> space => number => term */
    private array $terms = [];

    /** @var array{list<int>, array<int, string>} the documents whose records were read last, and these */
    private array $latest = [[], []];

    /** @var array<string, DocumentSet> the latest sets that were gathered from many postings */
    private array $gathered = [];

    /** @var array<string, ValuesBeside> by field */
    private readonly array $beside;

    /** @param  list<ValuesBeside>  $beside  fields whose values are not in the index */
    public function __construct(private readonly IndexStore $store, array $beside = [])
    {
        $this->beside = array_column($beside, null, 'field');
        $this->refresh();
    }

    /** Looks at the newest state of the index from now on. */
    public function refresh(): void
    {
        $stamps = $this->store->stamps();
        if ($stamps !== $this->stamps || $this->cached > self::CACHE_BYTES) {
            $this->stamps = $stamps;
            $this->cache = $this->terms = $this->slices = $this->sets = $this->counted = $this->gathered = [];
            $this->latest = [[], []];
            $this->cached = 0;
        }
    }

    public function all(): DocumentSet
    {
        return new DocumentSet($this->read(Keys::ALL));
    }

    /**
     * The documents that have any of some words in any of some parts.
     *
     * @param  list<string>  $parts
     * @param  list<int>  $words
     */
    public function words(array $parts, array $words): DocumentSet
    {
        if (count($words) <= self::FEW_WORDS) {
            return $this->anyOf(self::keys($parts, $words));
        }
        // Ranking asks for each part of what was found in all of them.
        $list = implode(',', $words);

        return DocumentSet::union(
            array_map(fn (string $part): DocumentSet => $this->gathered("{$part}/{$list}", self::keys([$part], $words)), $parts),
        );
    }

    /** @param  list<string>  $keys */
    private function gathered(string $name, array $keys): DocumentSet
    {
        if (! isset($this->gathered[$name])) {
            $this->gathered = [...array_slice($this->gathered, -self::MOST_GATHERED), $name => $this->anyOf($keys)];
        }

        return $this->gathered[$name];
    }

    /**
     * The documents that have any of some values in a field.
     *
     * @param  list<int>  $values
     */
    public function values(string $field, array $values): DocumentSet
    {
        if (isset($this->beside[$field])) {
            return DocumentSet::union(array_map($this->beside[$field]->documents(...), $values));
        }

        return $this->anyOf(array_map(static fn (int $value): string => Keys::value($field, $value), $values));
    }

    /** @param  list<string>  $keys  of postings */
    private function anyOf(array $keys): DocumentSet
    {
        if (count($keys) <= self::FEW_WORDS) {
            return DocumentSet::union(array_map($this->posting(...), $keys));
        }
        $this->fetch($keys);
        $bits = [];
        $few = [];
        foreach ($keys as $key) {
            foreach ($this->read($key) as $segment => $stored) {
                if (Posting::isFew($stored)) {
                    $few[$segment][] = $stored;
                } else {
                    $bits[$segment] = isset($bits[$segment]) ? Bits::or($bits[$segment], Posting::bits($stored)) : Posting::bits($stored);
                }
            }
        }
        foreach ($few as $segment => $postings) {
            $gathered = Posting::gathered($postings);
            $bits[$segment] = isset($bits[$segment]) ? Bits::or($bits[$segment], $gathered) : $gathered;
        }

        return new DocumentSet($bits);
    }

    /**
     * In how many documents of a set each word stands, in any of some parts.
     *
     * @param  list<string>  $parts
     * @param  list<int>  $words
     * @return array<int, int>
     */
    public function countWords(array $parts, array $words, DocumentSet $within): array
    {
        $this->fetch(self::keys($parts, $words));
        $counts = [];
        foreach ($words as $word) {
            if (count($words) <= self::FEW_WORDS) {
                // Their sets will be asked for right after.
                $counts[$word] = $this->words($parts, [$word])->countCommon($within);

                continue;
            }
            $counts[$word] = 0;
            $bySegment = [];
            foreach (self::keys($parts, [$word]) as $key) {
                foreach ($this->read($key) as $segment => $stored) {
                    if (isset($within->segments[$segment])) {
                        $bySegment[$segment][] = $stored;
                    }
                }
            }
            foreach ($bySegment as $segment => $postings) {
                $counts[$word] += Posting::countIn($postings, $within->segments[$segment]);
            }
        }

        return $counts;
    }

    /**
     * @param  list<string>  $parts
     * @param  list<int>  $words
     * @return list<string>
     */
    private static function keys(array $parts, array $words): array
    {
        $keys = [];
        foreach ($words as $word) {
            foreach ($parts as $part) {
                $keys[] = Keys::word($part, $word);
            }
        }

        return $keys;
    }

    public function value(string $field, int $value): DocumentSet
    {
        return isset($this->beside[$field]) ? $this->beside[$field]->documents($value) : $this->posting(Keys::value($field, $value));
    }

    /** The block of the `$n`th value of each document of a segment (see Keys::blocks). */
    public function blocks(string $field, int $n, int $segment): ?string
    {
        return $this->read(Keys::blocks($field, $n))[$segment] ?? null;
    }

    /**
     * A set that searches of this process need again and again, made once for each state of the index.
     *
     * @param  callable(): DocumentSet  $make
     */
    public function kept(string $name, callable $make): DocumentSet
    {
        return $this->sets[$name] ??= $make();
    }

    /**
     * What was made of the index in its present state, made once.
     *
     * @template T
     *
     * @param  callable(): T  $make
     * @param  float  $least  milliseconds that it takes to make if it is worth being kept
     * @return T
     */
    public function remembered(string $name, callable $make, float $least = 0.0): mixed
    {
        return $this->store->remembered($name, $make, $least);
    }

    /** @return array<int, string> segment => stored Posting */
    public function stored(string $key): array
    {
        return $this->read($key);
    }

    /**
     * The impact of a word that stands once in a part, by binary digit.
     *
     * @return array<int, non-empty-list<string>> segment => digits
     */
    public function usual(string $part): array
    {
        $slices = [];
        for ($digit = 0; $digit < Posting::DIGITS; $digit++) {
            foreach ($this->read(Keys::usual($part, $digit)) as $segment => $bits) {
                $slices[$segment] ??= array_fill(0, Posting::DIGITS, Bits::none());
                $slices[$segment][$digit] = $bits;
            }
        }

        return $slices;
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

    /** The ordinals of a field; of several of one document those in slot `$slot`, the lowest in 0. */
    public function slices(string $field, int $slot = 0): BitSlices
    {
        return $this->slices["{$field}/{$slot}"] ??= $this->readSlices($field, $slot);
    }

    private function readSlices(string $field, int $slot): BitSlices
    {
        $this->fetch(array_map(static fn (int $digit): string => Keys::slice($field, $slot, $digit), range(0, IndexWriter::DIGITS - 1)));
        $slices = [];
        for ($digit = 0; $digit < IndexWriter::DIGITS; $digit++) {
            foreach ($this->read(Keys::slice($field, $slot, $digit)) as $segment => $bits) {
                $slices[$segment][$digit] = $bits;
            }
        }

        return new BitSlices($slices, new DocumentSet($this->read(Keys::present($field, $slot))));
    }

    /** @return non-empty-list<BitSlices> all slots of a field */
    public function allSlices(string $field): array
    {
        $all = [$this->slices($field)];
        while ($this->read(Keys::present($field, count($all))) !== []) {
            $all[] = $this->slices($field, count($all));
        }

        return $all;
    }

    /** Of several numbers of a document the highest; the slices of slot 0 have the lowest. */
    public function highest(string $field): BitSlices
    {
        $all = $this->allSlices($field);

        return $this->slices["{$field}/highest"] ??= array_reduce(
            array_slice($all, 1),
            static fn (BitSlices $low, BitSlices $high): BitSlices => $low->below($high),
            $all[0],
        );
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

    /**
     * Words from one on, in their order; or those before one, the nearest first.
     *
     * @return list<string>
     */
    public function wordsFrom(string $word, int $most, bool $isBefore = false): array
    {
        return $this->store->termsFrom(Keys::WORDS, $word, $most, $isBefore);
    }

    /** @return array<int, string> number => word, for those that begin with `$prefix` */
    public function wordsBeginningWith(string $prefix): array
    {
        return $prefix === ''
            ? ($this->terms[Keys::WORDS] ??= $this->store->terms(Keys::WORDS))
            : $this->store->terms(Keys::WORDS, $prefix);
    }

    /**
     * @param  list<int>  $numbers
     * @return array<int, string> number => word
     */
    public function wordsNumbered(array $numbers): array
    {
        return $this->store->termsNumbered(Keys::WORDS, $numbers);
    }

    /** @return array<int, string> number => normal form */
    public function valueTerms(string $field): array
    {
        return isset($this->beside[$field])
            ? $this->beside[$field]->terms
            : $this->terms[Keys::values($field)] ??= $this->store->terms(Keys::values($field));
    }

    /** @return array<int, string> number => normal form, for those that begin with `$prefix` once folded */
    public function valueTermsBeginningWith(string $field, string $prefix): array
    {
        return isset($this->beside[$field])
            ? array_filter($this->beside[$field]->terms, static fn (string $term): bool => str_starts_with(Tokenizer::fold($term), $prefix))
            : $this->store->terms(Keys::values($field), $prefix);
    }

    public function valueNumber(string $field, string $normal): ?int
    {
        if (isset($this->beside[$field])) {
            return array_flip($this->beside[$field]->terms)[$normal] ?? null;
        }

        return $this->store->termNumbers(Keys::values($field), [$normal])[$normal] ?? null;
    }

    public function valueCount(string $field): int
    {
        return isset($this->beside[$field]) ? count($this->beside[$field]->terms) : $this->store->termCount(Keys::values($field));
    }

    /**
     * The words of one stem.
     *
     * @return list<string>
     */
    public function wordsOfStem(string $stem): array
    {
        return $this->filedUnder(Keys::STEMS, $stem);
    }

    /**
     * The words of one stem in texts of a language other than English.
     *
     * @return list<string>
     */
    public function wordsOfStemIn(string $language, string $stem): array
    {
        return $this->filedUnder(Keys::stems($language), $stem);
    }

    /**
     * The words that sound alike.
     *
     * @return list<string>
     */
    public function wordsOfSound(string $sound): array
    {
        return $this->filedUnder(Keys::SOUNDS, $sound);
    }

    /** @return list<string> */
    private function filedUnder(string $space, string $head): array
    {
        return array_map(
            static fn (string $term): string => substr($term, strlen($head) + 1),
            array_values($this->store->terms($space, $head.' ')),
        );
    }

    /** @return list<int> the bytes a word may have in streams */
    public function widths(): array
    {
        return Stream::widths($this->store->termCount(Keys::WORDS));
    }

    /**
     * Some parts of some documents.
     *
     * @param  list<string>  $parts
     * @param  list<int>  $documents
     * @param  list<string>  $holding  only where the record holds any of these bytes; none for all
     * @return array<int, list<Stream>> document => those of the parts that it has
     */
    public function streams(array $parts, array $documents, array $holding = []): array
    {
        $numbers = $this->store->termNumbers(Keys::PARTS, $parts);

        return $numbers === [] ? [] : self::partsIn($this->store->records($documents, $holding), $numbers);
    }

    /**
     * Those of some documents that have words in a row in one of some parts.
     *
     * @param  list<string>  $parts
     * @param  list<int>  $documents
     * @param  array<int, string>  $needles  the words as they stand in streams of each width
     * @return list<int>
     */
    public function inRow(array $parts, array $documents, array $needles): array
    {
        $numbers = array_flip($this->store->termNumbers(Keys::PARTS, $parts));
        $found = [];
        foreach (
            $numbers === [] || $needles === [] ? [] : $this->store->records($documents, array_values($needles)) as $document => $stored
        ) {
            if (ForwardRecord::holds($stored, $numbers, $needles)) {
                $found[] = $document;
            }
        }

        return $found;
    }

    /**
     * The same, with the records kept for what is asked next about the same documents.
     *
     * @param  list<string>  $parts
     * @param  list<int>  $documents
     * @return array<int, list<Stream>>
     */
    public function streamsAgain(array $parts, array $documents): array
    {
        return self::partsIn($this->recordsAgain($documents), $this->store->termNumbers(Keys::PARTS, $parts));
    }

    /**
     * @param  list<int>  $documents
     * @return array<int, string>
     */
    private function recordsAgain(array $documents): array
    {
        if ($this->latest[0] !== $documents) {
            $this->latest = [$documents, $this->store->records($documents)];
        }

        return $this->latest[1];
    }

    /**
     * @param  array<int, string>  $records
     * @param  array<string, int>  $numbers  of the parts
     * @return array<int, list<Stream>>
     */
    private static function partsIn(array $records, array $numbers): array
    {
        $numbers = array_flip($numbers);

        return array_map(static fn (string $stored): array => ForwardRecord::parts($stored, $numbers), $records);
    }

    /** What is kept of a field beside the index. */
    public function beside(string $field): ?ValuesBeside
    {
        return $this->beside[$field] ?? null;
    }

    /** Whether what a facet is counted from is in this process already. */
    public function isAtHand(string $field): bool
    {
        return isset($this->cache[Keys::column($field, 0, 0)]) || isset($this->slices["{$field}/0"]);
    }

    /**
     * What facets count, from the records of some documents: all fields in one pass, which costs less than fetching the
     * columns and slices of each when the documents are few.
     *
     * @return array{array<string, array<int, int>>, array<string, list<list<int>>>} field => value number => documents; field => the
     *                                                                               ordinals of each document that has any
     */
    public function counted(DocumentSet $set): array
    {
        foreach ($this->counted as [$of, $counted]) {
            if ($of === $set) {
                return $counted;
            }
        }
        $counts = $ordinals = [];
        foreach ($set->chunks(1_000) as $documents) {
            foreach ($this->store->records($documents) as $stored) {
                $record = ForwardRecord::decode($stored);
                foreach ($record->faceted as $field) {
                    foreach ($record->values[$field] as $value) {
                        $counts[$field][$value] = ($counts[$field][$value] ?? 0) + 1;
                    }
                }
                foreach ($record->ordinals as $field => $of) {
                    $ordinals[$field][] = $of;
                }
            }
        }
        $names = $this->terms[Keys::FIELDS] ??= $this->store->terms(Keys::FIELDS);
        $counted = [[], []];
        foreach ($counts as $field => $of) {
            $counted[0][$names[$field]] = $of;
        }
        foreach ($ordinals as $field => $of) {
            $counted[1][$names[$field]] = $of;
        }
        $this->counted = [...array_slice($this->counted, -self::FEW_WORDS), [$set, $counted]];

        return $counted;
    }

    /**
     * The values of one field of some documents.
     *
     * @param  list<int>  $documents
     * @return array<int, non-empty-list<int>> for those that have any
     */
    public function valuesOf(string $field, array $documents): array
    {
        $number = $this->store->termNumbers(Keys::FIELDS, [$field])[$field] ?? 0;
        $values = [];
        foreach ($this->store->records($documents) as $document => $stored) {
            $of = ForwardRecord::decode($stored)->values[$number] ?? [];
            if ($of !== []) {
                $values[$document] = $of;
            }
        }

        return $values;
    }

    /**
     * What some documents have in some fields: normal forms, and places on the field's line.
     *
     * @param  list<string>  $fields
     * @param  list<int>  $documents
     * @return array<int, array<string, array{list<string>, list<int>}>> document => field => values and ordinals
     */
    public function entriesOf(array $fields, array $documents): array
    {
        $numbers = $this->store->termNumbers(Keys::FIELDS, $fields);
        $records = $numbers === [] ? [] : array_map(ForwardRecord::decode(...), $this->store->records($documents));
        $entries = [];
        foreach ($numbers as $field => $number) {
            $held = array_map(static fn (ForwardRecord $record): array => $record->values[$number] ?? [], $records);
            $asked = array_values(array_unique(array_merge([], ...array_values($held))));
            $terms = $asked === [] ? [] : $this->store->termsNumbered(Keys::values((string) $field), $asked);
            foreach ($records as $document => $record) {
                $values = array_map(static fn (int $value): string => $terms[$value] ?? '', $held[$document]);
                $entries[$document][(string) $field] = [$values, $record->ordinals[$number] ?? []];
            }
        }

        return $entries;
    }

    /**
     * The values of some documents in all fields that are counted as facets, from records that may be at hand.
     *
     * @param  list<int>  $documents
     * @return array<int, array<string, list<int>>> document => field => numbers of its values
     */
    public function facetedOf(array $documents): array
    {
        $names = $this->terms[Keys::FIELDS] ??= $this->store->terms(Keys::FIELDS);
        $values = [];
        foreach ($this->recordsAgain($documents) as $document => $stored) {
            $record = ForwardRecord::decode($stored);
            $values[$document] = [];
            foreach ($record->faceted as $field) {
                $values[$document][$names[$field]] = $record->values[$field];
            }
        }

        return $values;
    }

    /** @return array<int, string> segment => blob */
    private function read(string $key): array
    {
        if (! isset($this->cache[$key])) {
            $this->remember($key, $this->store->blobs($key));
        }

        return $this->cache[$key];
    }

    /**
     * Reads many keys at once, for the calls of `read` that follow.
     *
     * @param  list<string>  $keys
     */
    private function fetch(array $keys): void
    {
        $missing = array_values(array_filter($keys, fn (string $key): bool => ! isset($this->cache[$key])));
        if (count($missing) > 1) {
            foreach ($this->store->many($missing) as $key => $blobs) {
                $this->remember($key, $blobs);
            }
        }
    }

    /** @param  array<int, string>  $blobs */
    private function remember(string $key, array $blobs): void
    {
        $this->cache[$key] = $blobs;
        $this->cached += 64 + array_sum(array_map(strlen(...), $blobs));
    }
}
