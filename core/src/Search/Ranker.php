<?php

declare(strict_types=1);

namespace Brenvic\Core\Search;

use Brenvic\Core\Index\BitSlices;
use Brenvic\Core\Index\DocumentSet;
use Brenvic\Core\Index\IndexReader;
use Brenvic\Core\Index\Keys;
use Brenvic\Core\Index\Part;
use Brenvic\Core\Index\Posting;

/**
 * Ranks by BM25 with weights for the parts: each word adds its stored impact (see Impact) times how rare the word is
 * times the weight of the part it stands in, all in whole numbers so that a million documents can be summed as bit
 * slices. How rare: the inverse document frequency ln(1 + (N − n + ½)/(n + ½)) in steps of a half, counted on the
 * documents the asker may see.
 */
final readonly class Ranker
{
    /** Up to so many documents are summed one by one, which is faster and gives the same numbers. */
    private const ONE_BY_ONE = 4_000;

    public function __construct(
        private IndexReader $reader,
        private DocumentSet $visible,
    ) {
    }

    /** @param  list<RankedTerm>  $terms */
    public function scores(DocumentSet $set, array $terms): BitSlices
    {
        $factors = $this->factors($terms);
        $sum = new BitSlices([], DocumentSet::none());
        foreach ($factors as $key => $factor) {
            $slices = array_map(Posting::impactSlices(...), $this->reader->stored($key));
            $sum = $sum->plus(new BitSlices($slices, DocumentSet::none()), $factor);
        }

        return new BitSlices($sum->slices, $set);
    }

    /**
     * @param  list<int>  $documents
     * @param  list<RankedTerm>  $terms
     * @return array<int, int> document => score
     */
    public function scoresOf(array $documents, array $terms): array
    {
        $wanted = [];
        foreach ($documents as $document) {
            $wanted[$document >> 16][$document & 0xFFFF] = true;
        }
        $scores = array_fill_keys($documents, 0);
        foreach ($this->factors($terms) as $key => $factor) {
            $stored = $this->reader->stored($key);
            foreach ($wanted as $segment => $offsets) {
                if (isset($stored[$segment])) {
                    foreach (Posting::impacts($stored[$segment], $offsets) as $offset => $impact) {
                        $scores[($segment << 16) | $offset] += $impact * $factor;
                    }
                }
            }
        }

        return $scores;
    }

    public static function fewEnough(int $count): bool
    {
        return $count <= self::ONE_BY_ONE;
    }

    /**
     * @param  list<RankedTerm>  $terms
     * @return array<string, int> posting key => what its impacts are multiplied by
     */
    private function factors(array $terms): array
    {
        $all = $this->visible->count();
        $factors = [];
        foreach ($terms as $term) {
            foreach ($term->words as $word) {
                $documents = $this->reader->word($term->parts, $word)->and($this->visible)->count();
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
