<?php

declare(strict_types=1);

namespace Brenvic\Core\Index;

/**
 * Brings documents into the index, changes them and takes them out. Changes gather in memory and are written together
 * by `flush`, each blob once, so that a batch of a thousand documents costs little more than one.
 */
final class IndexWriter
{
    /** Highest binary digit of an ordinal. */
    private const DIGITS = 62;

    /** @var array<string, array<int, array{array<int, int>, array<int, int>}>> posting key => segment => [set, drop] */
    private array $postings = [];

    /** @var array<string, array<int, array{array<int, int>, array<int, int>}>> bit string key => segment => [set, drop] */
    private array $bits = [];

    /** @var array<string, array<int, array<int, array{list<int>, list<int>}>>> field => segment => offset => values before and after */
    private array $columns = [];

    /** @var array<int, string|null> */
    private array $records = [];

    /** @var array<string, array{int, int}> */
    private array $lengths = [];

    /** @var array<string, array<string, int>> space => term => number */
    private array $numbers = [];

    /** @var array<string, array{int, int}>|null */
    private ?array $totals = null;

    public function __construct(private readonly IndexStore $store)
    {
    }

    /** How many documents wait for `flush`. */
    public function pending(): int
    {
        return count($this->records);
    }

    /** @param  list<IndexedDocument>  $documents no number twice */
    public function put(array $documents): void
    {
        $numbers = array_map(static fn (IndexedDocument $document): int => $document->number, $documents);
        $old = $this->oldRecords($numbers);
        $words = [];
        foreach ($documents as $i => $document) {
            foreach ($document->parts as $part => $texts) {
                $words[$i][$part] = array_map(Tokenizer::words(...), $texts);
            }
        }
        $this->learn(Keys::WORDS, array_merge([], ...array_merge([], ...array_merge([], ...array_map(array_values(...), array_values($words))))));
        foreach ($documents as $document) {
            foreach ($document->values as $field => $values) {
                $this->learn(Keys::values($field), $values);
            }
        }
        foreach ($documents as $i => $document) {
            $this->replace($document->number, $old[$document->number] ?? null, $this->record($document, $words[$i] ?? []));
        }
    }

    public function remove(int $document): void
    {
        $old = $this->oldRecords([$document])[$document] ?? null;
        if ($old !== null) {
            $this->replace($document, $old, null);
        }
    }

    /** Writes what has gathered. */
    public function flush(): void
    {
        $blobs = [];
        foreach ($this->postings as $key => $segments) {
            $stored = $this->store->blobs($key);
            foreach ($segments as $segment => [$set, $drop]) {
                $blobs[$key][$segment] = Posting::changed($stored[$segment] ?? null, $set, $drop);
            }
        }
        foreach ($this->bits as $key => $segments) {
            foreach ($segments as $segment => [$set, $drop]) {
                $bits = $this->store->blob($key, $segment) ?? Bits::none();
                $bits = ($bits & ~Bits::of(array_keys($drop))) | Bits::of(array_keys($set));
                $blobs[$key][$segment] = Bits::isEmpty($bits) ? null : $bits;
            }
        }
        $this->writeColumns($blobs);
        if ($blobs !== [] || $this->records !== []) {
            $this->store->write($blobs, $this->records, $this->lengths);
        }
        $this->postings = $this->bits = $this->columns = $this->records = $this->lengths = $this->numbers = [];
        $this->totals = null;
    }

    /**
     * @param  list<int>  $numbers
     * @return array<int, ForwardRecord>
     */
    private function oldRecords(array $numbers): array
    {
        if (array_intersect_key(array_flip($numbers), $this->records) !== []) {
            $this->flush();
        }

        return array_map(ForwardRecord::decode(...), $this->store->records($numbers));
    }

    /** @param  list<string>  $terms */
    private function learn(string $space, array $terms): void
    {
        $this->numbers[$space] ??= [];
        $asked = array_map(strval(...), array_keys(array_diff_key(array_flip($terms), $this->numbers[$space])));
        if ($asked === []) {
            return;
        }
        $known = $this->store->termNumbers($space, $asked);
        $new = array_map(strval(...), array_keys(array_diff_key(array_flip($asked), $known)));
        $this->numbers[$space] += $known + ($new === [] ? [] : $this->store->addTerms($space, $new));
    }

    /** @param  array<string, list<list<string>>>  $words part => texts => words */
    private function record(IndexedDocument $document, array $words): ForwardRecord
    {
        $streams = [];
        foreach ($words as $part => $texts) {
            $coded = [];
            foreach ($texts as $text) {
                $stream = '';
                foreach ($text as $word) {
                    $stream .= ForwardRecord::word($this->numbers[Keys::WORDS][$word]);
                }
                if ($stream !== '') {
                    $coded[] = $stream;
                }
            }
            if ($coded !== []) {
                $streams[$part] = implode(ForwardRecord::GAP, $coded);
            }
        }
        $values = [];
        foreach ($document->values as $field => $terms) {
            foreach (array_unique($terms) as $term) {
                $values[$field][] = $this->numbers[Keys::values($field)][$term];
            }
        }

        return new ForwardRecord($streams, $values, $document->numbers, $document->faceted);
    }

    private function replace(int $document, ?ForwardRecord $old, ?ForwardRecord $new): void
    {
        $segment = $document >> 16;
        $offset = $document & 0xFFFF;
        $this->replaceWords($segment, $offset, $old, $new);
        foreach (array_keys(($old->values ?? []) + ($new->values ?? [])) as $field) {
            $before = $old->values[$field] ?? [];
            $after = $new->values[$field] ?? [];
            foreach (array_diff($before, $after) as $value) {
                $this->change(Keys::value($field, $value), $segment, $offset, null);
            }
            foreach (array_diff($after, $before) as $value) {
                $this->change(Keys::value($field, $value), $segment, $offset, 0);
            }
            $shownBefore = in_array($field, $old->faceted ?? [], true) ? $before : [];
            $shownAfter = in_array($field, $new->faceted ?? [], true) ? $after : [];
            if ($shownBefore !== $shownAfter) {
                $this->columns[$field][$segment][$offset] = [$shownBefore, $shownAfter];
            }
        }
        foreach (array_keys(($old->numbers ?? []) + ($new->numbers ?? [])) as $field) {
            $this->replaceNumber($field, $segment, $offset, $old->numbers[$field] ?? null, $new->numbers[$field] ?? null);
        }
        if ($old === null || $new === null) {
            $this->setBit(Keys::ALL, $segment, $offset, $new !== null);
        }
        $this->records[$document] = $new?->encode();
    }

    private function replaceWords(int $segment, int $offset, ?ForwardRecord $old, ?ForwardRecord $new): void
    {
        foreach (array_keys(($old->words ?? []) + ($new->words ?? [])) as $part) {
            if (($old->words[$part] ?? '') === ($new->words[$part] ?? '')) {
                continue;
            }
            $before = $old?->counts($part) ?? [];
            $after = $new?->counts($part) ?? [];
            $this->addLength($part, ($after === [] ? 0 : 1) - ($before === [] ? 0 : 1), array_sum($after) - array_sum($before));
            $length = array_sum($after);
            $average = $this->averageLength($part);
            foreach ($before as $word => $_) {
                if (! isset($after[$word])) {
                    $this->change(Keys::word($part, $word), $segment, $offset, null);
                }
            }
            foreach ($after as $word => $times) {
                $this->change(Keys::word($part, $word), $segment, $offset, Impact::of($times, $length, $average));
            }
        }
    }

    private function replaceNumber(string $field, int $segment, int $offset, ?int $before, ?int $after): void
    {
        if ($before === $after) {
            return;
        }
        for ($digit = 0; $digit < self::DIGITS; $digit++) {
            $was = ($before ?? 0) >> $digit & 1;
            $is = ($after ?? 0) >> $digit & 1;
            if ($was !== $is) {
                $this->setBit(Keys::slice($field, $digit), $segment, $offset, $is === 1);
            }
        }
        if (($before === null) !== ($after === null)) {
            $this->setBit(Keys::present($field), $segment, $offset, $after !== null);
        }
    }

    /** Notes that a document enters a posting with an impact, or leaves it (null). */
    private function change(string $key, int $segment, int $offset, ?int $impact): void
    {
        $this->postings[$key][$segment] ??= [[], []];
        if ($impact === null) {
            $this->postings[$key][$segment][1][$offset] = 0;
        } else {
            $this->postings[$key][$segment][0][$offset] = $impact;
        }
    }

    private function setBit(string $key, int $segment, int $offset, bool $on): void
    {
        $this->bits[$key][$segment] ??= [[], []];
        $this->bits[$key][$segment][$on ? 0 : 1][$offset] = 1;
    }

    private function addLength(string $part, int $documents, int $words): void
    {
        [$d, $w] = $this->lengths[$part] ?? [0, 0];
        $this->lengths[$part] = [$d + $documents, $w + $words];
    }

    private function averageLength(string $part): float
    {
        $this->totals ??= $this->store->lengths();
        [$documents, $words] = $this->totals[$part] ?? [0, 0];
        [$moreDocuments, $moreWords] = $this->lengths[$part];

        return ($words + $moreWords) / max(1, $documents + $moreDocuments);
    }

    /** @param  array<string, array<int, string|null>>  $blobs */
    private function writeColumns(array &$blobs): void
    {
        foreach ($this->columns as $field => $segments) {
            foreach ($segments as $segment => $changes) {
                $columns = $this->changedColumns($field, $segment, $changes);
                foreach ($columns as $block => $slots) {
                    foreach ($slots as $slot => $column) {
                        $blobs[Keys::column($field, $block, $slot)][$segment] = $column;
                    }
                }
            }
        }
    }

    /**
     * @param  array<int, array{list<int>, list<int>}>  $changes  offset => values before and after
     * @return array<int, array<int, string>> block => slot => column
     */
    private function changedColumns(string $field, int $segment, array $changes): array
    {
        $columns = [];
        foreach ($changes as $offset => [$before, $after]) {
            $byBlock = [];
            foreach ([...$before, ...$after] as $value) {
                $byBlock[intdiv($value - 1, Keys::BLOCK)] ??= [];
            }
            foreach ($after as $value) {
                $byBlock[intdiv($value - 1, Keys::BLOCK)][] = chr(($value - 1) % Keys::BLOCK + 1);
            }
            foreach ($byBlock as $block => $bytes) {
                $columns[$block] ??= $this->storedColumns($field, $segment, $block);
                for ($slot = 0; $slot < max(count($bytes), count($columns[$block])); $slot++) {
                    $columns[$block][$slot] ??= str_repeat("\0", Bits::SEGMENT_DOCUMENTS);
                    $columns[$block][$slot][$offset] = $bytes[$slot] ?? "\0";
                }
            }
        }

        return $columns;
    }

    /** @return array<int, string> slot => column */
    private function storedColumns(string $field, int $segment, int $block): array
    {
        $slots = [];
        while (($column = $this->store->blob(Keys::column($field, $block, count($slots)), $segment)) !== null) {
            $slots[] = $column;
        }

        return $slots;
    }
}
