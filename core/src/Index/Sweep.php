<?php

declare(strict_types=1);

namespace Brenvic\Core\Index;

/**
 * Forgets what no document says any more: words and values whose last posting is gone leave the dictionary, with the stems and
 * sounds that they were filed under. So nothing is suggested, and nothing left behind, of a text that was changed or destroyed.
 */
final readonly class Sweep
{
    /** Keys that are looked up together. */
    private const CHUNK = 2_000;

    public function __construct(private IndexStore $store)
    {
    }

    /** @param  list<string>  $emptied  keys of postings that have become empty in some segment */
    public function after(array $emptied): void
    {
        $words = $values = [];
        foreach ($emptied as $key) {
            [$kind, $name, $number] = [$key[0], substr($key, 2, (int) strrpos($key, '/') - 2), (int) substr((string) strrchr($key, '/'), 1)];
            if ($number !== Keys::ANY) {
                $kind === 'w' ? ($words[$number] = true) : ($values[$name][$number] = true);
            }
        }
        $words === [] || $this->forgetWords(array_keys($words));
        foreach ($values as $field => $numbers) {
            $field = (string) $field;
            $unused = $this->unused(array_keys($numbers), static fn (int $value): array => [Keys::value($field, $value)]);
            $unused === [] ||
                $this->store->forgetTerms(Keys::values($field), array_values($this->store->termsNumbered(Keys::values($field), $unused)));
        }
    }

    /** @param  list<int>  $numbers */
    private function forgetWords(array $numbers): void
    {
        $parts = $this->store->terms(Keys::PARTS);
        // Most words stand in other texts too; only the others are looked for in all parts.
        foreach ([[Part::Text->value], array_values(array_diff($parts, [Part::Text->value]))] as $of) {
            $keys = static fn (int $word): array => array_map(static fn (string $part): string => Keys::word($part, $word), $of);
            $numbers = $this->unused($numbers, $keys);
        }
        $words = $numbers === [] ? [] : array_values($this->store->termsNumbered(Keys::WORDS, $numbers));
        if ($words === []) {
            return;
        }
        $this->store->forgetTerms(Keys::WORDS, $words);
        $this->store->forgetTerms(Keys::STEMS, array_map(static fn (string $word): string => Stemmer::stem($word).' '.$word, $words));
        $this->store->forgetTerms(Keys::SOUNDS, array_map(static fn (string $word): string => Sound::of($word).' '.$word, $words));
        foreach (array_keys(Snowball::ALGORITHMS) as $language) {
            $filed = $this->filed(Keys::stems($language), $words);
            $filed === [] || $this->store->forgetTerms(Keys::stems($language), $filed);
        }
    }

    /**
     * In other languages a word is filed under the stem of how it was written, which nobody knows any more. Stems are cut at their
     * end, so they are looked for by how the word begins.
     *
     * @param  list<string>  $words
     * @return list<string>
     */
    private function filed(string $space, array $words): array
    {
        $filed = [];
        foreach ($this->store->termCount($space) === 0 ? [] : $words as $word) {
            foreach ($this->store->terms($space, mb_substr($word, 0, 2)) as $term) {
                if (str_ends_with($term, " {$word}")) {
                    $filed[] = $term;
                }
            }
        }

        return $filed;
    }

    /**
     * @param  list<int>  $numbers
     * @param  callable(int): list<string>  $keys  under which something of a number would stand
     * @return list<int> those of which nothing does
     */
    private function unused(array $numbers, callable $keys): array
    {
        $unused = [];
        foreach (array_chunk($numbers, self::CHUNK) as $chunk) {
            $of = array_combine($chunk, array_map($keys, $chunk));
            $blobs = [];
            foreach (array_chunk(array_merge([], ...array_values($of)), self::CHUNK) as $some) {
                $blobs += array_filter($this->store->many($some));
            }
            foreach ($of as $number => $asked) {
                if (array_intersect_key(array_flip($asked), $blobs) === []) {
                    $unused[] = $number;
                }
            }
        }

        return $unused;
    }
}
