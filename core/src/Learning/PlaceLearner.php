<?php

declare(strict_types=1);

namespace Brenvic\Core\Learning;

use Brenvic\Core\Capture\TextPage;
use Brenvic\Core\Capture\WordBox;
use Brenvic\Core\Fields\FieldDefinition;
use Brenvic\Core\Fields\InvalidDefinition;
use Brenvic\Core\Index\Tokenizer;
use Brenvic\Core\Lift\Places;
use Brenvic\Core\Reading\Direction;
use Brenvic\Core\Reading\LineRule;
use Brenvic\Core\Reading\Outcome;
use Brenvic\Core\Reading\PatternRule;
use Brenvic\Core\Reading\PositionRule;
use Brenvic\Core\Reading\PrintedWords;
use Brenvic\Core\Reading\Reader;
use Brenvic\Core\Reading\ReadingRule;
use Brenvic\Core\Reading\SafePattern;
use Brenvic\Core\Reading\TooManySteps;

/**
 * Learns from papers of one form where a value stands: beside which printed words. Each place at which a paper says what people gave it
 * suggests rules (behind, right of or below the words there; for words in a sentence, between those before and behind); those that
 * several papers suggest are tried on all of them, and the one that is right most often is learned if it is next to never wrong.
 */
final class PlaceLearner
{
    /** So many examples must say the same. */
    public const LEAST = 2;

    /** Of so many right ones one may be wrong. */
    private const WRONG = 5;

    /** Places of a value in a paper that suggest rules. */
    private const PLACES = 5;

    /** Rules that are tried for a field. */
    private const TRIED = 6;

    /** Printed words are at most so many. */
    private const WORDS = 3;

    /** They stand at most so many heights of a letter above. */
    private const DEPTH = 3.0;

    private const OVERLAP = 0.5;

    /** So many lines from above and from below are places of their own. */
    private const LINES = 4;

    /** @param  list<Example>  $examples  of one form */
    public function __construct(private readonly array $examples)
    {
    }

    public function learn(FieldDefinition $field): ?LearnedRule
    {
        $given = array_filter(array_map(static fn (Example $of): array => $of->values[$field->code] ?? [], $this->examples));
        $values = array_values(array_unique(array_merge(...array_values($given))));
        $only = count($values) === 1 ? $values[0] : null;
        $rules = $votes = [];
        foreach ($this->examples as $example) {
            $values = $example->values[$field->code] ?? [];
            if (count($values) !== 1) {
                // Which of several stands where is not known.
                continue;
            }
            foreach ($this->suggested($example, $field, $values[0]) as $name => $rule) {
                $rules[$name] ??= $rule;
                $votes[$name] = ($votes[$name] ?? 0) + 1;
            }
        }
        $votes = array_filter($votes, static fn (int $of): bool => $of >= self::LEAST);
        // Of as many votes the longer one, which says more of what is printed.
        uksort($votes, static fn (string $a, string $b): int => $votes[$b] <=> $votes[$a] ?: strlen($b) <=> strlen($a) ?: strcmp($a, $b));
        $best = null;
        foreach (array_slice($votes, 0, self::TRIED, true) as $name => $suggested) {
            if ($best !== null && count($best->from) - $best->wrong >= $suggested) {
                // It would be right where it is suggested, and so not more often.
                break;
            }
            [$beside, $rule] = $rules[$name];
            $tried = $this->tried($rule, $beside, $field, $only);
            if ($tried !== null && ($best === null || count($tried->from) - $tried->wrong > count($best->from) - $best->wrong)) {
                $best = $tried;
            }
        }

        return $best;
    }

    private function tried(ReadingRule $rule, string $beside, FieldDefinition $field, ?string $only): ?LearnedRule
    {
        $right = [];
        $wrong = 0;
        foreach ($this->examples as $example) {
            $given = $example->values[$field->code] ?? [];
            if ($given === []) {
                continue;
            }
            try {
                $read = array_map(static fn ($of): string => $of->value, Reader::read($rule, $field, $example->pages)->proposed(false));
            } catch (TooManySteps) {
                return null;
            }
            match (Outcome::of($read, $given)) {
                Outcome::Agrees => $right[] = $example->document,
                Outcome::Differs => $wrong++,
                default => null,
            };
            if ($wrong * self::WRONG > count($this->examples)) {
                return null;
            }
        }

        return count($right) < self::LEAST || $wrong * self::WRONG > count($right)
            ? null
            : new LearnedRule($rule, $beside, $right, $wrong, $only);
    }

    /** @return array<string, array{string, ReadingRule}> by a name that tells them apart: printed words, rule */
    private function suggested(Example $example, FieldDefinition $field, string $value): array
    {
        $rules = [];
        $left = self::PLACES;
        foreach ($example->pages as $page) {
            foreach (array_slice(self::said($page, $field, $value), 0, $left) as [$offset, $end]) {
                $left--;
                foreach (self::phrases(self::before($page, $offset)) as $phrase) {
                    $beside = implode(' ', $phrase);
                    $rules["behind {$beside}"] = [$beside, new PositionRule($beside, Direction::Behind)];
                }
                if ($page->words !== []) {
                    foreach (self::around($page, $offset) as [$direction, $words]) {
                        foreach (self::phrases($words) as $phrase) {
                            $beside = implode(' ', $phrase);
                            $rules["{$direction->value} {$beside}"] = [$beside, new PositionRule($beside, $direction)];
                        }
                    }
                }
                foreach (self::inLines($page, $offset, $end) as $name => $rule) {
                    $rules[$name] = ['', $rule];
                }
                foreach (self::between($page, $field, $offset, $end) as $pattern => $beside) {
                    try {
                        $rules["between {$pattern}"] = [$beside, new PatternRule(SafePattern::of((string) $pattern))];
                    } catch (InvalidDefinition) {
                        // Signs stand there that no pattern can have.
                        continue;
                    }
                }
            }
        }

        return $rules;
    }

    /** @return list<array{int, int}> where a page says a value: begin and end in bytes */
    private static function said(TextPage $page, FieldDefinition $field, string $value): array
    {
        $said = [];
        // These are written in many forms; others are as they are displayed.
        if (in_array($field->kind->value, ['date', 'date_range', 'amount', 'number'], true)) {
            foreach (Places::shared($field)->in($page->text, 200) as $place) {
                if ($place->value === $value) {
                    $said[$place->offset] = [$place->offset, $place->offset + $place->length];
                }
            }
        }
        $words = PrintedWords::of($page);
        foreach (self::written($field, $value) as $phrase) {
            foreach ($words->places($phrase) as $i) {
                $last = $words->all[$i + count($phrase) - 1];
                $said[$words->all[$i][1]] ??= [$words->all[$i][1], $last[1] + $last[2]];
            }
        }
        ksort($said);

        return array_values($said);
    }

    /** @return list<non-empty-list<string>> the words of a value, in the forms that people write */
    private static function written(FieldDefinition $field, string $value): array
    {
        $term = $field->vocabulary->terms[$value] ?? null;
        $forms = $term === null ? [] : [$term->label, $term->notation, ...$term->synonyms];
        $phrases = array_map(Tokenizer::words(...), array_values(array_unique([$field->display($value), ...$forms, $value])));

        return array_values(array_filter($phrases));
    }

    /**
     * What may be printed beside a value: the last one, two or three of some words, but no numbers.
     *
     * @param  list<string>  $words
     * @return list<non-empty-list<string>>
     */
    private static function phrases(array $words): array
    {
        $phrases = [];
        for ($count = 1; $count <= min(self::WORDS, count($words)); $count++) {
            $phrase = array_slice($words, -$count);
            if ($phrase === [] || preg_match('/\d/', $phrase[0]) === 1) {
                break;
            }
            $phrases[] = $phrase;
        }

        return $phrases;
    }

    /** @return list<string> the words before a place, in its line */
    private static function before(TextPage $page, int $offset): array
    {
        $words = [];
        $end = $offset;
        foreach (array_reverse(self::upTo(PrintedWords::of($page), $offset)) as [$word, $at, $length]) {
            if (count($words) === self::WORDS || preg_match('/\n|[.;!?]\s/', substr($page->text, $at + $length, $end - $at - $length)) === 1) {
                break;
            }
            $words[] = $word;
            $end = $at;
        }

        return array_reverse($words);
    }

    /** @return list<array{string, int, int}> the last words before a place */
    private static function upTo(PrintedWords $words, int $offset): array
    {
        $low = 0;
        $high = count($words->all);
        while ($low < $high) {
            $middle = intdiv($low + $high, 2);
            $words->all[$middle][1] < $offset ? $low = $middle + 1 : $high = $middle;
        }

        return array_slice($words->all, max(0, $low - self::WORDS), min($low, self::WORDS));
    }

    /** @return list<array{Direction, list<string>}> the words left of and above a place on the page */
    private static function around(TextPage $page, int $offset): array
    {
        $own = null;
        foreach ($page->words as $word) {
            if ($word->offset <= $offset && $offset < $word->offset + max(1, $word->length)) {
                $own = $word;
                break;
            }
        }
        if ($own === null) {
            return [];
        }
        $height = max(1.0, $own->bottom - $own->top);
        $left = $above = [];
        foreach ($page->words as $word) {
            $common = min($word->bottom, $own->bottom) - max($word->top, $own->top);
            if ($word->right <= $own->left + 1 && $common >= self::OVERLAP * min($height, $word->bottom - $word->top)) {
                $left[] = $word;
            } elseif ($word->bottom <= $own->top + 0.4 * $height && $word->bottom >= $own->top - self::DEPTH * $height) {
                $above[] = $word;
            }
        }

        return [[Direction::Right, self::nearest($page, $left)], [Direction::Below, self::heading($page, $above, $own, $height)]];
    }

    /**
     * The last words of a line, without what stands apart from them.
     *
     * @param  list<WordBox>  $line
     * @return list<string>
     */
    private static function nearest(TextPage $page, array $line): array
    {
        usort($line, static fn (WordBox $a, WordBox $b): int => $b->left <=> $a->left);
        $run = [];
        foreach ($line as $word) {
            $last = $run === [] ? null : $run[0];
            if ($last !== null && $last->left - $word->right > $last->bottom - $last->top) {
                break;
            }
            array_unshift($run, $word);
        }

        return self::wordsOf($page, $run);
    }

    /**
     * The words that stand right above a place, from its left edge on.
     *
     * @param  list<WordBox>  $words
     * @return list<string>
     */
    private static function heading(TextPage $page, array $words, WordBox $own, float $height): array
    {
        $words = array_filter($words, static fn (WordBox $w): bool => $w->right > $own->left - $height && $w->left < $own->left + 14 * $height);
        if ($words === []) {
            return [];
        }
        $line = max(array_map(static fn (WordBox $w): float => $w->bottom, $words));
        $words = array_filter($words, static fn (WordBox $w): bool => $w->bottom > $line - 0.5 * ($w->bottom - $w->top));
        usort($words, static fn (WordBox $a, WordBox $b): int => $a->left <=> $b->left);
        $run = [];
        foreach ($words as $word) {
            $last = $run === [] ? null : $run[count($run) - 1];
            if ($last !== null && $word->left - $last->right > 1.5 * $height) {
                break;
            }
            $run[] = $word;
        }

        return self::wordsOf($page, array_slice($run, 0, self::WORDS));
    }

    /**
     * @param  array<WordBox>  $boxes
     * @return list<string>
     */
    private static function wordsOf(TextPage $page, array $boxes): array
    {
        $words = [];
        foreach ($boxes as $box) {
            array_push($words, ...Tokenizer::words(substr($page->text, $box->offset, $box->length)));
        }

        return array_slice($words, -self::WORDS);
    }

    /** @return array<string, LineRule> */
    private static function inLines(TextPage $page, int $offset, int $end): array
    {
        $lines = LineRule::lines($page->text);
        $rules = [];
        foreach ($lines as $i => [$from, $text]) {
            if ($from <= $offset && $offset < $from + strlen($text)) {
                $sign = substr($text, $end - $from, 1);
                foreach ([$i + 1, $i - count($lines)] as $line) {
                    if (abs($line) <= self::LINES) {
                        $rules["line {$line}"] = new LineRule($line);
                        if ($offset === $from && preg_match('/[,.;:(]/', $sign) === 1) {
                            $rules["line {$line} up to {$sign}"] = new LineRule($line, $sign);
                        }
                    }
                }
            }
        }

        return $rules;
    }

    /**
     * The words before and behind a place in a sentence, of fields that any words fit.
     *
     * @return array<string, string> printed words by pattern
     */
    private static function between(TextPage $page, FieldDefinition $field, int $offset, int $end): array
    {
        if (! in_array($field->kind->value, ['text', 'long_text'], true)) {
            return [];
        }
        $before = mb_strcut(substr($page->text, max(0, $offset - 60), min(60, $offset)), 0);
        $behind = mb_strcut(substr($page->text, $end, 40), 0);
        if (
            preg_match('/(\p{L}+)([^\p{L}\p{N}\n]+)(?:(\p{L}+)([^\p{L}\p{N}\n]+))?$/u', $before, $b) !== 1 ||
            preg_match('/^([^\p{L}\p{N}\n]*)(\p{L}+|$)/u', $behind, $f) !== 1
        ) {
            return [];
        }
        $gap = static fn (string $text): string => implode('\s+', array_map(preg_quote(...), preg_split('/\s+/u', $text) ?: []));
        $printed = $b[1].$gap($b[2]).(isset($b[4]) ? $b[3].$gap($b[4]) : '');
        $after = trim($f[1]) === '' && $f[2] === '' ? '$' : $gap($f[1]).$f[2];

        return ["\\b{$printed}(?<value>[^\\n]{1,80}?){$after}" => trim($before) === '' ? '' : implode(' ', array_filter([$b[1], $b[3] ?? '']))];
    }
}
