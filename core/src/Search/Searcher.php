<?php

declare(strict_types=1);

namespace Brenvic\Core\Search;

use Brenvic\Core\Copies\Once;
use Brenvic\Core\Facets\FacetCounter;
use Brenvic\Core\Facets\FacetCounts;
use Brenvic\Core\Facets\FacetRequest;
use Brenvic\Core\Facets\FacetScope;
use Brenvic\Core\Index\DocumentSet;
use Brenvic\Core\Index\IndexReader;
use Brenvic\Core\Index\NameCode;
use Brenvic\Core\Index\ValuesBeside;
use Brenvic\Core\Query\Ledger;
use Brenvic\Core\Query\LedgerLine;
use Brenvic\Core\Query\Node;
use Brenvic\Core\Query\SearchClause;
use Brenvic\Core\Query\SortKey;
use Brenvic\Core\Search\Answer\Conjunction;
use Brenvic\Core\Search\Answer\Evaluator;
use Brenvic\Core\Search\Answer\FoundLine;
use Brenvic\Core\Search\Answer\NearMisses;
use Brenvic\Core\Search\Answer\PartCount;
use Brenvic\Core\Search\Answer\SearchAnswer;
use Brenvic\Core\Search\Answer\StepClock;
use Brenvic\Core\Search\Asking\Asker;
use Brenvic\Core\Search\Asking\Criterion;
use Brenvic\Core\Search\Asking\SearchError;
use Brenvic\Core\Search\Asking\SearchRequest;
use Brenvic\Core\Search\Asking\SearchSchema;
use Brenvic\Core\Search\Order\AgeOrdering;
use Brenvic\Core\Search\Order\DocumentNames;
use Brenvic\Core\Search\Order\NameOrdering;
use Brenvic\Core\Search\Order\Ordering;
use Brenvic\Core\Search\Order\Ranker;
use Brenvic\Core\Search\Order\ScoreOrdering;
use Brenvic\Core\Search\Order\SliceOrdering;
use Brenvic\Core\Search\Order\Sorter;
use Brenvic\Core\Search\Order\ValueOrdering;

/** Answers searches: one pass from the ledger to total, counts, facets and rows. */
final readonly class Searcher
{
    public const RELEVANCE = 'relevance';

    /** What is sorted by its beginning (see NameCode), then outside the index (see DocumentNames). */
    private const NAMES = ['title', 'file_name'];

    /** What the names of remembered lines begin with. */
    public const LINE = 'line/';

    /** Milliseconds that a line takes to be worth remembering. */
    private const LONG = 1.0;

    /** Counted with every search, so that each place to look in has its number. */
    private const PLACES = ['repository', 'library'];

    public function __construct(private IndexReader $reader, private SearchSchema $schema, private DocumentNames $names)
    {
    }

    /** @throws SearchError */
    public function search(Asker $asker, SearchRequest $request): SearchAnswer
    {
        foreach ($request->facets as $of) {
            $field = $this->schema->field($of->field);
            $field->faceted || throw new SearchError("{$field->label} is not counted as a facet. The librarian may change that in Design.");
        }
        $clock = new StepClock();
        $this->reader->refresh();
        $visible = $this->visible($asker);
        $clock->done('access');

        $evaluator = new Evaluator($this->reader, $this->schema, $visible, $request->explain);
        $lines = $request->ledger->lines;
        $schema = $request->explain ? '' : $this->schema->name();
        $known = $schema === '' ? '' : "{$asker->name()}\n{$schema}\n";
        $sets = $ranked = $nearness = $variants = $plan = [];
        foreach ($lines as $line) {
            $found = $known === '' || $this->isBeside($line) ? $evaluator->line($line) : $this->remembered($evaluator, $line, $known);
            $variants[] = $found->words->variants;
            $sets[] = $found->set;
            array_push($plan, ...$found->plan);
            if ($line->on) {
                array_push($ranked, ...$found->words->ranked);
                array_push($nearness, ...$found->words->nearness);
            }
        }
        $parts = array_map(fn (LedgerLine $line): array => $this->parts($line->node, $visible), $lines);
        $clock->done('criteria');

        $chain = new Conjunction($visible, $lines, $sets);
        $counts = $chain->counts($variants, $parts);
        $all = $chain->result();
        $clock->done('ledger');
        $result = $request->once?->of($all) ?? $all;
        $clock->done('near copies');

        $rescues = $chain->rescues();
        $nearMisses = $result->isEmpty() ? (new NearMisses($this->reader, $this->schema, $visible))->of($request->ledger, $chain) : [];
        $clock->done('nothing found');

        $ranker = new Ranker($this->reader, $visible, $ranked, $nearness);
        [$documents, $scores] = $this->rows($request, $result, $ranker);
        $clock->done('rows');

        return new SearchAnswer(
            $result->count(),
            $visible->count(),
            $counts,
            $rescues,
            $nearMisses,
            fn (): array => $this->facets($asker, $request, $chain, $visible),
            fn (string $field, string $normal): bool => $this->allHave($result, $field, $normal),
            $documents,
            $scores,
            $clock,
            $plan,
            $request->once === null ? null : $all->count(),
            $request->once?->behind($documents, $all) ?? [],
        );
    }

    /** @return list<PartCount> what a criterion is made of, where it is a group */
    private function parts(Node $node, DocumentSet $visible): array
    {
        return Criterion::togetherness($node) === null
            ? []
            : array_map(
                fn (array $part): PartCount => new PartCount(
                    $part['node'],
                    $part['negated'],
                    (new Evaluator($this->reader, $this->schema, $visible))->evaluate($part['node'])->count(),
                    $this->parts($part['node'], $visible),
                ),
                Criterion::parts($node),
            );
    }

    /** Whether a line asks, or may ask, for what is beside the index, which changes without it. */
    private function isBeside(LedgerLine $line): bool
    {
        return array_filter($this->schema->beside, static fn (ValuesBeside $of): bool => stripos($line->cql(), $of->field) !== false) !== [];
    }

    /**
     * What a line found, from the last time if that took long: whoever pages, sorts or changes another line asks it again.
     *
     * @param  string  $known  a name for all else that decides what it finds
     */
    private function remembered(Evaluator $evaluator, LedgerLine $line, string $known): FoundLine
    {
        $made = null;
        $packed = $this->reader->remembered(
            self::LINE.md5($known.($line->negated ? '-' : '+').$line->cql()),
            function () use ($evaluator, $line, &$made): array {
                $made = $evaluator->line($line);

                return $made->packed();
            },
            self::LONG,
        );

        return $made ?? FoundLine::unpacked($packed);
    }

    /** The set a ledger finds, for work on all of it. */
    public function documents(Asker $asker, Node $node, ?Once $once = null): DocumentSet
    {
        $this->reader->refresh();
        $found = (new Evaluator($this->reader, $this->schema, $this->visible($asker)))->evaluate($node);

        return $once?->of($found) ?? $found;
    }

    /** All that an asker may see. */
    public function sight(Asker $asker): DocumentSet
    {
        $this->reader->refresh();

        return $this->visible($asker);
    }

    /** How many documents that an asker may see have a value of a field. */
    public function count(Asker $asker, string $field, string $normal): int
    {
        $number = $this->reader->valueNumber($field, $normal);

        return $number === null ? 0 : $this->visible($asker)->and($this->reader->value($field, $number))->count();
    }

    private function visible(Asker $asker): DocumentSet
    {
        return $this->reader->kept("visible/{$asker->name()}", function () use ($asker): DocumentSet {
            $sets = [];
            foreach ($asker->libraries as $code) {
                $number = $this->reader->valueNumber('library', $code);
                if ($number !== null) {
                    $sets[] = $this->reader->value('library', $number);
                }
            }

            $visible = DocumentSet::union($sets);
            foreach ($asker->withheld as $node) {
                $visible = $visible->minus((new Evaluator($this->reader, $asker->rules ?? $this->schema, $visible))->evaluate($node));
            }

            return $asker->and === null ? $visible : $visible->and($this->visible($asker->and));
        });
    }

    private function allHave(DocumentSet $documents, string $field, string $normal): bool
    {
        $number = $this->reader->valueNumber($field, $normal);

        return $number !== null && $documents->minus($this->reader->value($field, $number))->isEmpty();
    }

    /** @return array<string, FacetCounts> */
    private function facets(Asker $asker, SearchRequest $request, Conjunction $chain, DocumentSet $visible): array
    {
        $requests = [];
        foreach (
            [
                ...FacetRequest::of(
                    array_values(array_filter(self::PLACES, fn (string $code): bool => isset($this->schema->fields[$code]))),
                    PHP_INT_MAX,
                ),
                ...$request->facets,
            ] as $of
        ) {
            $requests[$of->field] = $of;
        }
        $counter = new FacetCounter($this->reader);
        $once = $request->once;
        $whole = $once?->of($visible) ?? $visible;
        $name = $once === null ? $asker->name() : "{$asker->name()}/{$once->name}";
        $facets = [];
        foreach ($requests as $code => $of) {
            $field = $this->schema->field($code);
            [$own, $chosen] = self::chosen($request->ledger, $field->code, false);
            [$against, $excluded] = self::chosen($request->ledger, $field->code, true);
            $costs = [];
            if ($excluded !== []) {
                $terms = array_flip($this->reader->valueTerms($field->code));
                $without = $chain->without([...$own, ...$against]);
                $counts = $counter->byNumber($field->code, $once?->of($without) ?? $without);
                foreach ($excluded as $value) {
                    $costs[$value] = $counts[$terms[$value] ?? 0] ?? 0;
                }
            }
            $set = $chain->without($own);
            $scope = new FacetScope($once?->of($set) ?? $set, $whole, $name);
            $facets[$field->code] = $counter->count($field, $scope, $of, $chosen, $costs);
        }

        return $facets;
    }

    /** @return array{list<int>, list<string>} the lines by which a search chose, or excluded, values of a field; and the values */
    private static function chosen(Ledger $ledger, string $code, bool $negated): array
    {
        $lines = $values = [];
        foreach ($ledger->lines as $i => $line) {
            $clauses = $line->on && $line->negated === $negated ? Criterion::alternatives($line->node) : null;
            if ($clauses !== null && $clauses[0]->index === $code && $clauses[0]->term !== '') {
                $lines[] = $i;
                array_push($values, ...array_map(static fn (SearchClause $clause): string => Criterion::unescaped($clause->term), $clauses));
            }
        }

        return [$lines, $values];
    }

    /** @return array{list<int>, array<int, int>} */
    private function rows(SearchRequest $request, DocumentSet $result, Ranker $ranker): array
    {
        if ($request->below !== null) {
            return [$result->newest($result->upTo($request->below), $request->limit), []];
        }
        $keys = $request->sortKeys === [] && $ranker->ranks() ? [SortKey::of(self::RELEVANCE, true)] : $request->sortKeys;
        $orderings = array_merge([], ...array_map(fn (SortKey $key): array => $this->orderings($key, $result, $ranker), $keys));
        $byRelevance = $keys !== [] && $keys[0]->index === self::RELEVANCE;
        if (! $byRelevance || $request->limit === 0) {
            return [Sorter::page($result, $orderings, $request->offset, $request->limit), []];
        }
        if ($request->offset >= Ranker::LOOKED_AT || ! $ranker->looksCloser() || ! $keys[0]->descending()) {
            $documents = Sorter::page($result, $orderings, $request->offset, $request->limit);

            return [$documents, $ranker->scoresOf($documents)];
        }
        $scores = $this->closer(Sorter::page($result, $orderings, 0, Ranker::LOOKED_AT), $ranker);
        $page = array_slice($scores, $request->offset, $request->limit, true);
        $left = $request->limit - count($page);
        $more = $left > 0 && count($scores) === Ranker::LOOKED_AT ? Sorter::page($result, $orderings, Ranker::LOOKED_AT, $left) : [];
        $page += $ranker->scoresOf($more);

        return [array_keys($page), $page];
    }

    /**
     * The best documents in a new order, by what asked words that stand together add.
     *
     * @param  list<int>  $documents
     * @return array<int, int> document => score
     */
    private function closer(array $documents, Ranker $ranker): array
    {
        $scores = $ranker->scoresOf($documents);
        foreach ($ranker->closer($documents) as $document => $addition) {
            $scores[$document] += $addition;
        }
        // Equals stay as they are.
        arsort($scores);

        return $scores;
    }

    /** @return list<Ordering> */
    private function orderings(SortKey $key, DocumentSet $result, Ranker $ranker): array
    {
        $descending = $key->descending();
        if ($key->index === self::RELEVANCE) {
            return [$ranker->fewEnough($result->count()) ? new ScoreOrdering($ranker) : new SliceOrdering($ranker->scores($result), true)];
        }
        $name = $key->index === 'dc.title' ? 'title' : $key->index;
        if (in_array($name, self::NAMES, true)) {
            return [
                ...array_map(
                    fn (string $level): Ordering => new SliceOrdering($this->reader->slices($level), $descending),
                    NameCode::levels($name),
                ),
                new NameOrdering($this->names, $name, $descending),
            ];
        }
        $field = $this->schema->field($key->index);
        if ($field->code === 'ref') {
            return [new AgeOrdering($descending)];
        }

        return [
            $field->kind->isOrdered()
                ? new SliceOrdering($descending ? $this->reader->highest($field->code) : $this->reader->slices($field->code), $descending)
                : new ValueOrdering($this->reader, $field, $descending),
        ];
    }
}
