<?php

declare(strict_types=1);

namespace Brenvic\Core\Search\Asking;

/** How several words are looked for in one place. */
enum WordRelation: string
{
    case All = 'all_words';
    case Any = 'any_word';
    case Phrase = 'phrase';
    case Near = 'near';
    case SameSentence = 'same_sentence';
    case SameParagraph = 'same_paragraph';

    public function words(): string
    {
        return match ($this) {
            self::All => 'contains all of',
            self::Any => 'contains any of',
            self::Phrase => 'contains the phrase',
            self::Near => 'contains near each other',
            self::SameSentence => 'contains in one sentence',
            self::SameParagraph => 'contains in one paragraph',
        };
    }

    public function isNearness(): bool
    {
        return in_array($this, [self::Near, self::SameSentence, self::SameParagraph], true);
    }
}
