<?php

declare(strict_types=1);

namespace Brenvic\Core\Index;

/** How a word sounds in English: Metaphone (Lawrence Philips, “Hanging on the Metaphone”, Computer Language, 1990), as PHP has it. */
final class Sound
{
    /** @return string in small letters; empty for a word without any that it knows */
    public static function of(string $word): string
    {
        return strtolower(metaphone($word));
    }
}
