<?php

declare(strict_types=1);

namespace Brenvic\Core\Search;

use Brenvic\Core\Facets\FacetCounter;
use Brenvic\Core\Facets\FacetCounts;
use Brenvic\Core\Index\DocumentSet;
use Brenvic\Core\Index\IndexReader;
use Brenvic\Core\Query\Node;
use Brenvic\Core\Query\SearchClause;
use Brenvic\Core\Query\SortKey;

/** Answers searches: one pass from the ledger to total, counts, facets and rows. */
final readonly class Searcher
{
    public const RELEVANCE = 'relevance';

    /** What is sorted outside the index (see DocumentNames). */
    private const NAMES = ['title', 'ref', 'file_name'];

    public function __construct(
        private IndexReader $reader,
        private SearchSchema $schema,
        private DocumentNames $names,
    ) {
    }

    /** @throws SearchError */
    public function search(Asker $asker, SearchRequest $request): SearchAnswer
    {
        $clock = new StepClock;
        $this->reader->refresh();
        $visible = $this->visible($asker);
        $clock->done('access');

        $evaluator = new Evaluator($this->reader, $this->schema, $visible);
        $lines = $request->ledger->lines;
        $sets = [];
        $wantedTerms = [];
        $variants = [];
        foreach ($lines as $line) {
            $evaluator->ranked = [];
            $evaluator->variants = [];
            $set = $evaluator->evaluate($line->node, $line->negated);
            $variants[] = $evaluator->variants;
            $sets[] = $line->negated ? $visible->minus($set) : $set;
            if ($line->on) {
                $wantedTerms = [...$wantedTerms, ...$evaluator->ranked];
            }
        }
        $clock->done('criteria');

        $chain = new Conjunction($visible, $lines, $sets, $variants);
        $counts = $chain->counts();
        $result = $chain->result();
        $rescues = $chain->rescues();
        $clock->done('ledger');

        $facets = $this->facets($request, $chain);
        $clock->done('facets');

        [$documents, $scores] = $this->rows($request, $result, $wantedTerms, $visible);
        $clock->done('rows');

        return new SearchAnswer($result->count(), $visible->count(), $counts, $rescues, $facets, $documents, $scores, $clock->steps);
    }

    /** The set a ledger finds, for work on all of it. */
    public function documents(Asker $asker, Node $node): DocumentSet
    {
        $this->reader->refresh();

        return (new Evaluator($this->reader, $this->schema, $this->visible($asker)))->evaluate($node);
    }

    private function visible(Asker $asker): DocumentSet
    {
        $sets = [];
        foreach ($asker->libraries as $code) {
            $number = $this->reader->valueNumber('library', $code);
            if ($number !== null) {
                $sets[] = $this->reader->value('library', $number);
            }
        }

        return DocumentSet::union($sets);
    }

    /** @return array<string, FacetCounts> */
    private function facets(SearchRequest $request, Conjunction $chain): array
    {
        $counter = new FacetCounter($this->reader);
        $facets = [];
        foreach ($request->facets as $code) {
            $field = $this->schema->field($code);
            $own = [];
            $chosen = [];
            foreach ($request->ledger->lines as $i => $line) {
                $clauses = $line->on && ! $line->negated ? Criterion::alternatives($line->node) : null;
                if ($clauses !== null && $clauses[0]->index === $code && $clauses[0]->term !== '') {
                    $own[] = $i;
                    $chosen = [...$chosen, ...array_map(static fn (SearchClause $clause): string => (string) preg_replace('/\\\\(.)/su', '$1', $clause->term), $clauses)];
                }
            }
            $facets[$code] = $counter->count($field, $chain->without($own), $request->facetValues, $chosen);
        }

        return $facets;
    }

    /**
     * @param  list<RankedTerm>  $terms
     * @return array{list<int>, array<int, int>}
     */
    private function rows(SearchRequest $request, DocumentSet $result, array $terms, DocumentSet $visible): array
    {
        $keys = $request->sortKeys;
        if ($keys === [] && $terms !== []) {
            $keys = [SortKey::of(self::RELEVANCE, true)];
        }
        $ranker = new Ranker($this->reader, $visible);
        $orderings = array_map(fn (SortKey $key): Ordering => $this->ordering($key, $result, $terms, $ranker), $keys);
        $documents = Sorter::page($result, $orderings, $request->offset, $request->limit);
        $byRelevance = $keys !== [] && $keys[0]->index === self::RELEVANCE;

        return [$documents, $byRelevance ? $ranker->scoresOf($documents, $terms) : []];
    }

    /** @param  list<RankedTerm>  $terms */
    private function ordering(SortKey $key, DocumentSet $result, array $terms, Ranker $ranker): Ordering
    {
        if ($key->index === self::RELEVANCE) {
            return Ranker::fewEnough($result->count())
                ? new ScoreOrdering($ranker, $terms)
                : new SliceOrdering($ranker->scores($result, $terms), true);
        }
        if (in_array($key->index, self::NAMES, true)) {
            return new NameOrdering($this->names, $key->index, $key->descending());
        }
        $field = $this->schema->field($key->index);

        return $field->kind->isOrdered()
            ? new SliceOrdering($this->reader->slices($field->code), $key->descending())
            : new ValueOrdering($this->reader, $field, $key->descending());
    }
}
