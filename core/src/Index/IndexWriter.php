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

    /** @var array<int, array<string, string>> segment => posting key => 16-bit offsets of documents that enter */
    private array $entering = [];

    /** @var array<int, array<string, string>> segment => posting key => their impacts, one hexadecimal digit each */
    private array $impacts = [];

    /** @var array<int, array<string, string>> segment => key of a bit string => 16-bit offsets of bits to set */
    private array $rising = [];

    /** @var array<int, array<string, array<int, int>>> segment => key of a posting or bit string => offsets that leave, as keys */
    private array $leaving = [];

    /** @var array<string, array<int, string>> column key => segment => bytes, as they will be */
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
                $cut[$i][$part] = array_map(
                    Part::tryFrom((string) $part)?->isProse() === true ? self::paragraphs(...) : self::oneSentence(...),
                    $texts,
                );
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
        $this->learnStems($documents);
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

    /**
     * Gives documents that are in the index other values in some fields, and leaves all else of them as it is: nothing of
     * their texts is read again.
     *
     * @param  list<string>  $fields  those that are replaced, whether a document has a value in them or not
     * @param  array<int, array{values: array<string, list<string>>, ordinals: array<string, list<int>>}>  $changes  by document
     * @param  list<string>  $faceted  those of the fields whose values stand in byte columns
     */
    public function putValues(array $fields, array $changes, array $faceted): void
    {
        $this->learn(Keys::FIELDS, $fields);
        $numbers = array_intersect_key($this->numbers[Keys::FIELDS], array_flip($fields));
        $terms = [];
        foreach ($changes as $change) {
            foreach ($change['values'] as $field => $values) {
                $terms[$field] = ($terms[$field] ?? []) + array_fill_keys($values, true);
            }
        }
        foreach ($terms as $field => $values) {
            $this->learn(Keys::values($field), array_map(strval(...), array_keys($values)));
        }
        $shown = array_values(array_intersect_key($numbers, array_flip($faceted)));
        foreach ($this->oldRecords(array_keys($changes)) as $document => $old) {
            $values = array_diff_key($old->values, array_flip($numbers));
            $ordinals = array_diff_key($old->ordinals, array_flip($numbers));
            foreach ($changes[$document]['values'] as $field => $of) {
                $known = $this->numbers[Keys::values($field)];
                $values[$numbers[$field]] = array_map(static fn (string $term): int => $known[$term], array_values(array_unique($of)));
            }
            foreach ($changes[$document]['ordinals'] as $field => $of) {
                sort($of);
                $ordinals[$numbers[$field]] = array_values(array_unique($of));
            }
            $isShown = array_values(
                array_filter(
                    array_unique([...array_diff($old->faceted, $numbers), ...$shown]),
                    static fn (int $field): bool => isset($values[$field]),
                ),
            );
            // Most are as they were: what differs is seen without writing either.
            if ($values != $old->values || $ordinals != $old->ordinals) {
                $this->replace($document, $old, new ForwardRecord($old->streams, $values, $ordinals, $isShown));
            }
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
        $this->forget();

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
        $blobs = $this->columns;
        $emptied = [];
        foreach (array_keys($this->entering + $this->rising + $this->leaving) as $segment) {
            $leaving = array_keys($this->leaving[$segment] ?? []);
            foreach (
                array_flip([...array_keys($this->entering[$segment] ?? []), ...array_filter($leaving, Keys::isPosting(...))]) as $key => $_
            ) {
                $blobs[$key][$segment] = $this->changedPosting($key, $segment);
                if ($blobs[$key][$segment] === null) {
                    $emptied[$key] = $key;
                }
            }
            foreach (
                array_flip([
                    ...array_keys($this->rising[$segment] ?? []),
                    ...array_filter($leaving, static fn (string $key): bool => ! Keys::isPosting($key)),
                ]) as $key => $_
            ) {
                $bits = $this->store->blob($key, $segment) ?? Bits::none();
                $bits = Bits::or(
                    Bits::minus($bits, Bits::of(array_keys($this->leaving[$segment][$key] ?? []))),
                    Bits::ofPacked($this->rising[$segment][$key] ?? ''),
                );
                $blobs[$key][$segment] = Bits::isEmpty($bits) ? null : $bits;
            }
        }
        if ($blobs !== [] || $this->records !== []) {
            $this->store->write($blobs, $this->records);
        }
        $this->forget();
        $emptied === [] || (new Sweep($this->store))->after(array_values($emptied));
    }

    private function forget(): void
    {
        $this->entering = $this->impacts = $this->rising = $this->leaving = $this->columns = $this->records = $this->numbers = [];
    }

    private function changedPosting(string $key, int $segment): ?string
    {
        $stored = $this->store->blob($key, $segment);
        $offsets = $this->entering[$segment][$key] ?? '';
        $impacts = $this->impacts[$segment][$key] ?? '';
        $leaving = $this->leaving[$segment][$key] ?? [];

        // Mostly documents come in ascending order, behind all that are there.
        return ($leaving === [] ? Posting::appended($stored, $offsets, $impacts) : null) ??
            Posting::changed($stored, $offsets === '' ? [] : Posting::read($offsets, $impacts), $leaving);
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
            $sounding = array_filter($new, static fn (string $word): bool => Sound::of($word) !== '');
            $this->store->addTerms(
                Keys::SOUNDS,
                array_map(static fn (string $word): string => Sound::of($word).' '.$word, array_values($sounding)),
            );
        }
    }

    /**
     * The words of texts in other languages than English are filed under their stems there, too, whether they are new or not.
     *
     * @param  list<IndexedDocument>  $documents
     */
    private function learnStems(array $documents): void
    {
        $stems = [];
        foreach ($documents as $document) {
            if (! isset(Snowball::ALGORITHMS[$document->language])) {
                continue;
            }
            foreach ($document->parts as $texts) {
                foreach ($texts as $text) {
                    foreach (Tokenizer::written($text) as $written => $word) {
                        foreach (Snowball::of($document->language, (string) $written) as $stem) {
                            $stems[$document->language]["{$stem} {$word}"] = true;
                        }
                    }
                }
            }
        }
        foreach ($stems as $language => $of) {
            $this->learn(Keys::stems($language), array_map(strval(...), array_keys($of)));
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
        $streams = [];
        foreach ($cut as $part => $texts) {
            $stream = $this->stream($texts);
            if ($stream !== null) {
                $streams[$this->numbers[Keys::PARTS][$part]] = $stream;
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

        return new ForwardRecord($streams, $values, $ordinals, $faceted);
    }

    /** @param  list<list<list<list<string>>>>  $texts  paragraphs => sentences => words */
    private function stream(array $texts): ?Stream
    {
        $numbers = $this->numbers[Keys::WORDS] ?? [];
        $all = $lengths = [];
        foreach ($texts as $paragraphs) {
            $before = count($all);
            foreach ($paragraphs as $sentences) {
                $lengths[] = array_map(count(...), $sentences);
                foreach ($sentences as $sentence) {
                    foreach ($sentence as $word) {
                        $all[] = $numbers[$word];
                    }
                }
            }
            if (count($all) > $before) {
                // What stands between two texts takes the place of a word.
                $all[] = 0;
                $lengths[count($lengths) - 1][] = 1;
            }
        }
        array_pop($all);
        if ($all === []) {
            return null;
        }
        array_pop($lengths[count($lengths) - 1]);
        $breaks = Breaks::encode(array_values($lengths));

        // One sentence goes without saying.
        return Stream::of($all, strlen($breaks) > 1 ? $breaks : '');
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
                $this->change(Keys::value($field, Keys::ANY), $segment, $offset, $isFilled);
            }
            foreach (array_diff($before, $after) as $value) {
                $this->change(Keys::value($field, $value), $segment, $offset, false);
            }
            foreach (array_diff($after, $before) as $value) {
                $this->change(Keys::value($field, $value), $segment, $offset, true);
            }
            $shownBefore = in_array($number, $old->faceted ?? [], true) ? $before : [];
            $shownAfter = in_array($number, $new->faceted ?? [], true) ? $after : [];
            if ($shownBefore !== $shownAfter) {
                $this->replaceShown($field, $segment, $offset, $shownBefore, $shownAfter);
            }
        }
        foreach (array_keys(($old->ordinals ?? []) + ($new->ordinals ?? [])) as $number) {
            $field = $this->name(Keys::FIELDS, $number);
            $this->replaceOrdinals($field, $segment, $offset, $old->ordinals[$number] ?? [], $new->ordinals[$number] ?? []);
        }
        if ($old === null || $new === null) {
            $this->setBit(Keys::ALL, $segment, $offset, $new !== null);
        }
        $this->records[$document] = $new?->encode();
    }

    private function replaceWords(int $segment, int $offset, ?ForwardRecord $old, ?ForwardRecord $new): void
    {
        foreach (array_keys(($old->streams ?? []) + ($new->streams ?? [])) as $number) {
            $was = $old->streams[$number] ?? null;
            $is = $new->streams[$number] ?? null;
            if ($was !== null && $is !== null && $was->words === $is->words) {
                continue;
            }
            $part = $this->name(Keys::PARTS, $number);
            $before = $was?->counts() ?? [];
            $after = $is?->counts() ?? [];
            if (($before === []) !== ($after === [])) {
                $this->change(Keys::word($part, Keys::ANY), $segment, $offset, $after !== []);
            }
            foreach (array_diff_key($before, $after) as $word => $_) {
                $this->leaving[$segment][Keys::word($part, $word)][$offset] = 0;
            }
            $this->replaceUsual(
                $part,
                $segment,
                $offset,
                self::impact(1, $part, array_sum($before)),
                self::impact(1, $part, array_sum($after)),
            );
            $packed = pack('v', $offset);
            $had = self::ownImpacts($before, $part);
            $own = self::ownImpacts($after, $part);
            foreach ($after as $word => $times) {
                if (! isset($before[$word]) || $had[$before[$word]] !== $own[$times]) {
                    $this->enter(Keys::word($part, $word), $segment, $packed, $own[$times]);
                }
            }
        }
    }

    /**
     * @param  array<int, int>  $words  word => how often it stands in a part of a document
     * @return array<int, string> how often => the impact as one hexadecimal digit, 0 when it is that of a word that stands there once
     */
    private static function ownImpacts(array $words, string $part): array
    {
        $length = array_sum($words);
        $once = self::impact(1, $part, $length);
        $own = [];
        foreach ($words as $times) {
            if (! isset($own[$times])) {
                $impact = self::impact($times, $part, $length);
                $own[$times] = $impact === $once ? '0' : dechex($impact);
            }
        }

        return $own;
    }

    private static function impact(int $times, string $part, int $length): int
    {
        return $length === 0 ? 0 : Impact::of($times, $part, $length);
    }

    /** The impact of a word that stands once in a part of a document, 0 when the part is empty. */
    private function replaceUsual(string $part, int $segment, int $offset, int $before, int $after): void
    {
        for ($digit = 0; $digit < Posting::DIGITS; $digit++) {
            $is = ($after >> $digit) & 1;
            if ((($before >> $digit) & 1) !== $is) {
                $this->setBit(Keys::usual($part, $digit), $segment, $offset, $is === 1);
            }
        }
    }

    /**
     * @param  list<int>  $before
     * @param  list<int>  $after
     */
    private function replaceOrdinals(string $field, int $segment, int $offset, array $before, array $after): void
    {
        for ($slot = 0; $slot < max(count($before), count($after)); $slot++) {
            $was = $before[$slot] ?? null;
            $is = $after[$slot] ?? null;
            $changed = ($was ?? 0) ^ ($is ?? 0);
            for ($digit = 0; $changed >> $digit !== 0; $digit++) {
                if ((($changed >> $digit) & 1) === 1) {
                    $this->setBit(Keys::slice($field, $slot, $digit), $segment, $offset, ((($is ?? 0) >> $digit) & 1) === 1);
                }
            }
            if (($was === null) !== ($is === null)) {
                $this->setBit(Keys::present($field, $slot), $segment, $offset, $is !== null);
            }
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

    /** Notes that a document enters a posting of values, or leaves it. */
    private function change(string $key, int $segment, int $offset, bool $enters): void
    {
        if ($enters) {
            $this->enter($key, $segment, pack('v', $offset), '0');
        } else {
            $this->leaving[$segment][$key][$offset] = 0;
        }
    }

    /** Strings and not arrays of numbers: they take a fraction of the memory. */
    private function enter(string $key, int $segment, string $packed, string $impact): void
    {
        if (isset($this->entering[$segment][$key])) {
            $this->entering[$segment][$key] .= $packed;
            $this->impacts[$segment][$key] .= $impact;
        } else {
            $this->entering[$segment][$key] = $packed;
            $this->impacts[$segment][$key] = $impact;
        }
    }

    private function setBit(string $key, int $segment, int $offset, bool $on): void
    {
        if (! $on) {
            $this->leaving[$segment][$key][$offset] = 0;
        } elseif (isset($this->rising[$segment][$key])) {
            $this->rising[$segment][$key] .= pack('v', $offset);
        } else {
            $this->rising[$segment][$key] = pack('v', $offset);
        }
    }

    /**
     * @param  list<int>  $before
     * @param  list<int>  $after
     */
    private function replaceShown(string $field, int $segment, int $offset, array $before, array $after): void
    {
        $was = self::columnBytes($field, $before);
        $is = self::columnBytes($field, $after);
        foreach ($is + array_fill_keys(array_keys($was), "\0") as $key => $byte) {
            $this->columns[$key][$segment] ??= $this->store->blob($key, $segment) ?? str_repeat("\0", Bits::SEGMENT_DOCUMENTS);
            $this->columns[$key][$segment][$offset] = $byte;
        }
    }

    /**
     * @param  list<int>  $values
     * @return array<string, string> column key => byte
     */
    private static function columnBytes(string $field, array $values): array
    {
        $bytes = $slots = [];
        $isWide = $values !== [] && max($values) > Keys::BLOCK;
        foreach ($values as $i => $value) {
            $block = intdiv($value - 1, Keys::BLOCK);
            $slots[$block] = ($slots[$block] ?? -1) + 1;
            $bytes[Keys::column($field, $block, $slots[$block])] = chr((($value - 1) % Keys::BLOCK) + 1);
            if ($isWide) {
                $bytes[Keys::blocks($field, $i)] = chr($block + 1);
            }
        }

        return $bytes;
    }
}
