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
    /** Up to so many documents are summed one by one, which is faster and gives the same numbers. */
    private const ONE_BY_ONE = 25_000;

    /** More words than this say nothing about which document fits better, and take long to add up. */
    private const MOST_WORDS = 400;

    /** @var array<string, int> posting key => what its impacts are multiplied by */
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
        foreach ($this->factors as $key => $factor) {
            $slices = array_map(Posting::impactSlices(...), $this->reader->stored($key));
            $sum = $sum->plus(new BitSlices($slices, DocumentSet::none()), $factor);
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
            $wanted[$document >> 16][$document & 0xFFFF] = true;
        }
        $scores = array_fill_keys($documents, 0);
        foreach ($this->factors as $key => $factor) {
            $stored = $this->reader->stored($key);
            foreach ($wanted as $segment => $offsets) {
                if (isset($stored[$segment])) {
                    foreach (Posting::impacts($stored[$segment], $offsets) as $offset => $impact) {
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

    public static function fewEnough(int $count): bool
    {
        return $count <= self::ONE_BY_ONE;
    }

    private function nearnessFactor(): int
    {
        return max(1, Impact::HIGHEST * array_sum($this->factors));
    }

    /**
     * @param  list<RankedTerm>  $terms
     * @return array<string, int>
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
                    $key = Keys::word($part, $word);
                    $factors[$key] = ($factors[$key] ?? 0) + $rarity * (Part::tryFrom($part)?->weight() ?? 1);
                }
            }
        }

        return $factors;
    }
}
