<?php

declare(strict_types=1);

namespace Brenvic\Core\Themes;

use Brenvic\Core\Capture\TextLanguage;
use Brenvic\Core\Facets\StandingOut;
use Brenvic\Core\Fields\FieldDefinition;
use Brenvic\Core\Index\DocumentSet;
use Brenvic\Core\Index\IndexReader;
use Brenvic\Core\Index\Keys;
use Brenvic\Core\Index\Part;
use Brenvic\Core\Index\Stemmer;
use Brenvic\Core\Query\BooleanNode;
use Brenvic\Core\Query\BooleanOperator;
use Brenvic\Core\Query\Node;
use Brenvic\Core\Search\Answer\Evaluator;
use Brenvic\Core\Search\Asking\SearchSchema;
use GMP;

/**
 * Says what a result is about. A theme is a few words and values that stand together more often than chance would have it, and the
 * documents that have two of them; themes are chosen one after the other, each for what it adds to those before (after F. Beil,
 * M. Ester, X. Xu, Frequent term-based text clustering, KDD 2002). That they stand together is told by the log-likelihood ratio
 * (see StandingOut). A large result is looked at through documents evenly spread over it; what is chosen so is counted in all.
 *
 * Everything depends on the documents alone: their numbers decide nothing where all of them are looked at.
 */
final readonly class ThemeFinder
{
    public const MOST_THEMES = 12;

    public const MOST_WORDS = 12;

    /** So many documents are looked at. */
    private const LOOKED_AT = 600;

    /** So many words are counted in all that one may see. */
    private const WORDS = 1_500;

    /** So many words and values are held against each other. */
    private const FEATURES = 260;

    /** Of a word or value that fewer documents have nothing is said. */
    private const LEAST = 3;

    /** The share of documents that a word, a value or a theme has at the least, and at the most to tell anything apart. */
    private const LEAST_SHARE = 0.015;

    private const MOST_SHARE = 0.4;

    /** The likelihood from which on two stand together: chance brings that about once in ten thousand times. */
    private const TOGETHER = 15.1;

    /** How much more often they do than they would by themselves. */
    private const LIFT = 1.8;

    /** Fields that say where a document is and what it is made of. */
    private const NOT_ABOUT = ['library', 'repository', 'file_type', 'text_state', 'text_language', 'attached', 'dossier_kind'];

    public function __construct(private IndexReader $reader, private SearchSchema $schema)
    {
    }

    /**
     * @param  DocumentSet  $whole  all that the asker may see
     * @param  array<string, FieldDefinition>  $fields  those whose values may name a theme, by code
     */
    public function of(DocumentSet $result, DocumentSet $whole, array $fields): FoundThemes
    {
        $parts = array_map(static fn (Part $part): string => $part->value, $this->schema->parts(FoundThemes::WORDS) ?? []);
        $any = DocumentSet::union(array_map(fn (string $part): DocumentSet => $this->reader->posting(Keys::word($part, Keys::ANY)), $parts));
        $texts = $result->and($any);
        $looked = $texts->spread(self::LOOKED_AT);
        $words = $this->words($parts, $looked);
        $standing = $this->standing($parts, $words, count($looked), $texts, $whole->and($any));
        $features = $this->features($words, $looked, $fields);
        $evaluator = new Evaluator($this->reader, $this->schema, $result);
        $themes = $found = [];
        foreach (self::chosen($features, count($looked)) as $names) {
            $node = self::node($names);
            $set = $evaluator->evaluate($node);
            if ($set->count() >= self::LEAST) {
                $themes[] = new Theme($names, $node, $set->count());
                $found[] = $set;
            }
        }
        usort($themes, static fn (Theme $a, Theme $b): int => [$b->count, $a->names[0]->key()] <=> [$a->count, $b->names[0]->key()]);

        return new FoundThemes(
            $result->count(),
            $result->count() - $texts->count(),
            $themes,
            $texts->minus(DocumentSet::union($found))->count(),
            $standing,
            count($looked),
        );
    }

    /**
     * The words that say something and more than a few documents have.
     *
     * @param  list<string>  $parts
     * @param  list<int>  $looked
     * @return array<string, array{int, list<int>}> word => its number, and the places in `$looked` of the documents that have it
     */
    private function words(array $parts, array $looked): array
    {
        $places = [];
        $at = array_flip($looked);
        foreach ($this->reader->streamsAgain($parts, $looked) as $document => $streams) {
            $here = [];
            foreach ($streams as $stream) {
                $here += $stream->counts();
            }
            foreach ($here as $word => $_) {
                $places[$word][] = $at[$document];
            }
        }
        $least = max(self::LEAST, (int) ceil(self::LEAST_SHARE * count($looked)));
        $places = array_filter($places, static fn (array $of): bool => count($of) >= $least);
        $grammar = TextLanguage::grammar();
        $words = [];
        foreach ($this->reader->wordsNumbered(array_keys($places)) as $number => $word) {
            if (preg_match('/^\p{L}{3,}$/u', $word) === 1 && ! isset($grammar[$word])) {
                $words[$word] = [$number, $places[$number]];
            }
        }
        uksort($words, static fn (int|string $a, int|string $b): int => count($words[$b][1]) <=> count($words[$a][1]) ?: strcmp((string) $a, (string) $b));

        return array_slice($words, 0, self::WORDS, true);
    }

    /**
     * @param  list<string>  $parts
     * @param  array<string, array{int, list<int>}>  $words
     * @return list<StandingWord>
     */
    private function standing(array $parts, array $words, int $looked, DocumentSet $result, DocumentSet $whole): array
    {
        $inAll = $this->reader->countWords($parts, array_column($words, 0), $whole);
        [$found, $all] = [$result->count(), $whole->count()];
        $likely = [];
        foreach ($words as $word => [$number, $places]) {
            // As often as it stands in those that are looked at; of the likeliest all are counted.
            $count = min($inAll[$number], (int) round(count($places) * $found / $looked));
            $of = StandingOut::of($count, $found, $inAll[$number], $all);
            if ($of !== null) {
                $likely[$word] = $of->likelihood;
            }
        }
        uksort($likely, static fn (int|string $a, int|string $b): int => $likely[$b] <=> $likely[$a] ?: strcmp((string) $a, (string) $b));
        $likely = array_slice($likely, 0, 4 * self::MOST_WORDS, true);
        $counts = $looked === $found
            ? array_map(static fn (array $of): int => count($of[1]), array_column($words, null, 0))
            : $this->reader->countWords($parts, array_map(static fn (int|string $word): int => $words[$word][0], array_keys($likely)), $result);
        $standing = $stems = [];
        foreach (array_keys($likely) as $word) {
            $count = $counts[$words[$word][0]];
            $of = StandingOut::of($count, $found, $inAll[$words[$word][0]], $all);
            // What all of them have was asked for, or might have been.
            if ($of !== null && $count < $found) {
                $standing[] = new StandingWord((string) $word, $count, $of);
            }
        }
        usort(
            $standing,
            static fn (StandingWord $a, StandingWord $b): int => $b->standingOut->likelihood <=> $a->standingOut->likelihood ?: strcmp($a->word, $b->word),
        );
        // Of the forms of a word the surest says enough.
        $told = [];
        foreach ($standing as $word) {
            $stem = Stemmer::stem($word->word);
            if (! isset($stems[$stem])) {
                $stems[$stem] = true;
                $told[] = $word;
            }
        }

        return array_slice($told, 0, self::MOST_WORDS);
    }

    /**
     * What is held against each other, with the documents that have it.
     *
     * @param  array<string, array{int, list<int>}>  $words
     * @param  list<int>  $looked
     * @param  array<string, FieldDefinition>  $fields
     * @return list<array{Feature, GMP, int}> what, its documents as bits, and how many these are
     */
    private function features(array $words, array $looked, array $fields): array
    {
        $features = [];
        foreach ($words as $word => [, $places]) {
            $features[] = [Feature::word((string) $word), $places];
        }
        array_push($features, ...$this->valued($looked, $fields));
        $most = self::MOST_SHARE * count($looked);
        $features = array_values(array_filter($features, static fn (array $of): bool => count($of[1]) >= self::LEAST && count($of[1]) <= $most));
        // Those tell most apart that neither few nor most have.
        usort($features, static fn (array $a, array $b): int => count($b[1]) <=> count($a[1]) ?: strcmp($a[0]->key(), $b[0]->key()));

        return array_map(static fn (array $of): array => [$of[0], self::bits($of[1]), count($of[1])], array_slice($features, 0, self::FEATURES));
    }

    /**
     * @param  list<int>  $looked
     * @param  array<string, FieldDefinition>  $fields
     * @return list<array{Feature, list<int>}>
     */
    private function valued(array $looked, array $fields): array
    {
        $at = array_flip($looked);
        $places = [];
        foreach ($this->reader->facetedOf($looked) as $document => $values) {
            foreach (array_diff_key(array_intersect_key($values, $fields), array_flip(self::NOT_ABOUT)) as $code => $numbers) {
                foreach ($numbers as $number) {
                    $places[$code][$number][] = $at[$document];
                }
            }
        }
        $valued = [];
        foreach ($places as $code => $of) {
            // Days and numbers are no theme.
            if (! $fields[$code]->kind->isOrdered()) {
                $terms = $this->reader->valueTerms($code);
                foreach ($of as $number => $there) {
                    $valued[] = [Feature::value($fields[$code], $terms[$number] ?? ''), $there];
                }
            }
        }

        return $valued;
    }

    /** @param  list<int>  $places */
    private static function bits(array $places): GMP
    {
        $bits = gmp_init(0);
        foreach ($places as $place) {
            gmp_setbit($bits, $place);
        }

        return $bits;
    }

    /**
     * @param  list<array{Feature, GMP, int}>  $features
     * @param  int  $of  documents that are looked at
     * @return list<non-empty-list<Feature>> what names each theme
     */
    private static function chosen(array $features, int $of): array
    {
        $candidates = self::candidates($features, $of);
        $least = max(self::LEAST, (int) ceil(self::LEAST_SHARE * $of));
        $chosen = [];
        $covered = gmp_init(0);
        $taken = [];
        while (count($chosen) < self::MOST_THEMES) {
            $best = null;
            $gain = 0.0;
            foreach ($candidates as $i => [$names, $bits, $count, $hold]) {
                $new = $count - gmp_popcount(gmp_and($bits, $covered));
                $worth = ($new - 0.6 * ($count - $new)) * $hold;
                if ($new >= $least && $worth > $gain && array_intersect_key($taken, array_flip(self::stems($names))) === []) {
                    [$best, $gain] = [$i, $worth];
                }
            }
            if ($best === null) {
                break;
            }
            [$names, $bits] = $candidates[$best];
            $covered = gmp_or($covered, $bits);
            $taken += array_flip(self::stems($names));
            $chosen[] = $names;
            unset($candidates[$best]);
        }

        return $chosen;
    }

    /**
     * Each word and value with those two that hold to it most, where there are any.
     *
     * @param  list<array{Feature, GMP, int}>  $features
     * @return list<array{non-empty-list<Feature>, GMP, int, float}> names, documents as bits, how many, and how much they hold together
     */
    private static function candidates(array $features, int $of): array
    {
        $partners = [];
        foreach ($features as $i => [$one, $bits, $count]) {
            for ($j = 0; $j < $i; $j++) {
                [$other, $others, $their] = $features[$j];
                $both = gmp_popcount(gmp_and($bits, $others));
                if ($both < self::LEAST || $both * $of < self::LIFT * $count * $their || self::sayTheSame($one, $other)) {
                    continue;
                }
                if (StandingOut::likelihood($both, $count, $their, $of) >= self::TOGETHER) {
                    $holds = $both / ($count + $their - $both);
                    $partners[$i][$j] = $partners[$j][$i] = $holds;
                }
            }
        }
        $candidates = [];
        foreach ($partners as $i => $holds) {
            uksort($holds, static fn (int $a, int $b): int => $holds[$b] <=> $holds[$a] ?: strcmp($features[$a][0]->key(), $features[$b][0]->key()));
            $best = self::apart($features, $i, array_keys($holds));
            $bits = self::two($features, $best);
            $count = gmp_popcount($bits);
            if ($count >= self::LEAST && $count <= self::MOST_SHARE * $of) {
                $hold = array_sum(array_intersect_key($holds, array_flip($best))) / (count($best) - 1);
                $candidates[] = [array_map(static fn (int $k): Feature => $features[$k][0], $best), $bits, $count, $hold];
            }
        }
        usort($candidates, static fn (array $a, array $b): int => strcmp($a[0][0]->key(), $b[0][0]->key()));

        return $candidates;
    }

    /**
     * A feature and its first two partners that do not say the same.
     *
     * @param  list<array{Feature, GMP, int}>  $features
     * @param  non-empty-list<int>  $partners
     * @return non-empty-list<int>
     */
    private static function apart(array $features, int $of, array $partners): array
    {
        $best = [$of];
        foreach ($partners as $j) {
            foreach ($best as $known) {
                if (self::sayTheSame($features[$known][0], $features[$j][0])) {
                    continue 2;
                }
            }
            $best[] = $j;
            if (count($best) === 3) {
                break;
            }
        }

        return $best;
    }

    /**
     * The documents that have two of some features.
     *
     * @param  list<array{Feature, GMP, int}>  $features
     * @param  non-empty-list<int>  $of
     */
    private static function two(array $features, array $of): GMP
    {
        $bits = gmp_init(0);
        foreach ($of as $n => $i) {
            for ($m = 0; $m < $n; $m++) {
                $bits = gmp_or($bits, gmp_and($features[$i][1], $features[$of[$m]][1]));
            }
        }

        return $bits;
    }

    /** Whether two are forms of one word, or values of one field, of which one mostly stands below the other. */
    private static function sayTheSame(Feature $one, Feature $other): bool
    {
        if ($one->field !== null && $other->field !== null) {
            return $one->field->code === $other->field->code;
        }

        return array_intersect($one->stems, $other->stems) !== [];
    }

    /**
     * The stems of the words that features are called by.
     *
     * @param  list<Feature>  $features
     * @return list<string>
     */
    private static function stems(array $features): array
    {
        $stems = [];
        foreach ($features as $feature) {
            array_push($stems, ...$feature->stems, ...$feature->field === null ? [] : [$feature->key()]);
        }

        return $stems;
    }

    /** @param  non-empty-list<Feature>  $names */
    private static function node(array $names): Node
    {
        $pairs = [];
        foreach ($names as $n => $one) {
            for ($m = 0; $m < $n; $m++) {
                $pairs[] = new BooleanNode(BooleanOperator::And, $names[$m]->clause(), $one->clause());
            }
        }

        return BooleanNode::join(BooleanOperator::Or, $pairs) ?? $names[0]->clause();
    }
}
