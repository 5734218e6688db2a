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
    public const DIGITS = 62;

    /** @var array<string, array<int, array{array<int, int>, array<int, int>}>> posting key => segment => [set, drop] */
    private array $postings = [];

    /** @var array<string, array<int, array{array<int, int>, array<int, int>}>> bit string key => segment => [set, drop] */
    private array $bits = [];

    /** @var array<string, array<int, array<int, array{list<int>, list<int>}>>> field => segment => offset => values before and after */
    private array $columns = [];

    /** @var array<int, string|null> */
    private array $records = [];

    /** @var array<string, array<string, int>> space => term => number */
    private array $numbers = [];

    /** @var array<string, array<int, string>> space => number => term, of parts and fields */
    private array $names = [];

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
        $old = $this->oldRecords(array_map(static fn (IndexedDocument $document): int => $document->number, $documents));
        $cut = [];
        $words = $parts = $fields = [];
        foreach ($documents as $i => $document) {
            foreach ($document->parts as $part => $texts) {
                $parts[$part] = true;
                $cut[$i][$part] = array_map($part === Part::Text->value || $part === Part::Comments->value ? self::paragraphs(...) : self::oneSentence(...), $texts);
                foreach ($cut[$i][$part] as $text) {
                    foreach ($text as $sentences) {
                        foreach ($sentences as $sentence) {
                            $words[] = $sentence;
                        }
                    }
                }
            }
            $fields += $document->values + $document->ordinals;
        }
        $this->learnWords(array_merge(...$words));
        $this->learn(Keys::PARTS, array_map(strval(...), array_keys($parts)));
        $this->learn(Keys::FIELDS, array_map(strval(...), array_keys($fields)));
        foreach ($documents as $document) {
            foreach ($document->values as $field => $values) {
                $this->learn(Keys::values($field), $values);
            }
        }
        foreach ($documents as $i => $document) {
            $this->replace($document->number, $old[$document->number] ?? null, $this->record($document, $cut[$i] ?? []));
        }
    }

    /** Brings a document in by its record, where the index has none of it. */
    public function replay(int $document, ForwardRecord $record): void
    {
        $this->replace($document, null, $record);
    }

    /**
     * The records that documents should have, whatever the index holds of them. Terms it has not met are learnt; call
     * it in a transaction that is taken back.
     *
     * @param  list<IndexedDocument>  $documents
     * @return array<int, string> by document, encoded
     */
    public function records(array $documents): array
    {
        $this->put($documents);
        $records = array_map(strval(...), $this->records);
        $this->postings = $this->bits = $this->columns = $this->records = $this->numbers = [];

        return $records;
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
            $this->store->write($blobs, $this->records);
        }
        $this->postings = $this->bits = $this->columns = $this->records = $this->numbers = [];
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

    /**
     * Makes sure that terms have numbers.
     *
     * @param  list<string>  $terms
     * @return list<int|string> those that were new
     */
    private function learn(string $space, array $terms): array
    {
        $this->numbers[$space] ??= [];
        $asked = array_map(strval(...), array_keys(array_diff_key(array_flip($terms), $this->numbers[$space])));
        if ($asked === []) {
            return [];
        }
        $known = $this->store->termNumbers($space, $asked);
        $new = array_map(strval(...), array_keys(array_diff_key(array_flip($asked), $known)));
        $this->numbers[$space] += $known + ($new === [] ? [] : $this->store->addTerms($space, $new));

        return $new;
    }

    /**
     * Words that are new are filed under their stem and their sound too.
     *
     * @param  list<string>  $words
     */
    private function learnWords(array $words): void
    {
        $new = array_map(strval(...), $this->learn(Keys::WORDS, $words));
        if ($new !== []) {
            $this->store->addTerms(Keys::STEMS, array_map(static fn (string $word): string => Stemmer::stem($word).' '.$word, $new));
            $sounding = array_filter($new, static fn (string $word): bool => metaphone($word) !== '');
            $this->store->addTerms(Keys::SOUNDS, array_map(static fn (string $word): string => metaphone($word).' '.$word, array_values($sounding)));
        }
    }

    /** @return list<list<list<string>>> the words of each sentence of each paragraph */
    private static function paragraphs(string $text): array
    {
        $paragraphs = [];
        foreach (Sentences::of($text) as $sentences) {
            $paragraphs[] = array_map(Tokenizer::words(...), $sentences);
        }

        return $paragraphs;
    }

    /** @return list<list<list<string>>> */
    private static function oneSentence(string $text): array
    {
        return [[Tokenizer::words($text)]];
    }

    /** @param  array<string, list<list<list<list<string>>>>>  $cut part => texts => paragraphs => sentences => words */
    private function record(IndexedDocument $document, array $cut): ForwardRecord
    {
        $streams = $breaks = [];
        $numbers = $this->numbers[Keys::WORDS] ?? [];
        foreach ($cut as $part => $texts) {
            $coded = $all = [];
            foreach ($texts as $text) {
                $stream = '';
                $lengths = [];
                foreach ($text as $sentences) {
                    $lengths[] = array_map(count(...), $sentences);
                    foreach ($sentences as $sentence) {
                        foreach ($sentence as $word) {
                            $stream .= ForwardRecord::word($numbers[$word]);
                        }
                    }
                }
                if ($stream !== '') {
                    $coded[] = $stream;
                    // The gap between two texts takes the place of a word.
                    $lengths[count($lengths) - 1][] = 1;
                    $all = [...$all, ...$lengths];
                }
            }
            if ($coded !== []) {
                $number = $this->numbers[Keys::PARTS][$part];
                $streams[$number] = implode(ForwardRecord::GAP, $coded);
                array_pop($all[count($all) - 1]);
                $code = Breaks::encode($all);
                // One sentence goes without saying.
                if (strlen($code) > 1) {
                    $breaks[$number] = $code;
                }
            }
        }
        $values = $ordinals = $faceted = [];
        foreach ($document->values as $field => $terms) {
            $number = $this->numbers[Keys::FIELDS][$field];
            $values[$number] = [];
            foreach (array_unique($terms) as $term) {
                $values[$number][] = $this->numbers[Keys::values($field)][$term];
            }
            if (in_array($field, $document->faceted, true)) {
                $faceted[] = $number;
            }
        }
        foreach ($document->ordinals as $field => $list) {
            sort($list);
            $ordinals[$this->numbers[Keys::FIELDS][$field]] = array_values(array_unique($list));
        }

        return new ForwardRecord($streams, $breaks, $values, $ordinals, $faceted);
    }

    private function replace(int $document, ?ForwardRecord $old, ?ForwardRecord $new): void
    {
        $segment = $document >> 16;
        $offset = $document & 0xFFFF;
        $this->replaceWords($segment, $offset, $old, $new);
        foreach (array_keys(($old->values ?? []) + ($new->values ?? [])) as $number) {
            $field = $this->name(Keys::FIELDS, $number);
            $before = $old->values[$number] ?? [];
            $after = $new->values[$number] ?? [];
            $isFilled = isset($new->values[$number]);
            if (isset($old->values[$number]) !== $isFilled) {
                $this->change(Keys::value($field, Keys::ANY), $segment, $offset, $isFilled ? 0 : null);
            }
            foreach (array_diff($before, $after) as $value) {
                $this->change(Keys::value($field, $value), $segment, $offset, null);
            }
            foreach (array_diff($after, $before) as $value) {
                $this->change(Keys::value($field, $value), $segment, $offset, 0);
            }
            $shownBefore = in_array($number, $old->faceted ?? [], true) ? $before : [];
            $shownAfter = in_array($number, $new->faceted ?? [], true) ? $after : [];
            if ($shownBefore !== $shownAfter) {
                $this->columns[$field][$segment][$offset] = [$shownBefore, $shownAfter];
            }
        }
        foreach (array_keys(($old->ordinals ?? []) + ($new->ordinals ?? [])) as $number) {
            $field = $this->name(Keys::FIELDS, $number);
            $before = $old->ordinals[$number] ?? [];
            $after = $new->ordinals[$number] ?? [];
            for ($slot = 0; $slot < max(count($before), count($after)); $slot++) {
                $this->replaceOrdinal($field, $slot, $segment, $offset, $before[$slot] ?? null, $after[$slot] ?? null);
            }
        }
        if ($old === null || $new === null) {
            $this->setBit(Keys::ALL, $segment, $offset, $new !== null);
        }
        $this->records[$document] = $new?->encode();
    }

    private function replaceWords(int $segment, int $offset, ?ForwardRecord $old, ?ForwardRecord $new): void
    {
        foreach (array_keys(($old->words ?? []) + ($new->words ?? [])) as $number) {
            if (($old->words[$number] ?? '') === ($new->words[$number] ?? '')) {
                continue;
            }
            $part = $this->name(Keys::PARTS, $number);
            $before = $old?->counts($number) ?? [];
            $after = $new?->counts($number) ?? [];
            if (($before === []) !== ($after === [])) {
                $this->change(Keys::word($part, Keys::ANY), $segment, $offset, $after === [] ? null : 0);
            }
            $length = array_sum($after);
            $usual = Part::usualLength($part);
            foreach ($before as $word => $_) {
                if (! isset($after[$word])) {
                    $this->change(Keys::word($part, $word), $segment, $offset, null);
                }
            }
            foreach ($after as $word => $times) {
                $this->change(Keys::word($part, $word), $segment, $offset, Impact::of($times, $length, $usual));
            }
        }
    }

    private function replaceOrdinal(string $field, int $slot, int $segment, int $offset, ?int $before, ?int $after): void
    {
        if ($before === $after) {
            return;
        }
        for ($digit = 0; $digit < self::DIGITS; $digit++) {
            $was = ($before ?? 0) >> $digit & 1;
            $is = ($after ?? 0) >> $digit & 1;
            if ($was !== $is) {
                $this->setBit(Keys::slice($field, $slot, $digit), $segment, $offset, $is === 1);
            }
        }
        if (($before === null) !== ($after === null)) {
            $this->setBit(Keys::present($field, $slot), $segment, $offset, $after !== null);
        }
    }

    /** The name of a part or field that a record holds as a number. */
    private function name(string $space, int $number): string
    {
        if (! isset($this->names[$space][$number])) {
            $this->names[$space] = $this->store->terms($space);
        }

        return $this->names[$space][$number];
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
