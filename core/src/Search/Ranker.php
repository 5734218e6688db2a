<?php

declare(strict_types=1);

namespace Brenvic\Core\Search;

use Brenvic\Core\Index\BitSlices;
use Brenvic\Core\Index\DocumentSet;
use Brenvic\Core\Index\Impact;
use Brenvic\Core\Index\IndexReader;
use Brenvic\Core\Index\Keys;
use Brenvic\Core\Index\Part;
use Brenvic\Core\Index\Posting;

/**
 * Ranks by BM25 with weights for the parts: each word adds its stored impact (see Impact) times how rare the word is
 * times the weight of the part it stands in, all in whole numbers so that a million documents can be summed as bit
 * slices. How rare: the inverse document frequency ln(1 + (N − n + ½)/(n + ½)) in steps of a half, counted on the
 * documents the asker may see. Words asked for near each other rank by how near they are before anything else: each
 * step of nearness adds as much as all words together can.
 */
final readonly class Ranker
{
    /** Up to so many documents a word are summed one by one, which is faster and gives the same numbers. */
    private const ONE_BY_ONE = 4_000;

    /** More documents than this are never summed one by one. */
    private const MOST_ONE_BY_ONE = 25_000;

    /** More words than this say nothing about which document fits better, and take long to add up. */
    private const MOST_WORDS = 400;

    /** @var array<string, array<int, int>> part => word => what its impacts are multiplied by */
    private array $factors;

    /**
     * @param  list<RankedTerm>  $terms
     * @param  list<RankedNearness>  $nearness
     */
    public function __construct(
        private IndexReader $reader,
        DocumentSet $visible,
        array $terms,
        private array $nearness = [],
    ) {
        $this->factors = self::factors($visible, $terms);
    }

    /** Whether there is anything to rank by. */
    public function ranks(): bool
    {
        return $this->factors !== [] || $this->nearness !== [];
    }

    public function scores(DocumentSet $set): BitSlices
    {
        $sum = new BitSlices([], DocumentSet::none());
        foreach ($this->factors as $part => $words) {
            $usual = $this->reader->usual($part);
            foreach ($words as $word => $factor) {
                $slices = [];
                $bits = $this->reader->posting(Keys::word($part, $word))->segments;
                foreach ($this->reader->stored(Keys::word($part, $word)) as $segment => $stored) {
                    if (isset($set->segments[$segment], $usual[$segment])) {
                        $slices[$segment] = Posting::impactSlices($stored, $bits[$segment], $usual[$segment]);
                    }
                }
                $sum = $sum->plus(new BitSlices($slices, DocumentSet::none()), $factor);
            }
        }
        foreach ($this->nearness as $nearness) {
            $sum = $sum->plus($nearness->slices(), $this->nearnessFactor());
        }

        return new BitSlices($sum->slices, $set);
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
        foreach ($this->factors as $part => $words) {
            $usual = [];
            foreach (array_intersect_key($this->reader->usual($part), $wanted) as $segment => $slices) {
                $usual[$segment] = Posting::usualImpacts($slices, $wanted[$segment]);
            }
            foreach ($words as $word => $factor) {
                foreach (array_intersect_key($this->reader->stored(Keys::word($part, $word)), $usual) as $segment => $stored) {
                    foreach (Posting::impacts($stored, $usual[$segment]) as $offset => $impact) {
                        $scores[($segment << 16) | $offset] += $impact * $factor;
                    }
                }
            }
        }
        foreach ($this->nearness as $nearness) {
            foreach (array_intersect_key($nearness->steps, $scores) as $document => $steps) {
                $scores[$document] += $steps * $this->nearnessFactor();
            }
        }

        return $scores;
    }

    /** Whether documents are better summed one by one. */
    public function fewEnough(int $count): bool
    {
        return $count <= min(self::MOST_ONE_BY_ONE, self::ONE_BY_ONE * max(1, array_sum(array_map(count(...), $this->factors))));
    }

    private function nearnessFactor(): int
    {
        return max(1, Impact::HIGHEST * array_sum(array_map(array_sum(...), $this->factors)));
    }

    /**
     * @param  list<RankedTerm>  $terms
     * @return array<string, array<int, int>>
     */
    private static function factors(DocumentSet $visible, array $terms): array
    {
        $all = $visible->count();
        $factors = [];
        foreach ($terms as $term) {
            if (count($term->words) > self::MOST_WORDS) {
                continue;
            }
            foreach ($term->words as $word => $documents) {
                $rarity = max(1, (int) round(2 * log(1 + ($all - $documents + 0.5) / ($documents + 0.5))));
                foreach ($term->parts as $part) {
                    $factors[$part][$word] = ($factors[$part][$word] ?? 0) + $rarity * (Part::tryFrom($part)?->weight() ?? 1);
                }
            }
        }

        return $factors;
    }
}
