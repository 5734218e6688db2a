<?php

declare(strict_types=1);

namespace Brenvic\Core\Index;

/**
 * Forgets what nothing but destroyed documents said: words and values that no document has any more leave the dictionary,
 * with the stems and sounds they were filed under. `of` is asked before the documents go, `forget` afterwards.
 */
final readonly class Sweep
{
    /** Keys that are looked up together. */
    private const CHUNK = 2_000;

    /**
     * @param  list<int>  $words  numbers
     * @param  array<string, list<int>>  $values  numbers by field
     */
    private function __construct(private array $words, private array $values)
    {
    }

    /** @param  list<int>  $documents  whose words and values they may be */
    public static function of(IndexStore $store, array $documents): self
    {
        $names = $store->terms(Keys::FIELDS);
        $words = $values = [];
        foreach (array_map(ForwardRecord::decode(...), $store->records($documents)) as $record) {
            foreach ($record->streams as $stream) {
                $words += $stream->counts();
            }
            foreach ($record->values as $field => $numbers) {
                $name = $names[$field] ?? '';
                $values[$name] = ($values[$name] ?? []) + array_fill_keys($numbers, true);
            }
        }

        return new self(
            array_values(array_filter(array_keys($words))),
            array_map(static fn (array $of): array => array_keys($of), $values),
        );
    }

    public function forget(IndexStore $store): void
    {
        $parts = $store->terms(Keys::PARTS);
        $left = $this->words;
        // Most words stand in other texts too; only the others are looked for in all parts.
        foreach ([[Part::Text->value], array_values(array_diff($parts, [Part::Text->value]))] as $of) {
            $left = self::unused($store, $left, static fn (int $word): array => array_map(
                static fn (string $part): string => Keys::word($part, $word),
                $of,
            ));
        }
        $words = array_values($store->termsNumbered(Keys::WORDS, $left));
        if ($words !== []) {
            $store->forgetTerms(Keys::WORDS, $words);
            $store->forgetTerms(Keys::STEMS, array_map(static fn (string $word): string => Stemmer::stem($word).' '.$word, $words));
            $store->forgetTerms(Keys::SOUNDS, array_map(static fn (string $word): string => Sound::of($word).' '.$word, $words));
            foreach (array_keys(Snowball::ALGORITHMS) as $language) {
                $store->forgetTerms(Keys::stems($language), self::ending($store, Keys::stems($language), $words));
            }
        }
        foreach ($this->values as $field => $numbers) {
            $unused = self::unused($store, $numbers, static fn (int $value): array => [Keys::value((string) $field, $value)]);
            $unused === [] || $store->forgetTerms(
                Keys::values((string) $field),
                array_values($store->termsNumbered(Keys::values((string) $field), $unused)),
            );
        }
    }

    /**
     * @param  list<int>  $numbers
     * @param  callable(int): list<string>  $keys  under which something of a number would stand
     * @return list<int> those of which nothing does
     */
    private static function unused(IndexStore $store, array $numbers, callable $keys): array
    {
        $unused = [];
        foreach (array_chunk($numbers, self::CHUNK) as $chunk) {
            $of = array_combine($chunk, array_map($keys, $chunk));
            $all = array_values(array_unique(array_merge([], ...array_values($of))));
            $blobs = [];
            foreach (array_chunk($all, self::CHUNK) as $some) {
                $blobs += array_filter($store->many($some));
            }
            foreach ($of as $number => $asked) {
                if (array_intersect_key(array_flip($asked), $blobs) === []) {
                    $unused[] = $number;
                }
            }
        }

        return $unused;
    }

    /**
     * In other languages a word is filed under stems of how it is written, which nobody knows any more: they are found by
     * the word at their end.
     *
     * @param  list<string>  $words
     * @return list<string>
     */
    private static function ending(IndexStore $store, string $space, array $words): array
    {
        $isOf = array_fill_keys($words, true);

        return array_values(
            array_filter($store->terms($space), static fn (string $term): bool => isset($isOf[substr((string) strrchr($term, ' '), 1)])),
        );
    }
}
