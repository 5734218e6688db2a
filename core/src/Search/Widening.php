<?php

declare(strict_types=1);

namespace Brenvic\Core\Search;

use Brenvic\Core\Index\Stemmer;
use Brenvic\Core\Query\Modifier;
use Closure;

/**
 * How far a search word reaches beyond itself: to words with the same stem, words that sound alike (metaphone), words
 * up to so many slips of the pen away. Words named by `/without="…"` are left out.
 */
final readonly class Widening
{
    private const MOST_SLIPS = 3;

    /** @param  list<string>  $without */
    private function __construct(
        public bool $stem,
        public bool $sound,
        public int $slips,
        public array $without,
    ) {
    }

    /**
     * @param  list<Modifier>  $modifiers
     *
     * @throws SearchError
     */
    public static function ofModifiers(array $modifiers): self
    {
        [$stem, $sound, $slips, $without] = [false, false, 0, []];
        foreach ($modifiers as $modifier) {
            $value = $modifier->value ?? '';
            switch ($modifier->name) {
                case 'stem':
                    $stem = true;
                    break;
                case 'phonetic':
                    $sound = true;
                    break;
                case 'fuzzy':
                    if ($value !== '' && (! ctype_digit($value) || (int) $value < 1 || (int) $value > self::MOST_SLIPS)) {
                        throw new SearchError("fuzzy takes a level from 1 to 3, not “{$value}”.");
                    }
                    $slips = $value === '' ? 1 : (int) $value;
                    break;
                case 'without':
                    $without = preg_split('/\s+/', mb_strtolower($value), -1, PREG_SPLIT_NO_EMPTY) ?: [];
                    break;
            }
        }

        return new self($stem, $sound, $slips, $without);
    }

    public function reaches(): bool
    {
        return $this->stem || $this->sound || $this->slips > 0;
    }

    /**
     * The words that `$word` reaches, itself too.
     *
     * @param  array<int, string>  $dictionary  number => word
     * @return array<int, string>
     */
    public function variants(string $word, array $dictionary): array
    {
        return array_filter($dictionary, $this->test($word));
    }

    /** Whether `$word` reaches `$other` and it is not left out. */
    public function accepts(string $word, string $other): bool
    {
        return ! in_array($other, $this->without, true) && $this->test($word)($other);
    }

    /** @return Closure(string): bool */
    private function test(string $word): Closure
    {
        $stem = $this->stem ? Stemmer::stem($word) : '';
        $sound = $this->sound ? metaphone($word) : '';
        // A third of a short word changed would be another word.
        $slips = min($this->slips, intdiv(strlen($word), 3));

        return static fn (string $other): bool => $other === $word
            || ($stem !== '' && $other[0] === $word[0] && Stemmer::stem($other) === $stem)
            || ($sound !== '' && metaphone($other) === $sound)
            || ($slips > 0 && abs(strlen($other) - strlen($word)) <= $slips && levenshtein($word, $other) <= $slips);
    }

    /** The level at which a word that is not indexed is guessed: one slip for short words, two for longer. */
    public static function guess(string $word): self
    {
        return new self(true, false, strlen($word) > 5 ? 2 : 1, []);
    }
}
