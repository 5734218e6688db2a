<?php

declare(strict_types=1);

namespace Brenvic\Core\Pages;

use Brenvic\Core\Capture\LineBreaks;
use Brenvic\Core\Capture\TextPage;
use Brenvic\Core\Capture\WordBox;
use Brenvic\Core\Fields\FieldDefinition;
use Brenvic\Core\Index\Part;
use Brenvic\Core\Index\Tokenizer;
use Brenvic\Core\Query\BooleanNode;
use Brenvic\Core\Query\BooleanOperator;
use Brenvic\Core\Query\Ledger;
use Brenvic\Core\Query\Node;
use Brenvic\Core\Query\PrefixNode;
use Brenvic\Core\Query\SearchClause;
use Brenvic\Core\Search\Asking\ClauseModifiers;
use Brenvic\Core\Search\Asking\SearchSchema;
use Brenvic\Core\Search\Asking\WordPattern;
use Brenvic\Core\Search\Values\ValueTest;

/** Finds what a search looked for in a text: its words and phrases, but none that it leaves out. */
final readonly class HitFinder
{
    /** @param  list<list<WordPattern>>  $sequences words directly behind one another */
    private function __construct(public array $sequences)
    {
    }

    /**
     * What to mark in a document's own text.
     *
     * @param  bool  $earlier  what was looked for in earlier versions too
     */
    public static function forText(Ledger $ledger, bool $earlier = false): self
    {
        return self::collectAll($ledger, ['text', 'dc.description', ...$earlier ? ['earlier'] : [], ...SearchSchema::EVERYWHERE]);
    }

    /**
     * What to mark in a part of a document beside its text.
     *
     * @param  list<Part>  $everywhere  where words are looked for that name no place
     */
    public static function forPart(Ledger $ledger, Part $part, array $everywhere): self
    {
        return self::collectAll($ledger, [$part->indexName(), ...in_array($part, $everywhere, true) ? SearchSchema::EVERYWHERE : []]);
    }

    /**
     * What to mark within a value of one field; that a value is asked for whole is another matter (SheetMarks).
     *
     * @param  list<Part>  $everywhere  where words are looked for that name no place
     */
    public static function forField(Ledger $ledger, FieldDefinition $field, array $everywhere): self
    {
        return self::collectAll(
            $ledger,
            [
                $field->code,
                'values',
                ...$field->dublinCore === null ? [] : ["dc.{$field->dublinCore}"],
                ...in_array(Part::Values, $everywhere, true) ? SearchSchema::EVERYWHERE : [],
            ],
            $field,
        );
    }

    public function findsNothing(): bool
    {
        return $this->sequences === [];
    }

    /** @return list<Hit> in order, none inside another */
    public function hits(string $text, int $most = PHP_INT_MAX): array
    {
        if (! $this->mayFind($text)) {
            return [];
        }
        $words = Tokenizer::located($text);
        $whole = self::unbroken($text, $words);
        $hits = $this->among($text, $whole, $most);
        if ($whole !== $words) {
            // A part of a word that the end of a line cuts may have been looked for as well.
            foreach ($this->among($text, $words, $most) as $hit) {
                if (
                    array_filter(
                        $hits,
                        static fn (Hit $h): bool => $h->offset < $hit->offset + $hit->length && $hit->offset < $h->offset + $h->length,
                    ) === []
                ) {
                    $hits[] = $hit;
                }
            }
            usort($hits, static fn (Hit $a, Hit $b): int => $a->offset <=> $b->offset);
        }

        return $hits;
    }

    /**
     * The words with those made one that a hyphen carries over to the next line.
     *
     * @param  list<array{string, int, int}>  $words
     * @return list<array{string, int, int}>
     */
    private static function unbroken(string $text, array $words): array
    {
        $broken = LineBreaks::places($text);
        if ($broken === []) {
            return $words;
        }
        $whole = [];
        $open = null;
        foreach ($words as $word) {
            $end = $open === null ? -1 : $open[1] + $open[2];
            if ($open !== null && isset($broken[$end]) && $end + $broken[$end] === $word[1]) {
                $open = [$open[0].$word[0], $open[1], $word[1] + $word[2] - $open[1]];

                continue;
            }
            if ($open !== null) {
                $whole[] = $open;
            }
            $open = $word;
        }
        if ($open !== null) {
            $whole[] = $open;
        }

        return $whole;
    }

    /**
     * @param  list<array{string, int, int}>  $words
     * @return list<Hit>
     */
    private function among(string $text, array $words, int $most): array
    {
        $hits = [];
        $end = 0;
        for ($i = 0, $count = count($words); $i < $count && count($hits) < $most; $i++) {
            // Pairs of signs overlap: what is marked already is not marked again.
            if ($words[$i][1] < $end) {
                continue;
            }
            $longest = 0;
            foreach ($this->sequences as $sequence) {
                if (count($sequence) > $longest && self::fits($sequence, $text, $words, $i)) {
                    $longest = count($sequence);
                }
            }
            if ($longest > 0) {
                [, $start] = $words[$i];
                [, $last, $length] = $words[$i + $longest - 1];
                $end = $last + $length;
                $hits[] = new Hit($start, $end - $start);
                $i += $longest - 1;
            }
        }

        return $hits;
    }

    /**
     * The whole text, cut at its hits.
     *
     * @return list<array{string, bool}> text, and whether it is a hit
     */
    public function pieces(string $text): array
    {
        $pieces = [];
        $at = 0;
        foreach ($this->hits($text) as $hit) {
            $pieces[] = [substr($text, $at, $hit->offset - $at), false];
            $pieces[] = [substr($text, $hit->offset, $hit->length), true];
            $at = $hit->offset + $hit->length;
        }
        $pieces[] = [substr($text, $at), false];

        return array_values(array_filter($pieces, static fn (array $piece): bool => $piece[0] !== ''));
    }

    /** Where the first hit may be, by the raw beginnings of what is looked for; null when they are nowhere. */
    public function likelyPlace(string $text): ?int
    {
        $places = [];
        foreach ($this->sequences as $sequence) {
            $at = stripos($text, $sequence[0]->prefix());
            if ($at !== false) {
                $places[] = $at;
            }
        }

        return $places === [] ? null : min($places);
    }

    /** A quick look whether cutting the text into words is worth it at all. */
    private function mayFind(string $text): bool
    {
        if ($this->sequences === [] || $text === '') {
            return false;
        }

        // What is folded away (accents, apostrophes, the ends of lines) cannot be looked for in the raw text.
        return $this->likelyPlace($text) !== null ||
            str_contains($text, "'") ||
            str_contains($text, "-\n") ||
            preg_match('/[\x80-\xFF]/', $text) === 1;
    }

    /**
     * The boxes of each hit on a page, one for each word it touches.
     *
     * @return list<list<WordBox>>
     */
    public function boxes(TextPage $page): array
    {
        $boxes = [];
        $at = 0;
        foreach ($this->hits($page->text) as $hit) {
            $of = [];
            while (isset($page->words[$at]) && $page->words[$at]->offset + $page->words[$at]->length <= $hit->offset) {
                $at++;
            }
            for ($i = $at; isset($page->words[$i]) && $page->words[$i]->offset < $hit->offset + $hit->length; $i++) {
                $of[] = $page->words[$i];
            }
            $boxes[] = $of;
        }

        return $boxes;
    }

    /**
     * @param  list<string>  $indexes
     * @param  FieldDefinition|null  $of  only what is looked for within values of this field, not what they must be as a whole
     */
    private static function collectAll(Ledger $ledger, array $indexes, ?FieldDefinition $of = null): self
    {
        $sequences = [];
        foreach ($ledger->lines as $line) {
            if ($line->on && ! $line->negated) {
                self::collect($line->node, $indexes, $of, $sequences);
            }
        }

        return new self($sequences);
    }

    /**
     * @param  list<string>  $indexes
     * @param  list<list<WordPattern>>  $sequences
     */
    private static function collect(Node $node, array $indexes, ?FieldDefinition $of, array &$sequences): void
    {
        if ($node instanceof BooleanNode) {
            self::collect($node->left, $indexes, $of, $sequences);
            if ($node->operator !== BooleanOperator::Not) {
                self::collect($node->right, $indexes, $of, $sequences);
            }
        } elseif ($node instanceof PrefixNode) {
            self::collect($node->inner, $indexes, $of, $sequences);
        } elseif ($node instanceof SearchClause && in_array($node->index, $indexes, true) && $node->relation !== '<>') {
            $modifiers = ClauseModifiers::of($node->modifiers);
            $whole = $modifiers->whole ?? in_array($node->relation, ['==', 'exact'], true);
            // What is asked of a value as a whole is not marked by words within it.
            if (
                $of !== null &&
                ($whole ||
                    ($node->index !== 'values' &&
                        ! in_array($node->index, SearchSchema::EVERYWHERE, true) &&
                        ValueTest::namesTerm($of, $node->relation, $node->term, $modifiers)))
            ) {
                return;
            }
            $patterns = array_map(
                static fn (WordPattern $pattern): WordPattern => $pattern->widened($modifiers->widening),
                WordPattern::ofTerm($node->term, $modifiers->masked, $whole),
            );
            if ($node->relation === 'any' || $node->relation === 'all') {
                foreach ($patterns as $pattern) {
                    $sequences[] = [$pattern];
                }
            } elseif ($patterns !== []) {
                $sequences[] = $patterns;
            }
        }
    }

    /**
     * @param  list<WordPattern>  $sequence
     * @param  list<array{string, int, int}>  $words
     */
    private static function fits(array $sequence, string $text, array $words, int $at): bool
    {
        foreach ($sequence as $i => $pattern) {
            [$word, $offset, $length] = $words[$at + $i] ?? ['', 0, 0];
            if ($length === 0 || ! $pattern->fits($word, $pattern->isWidened() ? substr($text, $offset, $length) : '')) {
                return false;
            }
        }

        return true;
    }
}
