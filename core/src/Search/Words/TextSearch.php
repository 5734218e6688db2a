<?php

declare(strict_types=1);

namespace Brenvic\Core\Search\Words;

use Brenvic\Core\Index\DocumentSet;
use Brenvic\Core\Index\IndexReader;
use Brenvic\Core\Query\Modifier;
use Brenvic\Core\Search\Asking\ClauseModifiers;
use Brenvic\Core\Search\Asking\Expansion;
use Brenvic\Core\Search\Asking\SearchError;
use Brenvic\Core\Search\Asking\SearchFault;
use Brenvic\Core\Search\Asking\WordPattern;

/** Finds words, phrases and nearness in parts of documents, and notes what they were widened to and how they rank. */
final class TextSearch
{
    private const MOST_SUGGESTIONS = 5;

    /** Records read at once when words in a row are checked. */
    private const READ_AT_ONCE = 4_000;

    /** So many variants of a word are named, the most frequent ones. */
    private const MOST_NAMED = 200;

    /** @var list<RankedTerm> the words met so far that were wanted */
    private array $ranked = [];

    /** @var list<RankedNearness> */
    private array $nearness = [];

    /** @var list<Variants> what the words met so far were widened to, or may have meant */
    private array $variants = [];

    private bool $wanted = true;

    public function __construct(private readonly IndexReader $reader, private readonly DocumentSet $visible)
    {
    }

    /** The words met since this was last asked. */
    public function met(): WordsMet
    {
        $met = new WordsMet($this->ranked, $this->nearness, $this->variants);
        $this->ranked = $this->nearness = $this->variants = [];

        return $met;
    }

    /**
     * Finds what must not be there: its words neither rank nor are others suggested for them.
     *
     * @param  callable(): DocumentSet  $find
     */
    public function unwanted(callable $find): DocumentSet
    {
        $wanted = $this->wanted;
        $this->wanted = false;
        try {
            return $find();
        } finally {
            $this->wanted = $wanted;
        }
    }

    /**
     * @param  list<string>  $parts
     *
     * @throws SearchError
     */
    public function find(array $parts, string $relation, string $term, ClauseModifiers $modifiers): DocumentSet
    {
        $whole = $modifiers->whole ?? in_array($relation, ['==', 'exact'], true);
        $patterns = WordPattern::ofTerm($term, $modifiers->masked, $whole || self::endsText($term));
        if ($patterns === []) {
            return DocumentSet::none();
        }
        $vague = array_values(array_filter($patterns, static fn (WordPattern $pattern): bool => $pattern->saysTooLittle()));
        // Among words in a row the others say enough.
        if ($vague !== [] && (count($vague) === count($patterns) || in_array($relation, ['any', 'all'], true))) {
            throw new SearchError(
                "“{$vague[0]->text}” fits nearly every word. Write at least two letters of it.",
                fault: SearchFault::Masking,
            );
        }
        $widening = $modifiers->widening;

        return match ($relation) {
            '=', '==', 'exact', 'adj', 'scr' => $this->sequence($parts, $patterns, $widening, $term, $whole),
            'all' => $this->allOf($parts, $patterns, $widening),
            'any' => DocumentSet::union(
                array_map(fn (WordPattern $pattern): DocumentSet => $this->words($parts, $pattern, $widening), $patterns),
            ),
            default => throw new SearchError(
                "“{$relation}” compares values, and words have no order. Use =, any, all or adj.",
                fault: SearchFault::RelationForIndex,
            ),
        };
    }

    /**
     * Two words or phrases near each other.
     *
     * @param  list<string>  $parts
     * @param  array{string, ClauseModifiers}  $left  term and its modifiers
     * @param  array{string, ClauseModifiers}  $right
     * @param  list<Modifier>  $modifiers  of `prox`
     *
     * @throws SearchError
     */
    public function near(array $parts, array $left, array $right, array $modifiers): DocumentSet
    {
        [$lefts, $rights] = array_map(
            fn (array $side): array => array_map(
                fn (WordPattern $pattern): array => $this->numbers($parts, $pattern, $side[1]->widening),
                WordPattern::ofTerm($side[0], $side[1]->masked),
            ),
            [$left, $right],
        );
        $test = Nearness::ofModifiers(
            $modifiers,
            new WordSequence(array_map(array_keys(...), $lefts)),
            new WordSequence(array_map(array_keys(...), $rights)),
        );
        if ($lefts === [] || $rights === [] || in_array([], [...$lefts, ...$rights], true)) {
            return DocumentSet::none();
        }
        $distances = $this->checked($this->together($parts, [...$lefts, ...$rights]), $parts, $test);
        if ($this->wanted) {
            $this->nearness[] = new RankedNearness($distances);
        }

        return DocumentSet::of(array_keys($distances));
    }

    /**
     * @param  list<string>  $parts
     * @param  list<WordPattern>  $patterns
     */
    private function allOf(array $parts, array $patterns, Expansion $widening): DocumentSet
    {
        $set = $this->visible;
        foreach ($patterns as $pattern) {
            $set = $set->and($this->words($parts, $pattern, $widening));
        }

        return $set;
    }

    /** @param  list<string>  $parts */
    private function words(array $parts, WordPattern $pattern, Expansion $widening): DocumentSet
    {
        $counts = $this->numbers($parts, $pattern, $widening);
        if ($this->wanted && $counts !== []) {
            $this->ranked[] = new RankedTerm($parts, $counts);
        }

        return $this->reader->words($parts, array_keys($counts));
    }

    /**
     * The indexed words that fit a pattern. What it was widened to is noted, or, when it is nowhere, what was probably
     * meant. Only words of documents that the asker may see count, are named or suggested.
     *
     * @param  list<string>  $parts
     * @return array<int, int> dictionary number => documents
     */
    private function numbers(array $parts, WordPattern $pattern, Expansion $widening): array
    {
        if (! $pattern->masked && ! $widening->reaches()) {
            $counts = $this->seen($parts, array_values($this->reader->wordNumbers([$pattern->text])));
            if ($this->wanted && array_sum($counts) === 0) {
                $this->suggest($parts, $pattern->text);
            }

            return $counts;
        }
        $numbers = $pattern->masked
            ? array_flip($pattern->among($this->reader->wordsBeginningWith($pattern->prefix())))
            : $this->reader->wordNumbers($widening->variants($pattern->text, $this->reader, $pattern->written));
        $counts = $this->seen($parts, array_values($numbers));
        $words = $on = [];
        foreach ($numbers as $word => $number) {
            $word = (string) $word;
            if ($counts[$number] > 0) {
                $isOn = ! in_array($word, $widening->without, true);
                $words[] = ['word' => $word, 'count' => $counts[$number], 'on' => $isOn];
                if ($isOn) {
                    $on[$number] = $counts[$number];
                }
            }
        }
        if ($words === [] && $this->wanted && ! $pattern->masked) {
            $this->suggest($parts, $pattern->text);

            return [];
        }
        usort($words, static fn (array $a, array $b): int => [$a['on'], $b['count'], $a['word']] <=> [$b['on'], $a['count'], $b['word']]);
        $this->variants[] = new Variants($pattern->text, array_slice($words, 0, self::MOST_NAMED), false, count($words));

        return $on;
    }

    /** @param  list<string>  $parts */
    private function suggest(array $parts, string $word): void
    {
        $numbers = $this->reader->wordNumbers(Expansion::guess($word)->variants($word, $this->reader));
        $near = [];
        foreach ($this->seen($parts, array_values($numbers)) as $number => $count) {
            $other = (string) array_search($number, $numbers, true);
            if ($count > 0) {
                $near[] = ['word' => $other, 'count' => $count, 'far' => levenshtein($word, $other)];
            }
        }
        usort($near, static fn (array $a, array $b): int => [$a['far'], -$a['count'], $a['word']] <=> [$b['far'], -$b['count'], $b['word']]);
        $words = array_map(
            static fn (array $n): array => ['word' => $n['word'], 'count' => $n['count'], 'on' => false],
            array_slice($near, 0, self::MOST_SUGGESTIONS),
        );
        if ($words !== []) {
            $this->variants[] = new Variants($word, $words, true, count($near));
        }
    }

    /**
     * In how many documents that the asker may see each word stands, in the parts that are searched.
     *
     * @param  list<string>  $parts
     * @param  list<int>  $numbers
     * @return array<int, int>
     */
    private function seen(array $parts, array $numbers): array
    {
        return $this->reader->countWords($parts, $numbers, $this->visible);
    }

    /**
     * @param  list<string>  $parts
     * @param  list<WordPattern>  $patterns
     */
    private function sequence(array $parts, array $patterns, Expansion $widening, string $term, bool $whole): DocumentSet
    {
        $first = $whole || str_starts_with($term, '^');
        $last = $whole || self::endsText($term);
        if (count($patterns) === 1 && ! $first && ! $last) {
            return $this->words($parts, $patterns[0], $widening);
        }
        $places = array_map(fn (WordPattern $pattern): array => $this->numbers($parts, $pattern, $widening), $patterns);
        if (in_array([], $places, true)) {
            return DocumentSet::none();
        }

        return DocumentSet::of(
            array_keys(
                $this->checked(
                    $this->together($parts, $places),
                    $parts,
                    new WordSequence(array_map(array_keys(...), $places), $first, $last),
                ),
            ),
        );
    }

    /** Whether a term is anchored at the end of a text. */
    private static function endsText(string $term): bool
    {
        return str_ends_with($term, '^') && ! str_ends_with($term, '\\^');
    }

    /**
     * The documents that have one of the words of each place, all in the same part.
     *
     * @param  list<string>  $parts
     * @param  list<array<int, int>>  $places  dictionary number => documents, by place
     */
    private function together(array $parts, array $places): DocumentSet
    {
        $candidates = DocumentSet::none();
        foreach ($parts as $part) {
            $inPart = $this->visible;
            foreach ($places as $words) {
                $inPart = $inPart->and($this->reader->words([$part], array_keys($words)));
            }
            $candidates = $candidates->or($inPart);
        }
        if ($this->wanted) {
            foreach ($places as $words) {
                $this->ranked[] = new RankedTerm($parts, $words);
            }
        }

        return $candidates;
    }

    /**
     * @param  list<string>  $parts
     * @return array<int, int> document => distance, for those that pass
     */
    private function checked(DocumentSet $candidates, array $parts, StreamTest $test): array
    {
        $found = [];
        $widths = $this->reader->widths();
        $whole = $test instanceof WordSequence ? $test->whole($widths) : null;
        if ($whole !== null) {
            foreach ($candidates->chunks(self::READ_AT_ONCE) as $documents) {
                $found += array_fill_keys($this->reader->inRow($parts, $documents, $whole), 0);
            }

            return $found;
        }
        $needles = $test->needles($widths);
        foreach ($candidates->chunks(self::READ_AT_ONCE) as $documents) {
            foreach ($this->reader->streams($parts, $documents, $needles) as $document => $streams) {
                foreach ($streams as $stream) {
                    $distance = $test->distance($stream);
                    if ($distance !== null) {
                        $found[$document] = min($distance, $found[$document] ?? PHP_INT_MAX);
                    }
                }
            }
        }

        return $found;
    }
}
