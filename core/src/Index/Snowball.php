<?php

declare(strict_types=1);

namespace Brenvic\Core\Index;

use FFI;
use FFI\CData;
use FFI\Exception as FfiFault;
use LogicException;

/**
 * Stems by the Snowball algorithms (M. F. Porter, snowballstem.org), as the C library libstemmer has them: no PHP package in reach
 * does. English is not among them; its stems are `Stemmer`’s.
 */
final class Snowball
{
    /** Languages by their code (ISO 639-1), with the names of their algorithms. */
    public const ALGORITHMS = [
        'de' => 'german',
        'es' => 'spanish',
        'fr' => 'french',
        'it' => 'italian',
        'nl' => 'dutch',
        'pt' => 'portuguese',
        'sv' => 'swedish',
    ];

    private const LIBRARY = 'libstemmer.so.0d';

    private const DECLARATIONS = '
        struct sb_stemmer;
        struct sb_stemmer *sb_stemmer_new(const char *algorithm, const char *encoding);
        const unsigned char *sb_stemmer_stem(struct sb_stemmer *stemmer, const char *word, int size);
        int sb_stemmer_length(struct sb_stemmer *stemmer);
    ';

    private static FFI|false|null $library = null;

    /** @var array<string, CData> */
    private static array $stemmers = [];

    /** Whether the library is there; without it words have no stems but English ones. */
    public static function isThere(): bool
    {
        return self::library() !== null;
    }

    /**
     * The stem of a word by the rules of each language that a search reaches.
     *
     * @param  string  $word  as it is written, or folded
     * @return array<string, string> code of a language => stem, folded
     */
    public static function all(string $word): array
    {
        $stems = [];
        foreach (self::isThere() && self::hasStems($word) ? array_keys(self::ALGORITHMS) : [] as $language) {
            $stems[$language] = self::stem($language, $word);
        }

        return $stems;
    }

    /**
     * The stems under which a word of a text is filed: that of the word as it is written, and that of the word without its accents,
     * since many leave them out when they search.
     *
     * @param  string  $word  as it is written
     * @return list<string> folded
     */
    public static function of(string $language, string $word): array
    {
        if (! isset(self::ALGORITHMS[$language]) || ! self::isThere() || ! self::hasStems($word)) {
            return [];
        }

        return array_values(array_unique([self::stem($language, $word), self::stem($language, Tokenizer::fold($word))]));
    }

    /** Whether it is written with letters alone. */
    private static function hasStems(string $word): bool
    {
        return preg_match('/^[\p{L}\p{M}]{3,}$/u', $word) === 1;
    }

    private static function stem(string $language, string $word): string
    {
        $stemmer = self::$stemmers[$language] ??= self::pointer(self::called('sb_stemmer_new', self::ALGORITHMS[$language], 'UTF_8'));
        $word = mb_strtolower($word);
        $stem = self::pointer(self::called('sb_stemmer_stem', $stemmer, $word, strlen($word)));
        $length = self::called('sb_stemmer_length', $stemmer);

        return Tokenizer::fold(FFI::string($stem, is_int($length) ? max(0, $length) : 0));
    }

    private static function called(string $function, mixed ...$arguments): mixed
    {
        $library = self::library() ?? throw new LogicException('There is no libstemmer.');

        return $library->{$function}(...$arguments);
    }

    private static function pointer(mixed $given): CData
    {
        return $given instanceof CData ? $given : throw new LogicException('libstemmer has no room for a word.');
    }

    private static function library(): ?FFI
    {
        if (self::$library === null) {
            try {
                self::$library = extension_loaded('ffi') ? FFI::cdef(self::DECLARATIONS, self::LIBRARY) : false;
            } catch (FfiFault) {
                self::$library = false;
            }
        }

        return self::$library === false ? null : self::$library;
    }
}
