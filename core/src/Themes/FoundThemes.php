<?php

declare(strict_types=1);

namespace Brenvic\Core\Themes;

/** What a result is about. */
final readonly class FoundThemes
{
    /** Where the words of themes are looked for. */
    public const WORDS = 'text';

    /**
     * @param  int  $documents  of the result
     * @param  int  $withoutText  documents of the result that have no text, which themes are not made of
     * @param  list<Theme>  $themes  those with most documents first
     * @param  int  $others  documents with a text that are in no theme
     * @param  list<StandingWord>  $words  those that are surest to be more frequent here first
     * @param  int  $lookedAt  documents that the names were chosen by; the counts are of all
     */
    public function __construct(
        public int $documents,
        public int $withoutText,
        public array $themes,
        public int $others,
        public array $words,
        public int $lookedAt,
    ) {
    }
}
