<?php

declare(strict_types=1);

namespace Brenvic\Core\Search\Order;

use Brenvic\Core\Index\Bits;
use Brenvic\Core\Index\BitSlices;
use Brenvic\Core\Index\DocumentSet;
use Brenvic\Core\Index\Impact;
use Brenvic\Core\Index\IndexReader;
use Brenvic\Core\Index\Keys;
use Brenvic\Core\Index\Part;
use Brenvic\Core\Index\Posting;
use Brenvic\Core\Search\Words\RankedNearness;
use Brenvic\Core\Search\Words\RankedTerm;
use Brenvic\Core\Search\Words\WordSequence;

/**
 * Ranks by BM25F: each asked word adds its stored impact (see Impact) times how rare the word is, in whole numbers so that a
 * million documents can be summed as bit slices. How rare: the inverse document frequency ln(1 + (N − n + ½)/(n + ½)) in
 * steps of a half, counted on the documents the asker may see.
 *
 * The parts of a document, and what a word was widened to, make one word: as rare as all variants together, and with all
 * impacts joined bit by bit. That lies between the highest of them and their sum, and never above the highest impact there
 * is: so a word in title, values and text has no more than one word’s worth, and neither have “gate” and “gates”. Of many
 * variants only whether one stands there counts. In a name or an index value, which somebody chose to say what the document
 * is, a word counts half as much once more.
 *
 * Asked words that stand directly behind one another in the order in which they were asked make a document fit better
 * (`closer`): such a pair adds what the commoner of its two words can. Words asked for near each other rank by how
 * near they are before anything else: each step of nearness adds as much as all words together can.
 */
final readonly class Ranker
{
    /** Up to so many documents a word are summed one by one, which is faster and gives the same numbers. */
    private const ONE_BY_ONE = 4_000;

    /** More documents than this are never summed one by one. */
    private const MOST_ONE_BY_ONE = 25_000;

    /** The impacts of more variants than this say little, and take long to join. */
    private const FEW_VARIANTS = 16;

    /** How much more a word counts for standing in a document than once more for standing in what was chosen to say what it is. */
    private const WHOLE = 2;

    /** So many of the best documents are looked at for asked words that stand together. */
    public const LOOKED_AT = 200;

    /** So many pairs of asked words are looked for at most. */
    private const MOST_PAIRS = 24;

    /** @var list<array{parts: list<string>, words: list<int>, rarity: int}> what ranks, in the order in which it was asked */
    private array $terms;

    /**
     * @param  list<RankedTerm>  $terms
     * @param  list<RankedNearness>  $nearness
     */
    public function __construct(private IndexReader $reader, DocumentSet $visible, array $terms, private array $nearness = [])
    {
        $all = $visible->count();
        $this->terms = array_map(
            static fn (RankedTerm $term): array => [
                'parts' => $term->parts,
                'words' => array_keys($term->words),
                'rarity' => self::rarity($all, min($all, array_sum($term->words))),
            ],
            $terms,
        );
    }

    private static function rarity(int $all, int $documents): int
    {
        return max(1, (int) round(2 * log(1 + ($all - $documents + 0.5) / ($documents + 0.5))));
    }

    /** Whether there is anything to rank by. */
    public function ranks(): bool
    {
        return $this->terms !== [] || $this->nearness !== [];
    }

    public function scores(DocumentSet $set): BitSlices
    {
        $sum = new BitSlices([], DocumentSet::none());
        foreach ($this->terms as $term) {
            $joined = $chosen = [];
            foreach ($term['parts'] as $part) {
                $usual = array_intersect_key($this->reader->usual($part), $set->segments);
                $slices =
                    count($term['words']) > self::FEW_VARIANTS
                        ? $this->slicesOfMany($part, $term['words'], $usual)
                        : $this->slicesOfFew($part, $term['words'], $usual);
                $joined = self::joined($joined, $slices);
                $chosen = Part::tryFrom($part)?->isChosen() === true ? self::joined($chosen, $slices) : $chosen;
            }
            $sum = $sum
                ->plus(new BitSlices($joined, DocumentSet::none()), self::WHOLE * $term['rarity'])
                ->plus(new BitSlices($chosen, DocumentSet::none()), $term['rarity']);
        }
        foreach ($this->nearness as $nearness) {
            $sum = $sum->plus($nearness->slices(), $this->nearnessFactor());
        }

        return new BitSlices($sum->slices, $set);
    }

    /**
     * @param  array<int, list<string>>  $some  segment => impact by binary digit
     * @param  array<int, list<string>>  $others
     * @return array<int, list<string>>
     */
    private static function joined(array $some, array $others): array
    {
        foreach ($others as $segment => $slices) {
            $some[$segment] = isset($some[$segment]) ? array_map(Bits::or(...), $some[$segment], $slices) : $slices;
        }

        return $some;
    }

    /**
     * @param  list<int>  $words
     * @param  array<int, non-empty-list<string>>  $usual  segment => the impact of a word that stands once
     * @return array<int, list<string>> segment => impact by binary digit
     */
    private function slicesOfFew(string $part, array $words, array $usual): array
    {
        $slices = [];
        foreach ($words as $word) {
            $bits = $this->reader->posting(Keys::word($part, $word))->segments;
            foreach (array_intersect_key($this->reader->stored(Keys::word($part, $word)), $usual) as $segment => $stored) {
                $impacts = Posting::impactSlices($stored, $bits[$segment], $usual[$segment]);
                $slices[$segment] = isset($slices[$segment]) ? array_map(Bits::or(...), $slices[$segment], $impacts) : $impacts;
            }
        }

        return $slices;
    }

    /**
     * @param  list<int>  $words
     * @param  array<int, non-empty-list<string>>  $usual
     * @return array<int, list<string>>
     */
    private function slicesOfMany(string $part, array $words, array $usual): array
    {
        $slices = [];
        foreach (array_intersect_key($this->reader->words([$part], $words)->segments, $usual) as $segment => $bits) {
            $slices[$segment] = array_map(static fn (string $slice): string => Bits::and($slice, $bits), $usual[$segment]);
        }

        return $slices;
    }

    /**
     * @param  list<int>  $documents
     * @return array<int, int> document => score
     */
    public function scoresOf(array $documents): array
    {
        $wanted = [];
        foreach ($documents as $document) {
            $wanted[$document >> 16][] = $document & 0xFFFF;
        }
        $scores = array_fill_keys($documents, 0);
        foreach ($this->terms as $term) {
            $joined = $chosen = [];
            foreach ($term['parts'] as $part) {
                $usual = [];
                foreach (array_intersect_key($this->reader->usual($part), $wanted) as $segment => $slices) {
                    $usual[$segment] = Posting::usualImpacts($slices, $wanted[$segment]);
                }
                $isChosen = Part::tryFrom($part)?->isChosen() === true;
                foreach (
                    count($term['words']) > self::FEW_VARIANTS
                        ? $this->impactsOfMany($part, $term['words'], $usual)
                        : $this->impactsOfFew($part, $term['words'], $usual) as $document => $impact
                ) {
                    $joined[$document] = ($joined[$document] ?? 0) | $impact;
                    if ($isChosen) {
                        $chosen[$document] = ($chosen[$document] ?? 0) | $impact;
                    }
                }
            }
            foreach ($joined as $document => $impact) {
                $scores[$document] += (self::WHOLE * $impact + ($chosen[$document] ?? 0)) * $term['rarity'];
            }
        }
        foreach ($this->nearness as $nearness) {
            foreach (array_intersect_key($nearness->steps, $scores) as $document => $steps) {
                $scores[$document] += $steps * $this->nearnessFactor();
            }
        }

        return $scores;
    }

    /**
     * @param  list<int>  $words
     * @param  array<int, array<int, int>>  $usual  segment => offset => impact of a word that stands once
     * @return array<int, int> document => impact
     */
    private function impactsOfFew(string $part, array $words, array $usual): array
    {
        $impacts = [];
        foreach ($words as $word) {
            foreach (array_intersect_key($this->reader->stored(Keys::word($part, $word)), $usual) as $segment => $stored) {
                foreach (Posting::impacts($stored, $usual[$segment]) as $offset => $impact) {
                    $document = ($segment << 16) | $offset;
                    $impacts[$document] = ($impacts[$document] ?? 0) | $impact;
                }
            }
        }

        return $impacts;
    }

    /**
     * @param  list<int>  $words
     * @param  array<int, array<int, int>>  $usual
     * @return array<int, int>
     */
    private function impactsOfMany(string $part, array $words, array $usual): array
    {
        $impacts = [];
        foreach (array_intersect_key($this->reader->words([$part], $words)->segments, $usual) as $segment => $bits) {
            foreach ($usual[$segment] as $offset => $impact) {
                if (Bits::has($bits, $offset)) {
                    $impacts[($segment << 16) | $offset] = $impact;
                }
            }
        }

        return $impacts;
    }

    /** Whether asked words may stand together, so that it is worth looking at the best documents. */
    public function looksCloser(): bool
    {
        return $this->nearness === [] && $this->pairs() !== [];
    }

    /**
     * What pairs of asked words that stand together add.
     *
     * @param  list<int>  $documents
     * @return array<int, int> document => addition, for those that have any
     */
    public function closer(array $documents): array
    {
        $additions = [];
        foreach ($this->pairs() as [$parts, $sequence, $addition]) {
            foreach ($this->reader->streamsAgain($parts, $documents) as $document => $streams) {
                foreach ($streams as $stream) {
                    if ($sequence->positions($stream, 1) !== []) {
                        $additions[$document] = ($additions[$document] ?? 0) + $addition;
                        break;
                    }
                }
            }
        }

        return $additions;
    }

    /** @return list<array{list<string>, WordSequence, int}> parts, the two words, what it adds when they stand together */
    private function pairs(): array
    {
        $pairs = [];
        foreach ($this->terms as $i => $term) {
            $next = $this->terms[$i + 1] ?? null;
            if (
                $next !== null &&
                count($pairs) < self::MOST_PAIRS &&
                $term['parts'] === $next['parts'] &&
                $term['words'] !== [] &&
                $next['words'] !== []
            ) {
                $pairs[] = [
                    $term['parts'],
                    new WordSequence([$term['words'], $next['words']]),
                    self::WHOLE * Impact::HIGHEST * min($term['rarity'], $next['rarity']),
                ];
            }
        }

        return $pairs;
    }

    /** Whether documents are better summed one by one. */
    public function fewEnough(int $count): bool
    {
        $lists = 0;
        foreach ($this->terms as $term) {
            $filled = count(array_filter($term['parts'], fn (string $part): bool => $this->reader->usual($part) !== []));
            $lists += $filled * (count($term['words']) > self::FEW_VARIANTS ? 1 : count($term['words']));
        }

        return $count <= min(self::MOST_ONE_BY_ONE, self::ONE_BY_ONE * max(1, $lists));
    }

    private function nearnessFactor(): int
    {
        $sum = array_sum(array_column($this->terms, 'rarity'));

        return max(1, (self::WHOLE + 1) * Impact::HIGHEST * $sum);
    }
}
