<?php

declare(strict_types=1);

namespace Brenvic\Core\Search\Answer;

use Brenvic\Core\Facets\FacetCounter;
use Brenvic\Core\Fields\FieldDefinition;
use Brenvic\Core\Index\DocumentSet;
use Brenvic\Core\Index\IndexReader;
use Brenvic\Core\Query\Ledger;
use Brenvic\Core\Query\Node;
use Brenvic\Core\Query\SearchClause;
use Brenvic\Core\Search\Asking\Criterion;
use Brenvic\Core\Search\Asking\Reach;
use Brenvic\Core\Search\Asking\SearchSchema;
use Brenvic\Core\Search\Values\ValueTest;

/**
 * For a search that finds nothing: small changes of one line that find something. A range is widened as far as the
 * nearest document, words reach further, a library or repository is exchanged for another.
 */
final readonly class NearMisses
{
    private const PLACES = ['library', 'repository'];

    private const MOST_PLACES = 3;

    public function __construct(private IndexReader $reader, private SearchSchema $schema, private DocumentSet $visible)
    {
    }

    /** @return list<NearMiss> by line */
    public function of(Ledger $ledger, Conjunction $chain): array
    {
        $misses = [];
        foreach ($ledger->lines as $i => $line) {
            if (! $line->on || $line->negated) {
                continue;
            }
            $rest = $chain->without([$i]);
            if (! $rest->isEmpty()) {
                $misses = [...$misses, ...$this->ofLine($i, $line->node, $rest)];
            }
        }

        return $misses;
    }

    /** @return list<NearMiss> */
    private function ofLine(int $line, Node $node, DocumentSet $rest): array
    {
        $place = Criterion::alternatives($node)[0]->index ?? null;
        if (in_array($place, self::PLACES, true) && isset($this->schema->fields[$place])) {
            return $this->otherPlaces($line, $this->schema->fields[$place], $rest);
        }
        if (! ($node instanceof SearchClause) || $node->term === '') {
            return [];
        }
        $target = $this->schema->resolve($node->index);
        $field = $target->fields[0] ?? null;
        if ($target->parts === [] && $field !== null && $field->kind->isOrdered()) {
            return $this->widerRange($line, $node, $field, $rest);
        }

        return $node->relation === '==' ? [] : $this->furtherReach($line, $node, $rest);
    }

    /** @return list<NearMiss> */
    private function otherPlaces(int $line, FieldDefinition $field, DocumentSet $rest): array
    {
        $terms = $this->reader->valueTerms($field->code);
        $counts = [];
        foreach ((new FacetCounter($this->reader))->byNumber($field->code, $rest) as $number => $count) {
            $counts[$terms[$number]] = $count;
        }
        ksort($counts);
        arsort($counts);
        $misses = [];
        foreach (array_slice($counts, 0, self::MOST_PLACES, true) as $value => $count) {
            $misses[] = new NearMiss(
                NearMissKind::OtherPlace,
                $line,
                new SearchClause($field->code, '==', Criterion::escaped((string) $value)),
                $count,
            );
        }

        return $misses;
    }

    /** @return list<NearMiss> */
    private function furtherReach(int $line, SearchClause $node, DocumentSet $rest): array
    {
        foreach (Reach::further(Reach::of($node)) as $reach) {
            $wider = $reach->applied($node);
            $count = (new Evaluator($this->reader, $this->schema, $this->visible))->evaluate($wider)->and($rest)->count();
            if ($count > 0) {
                return [new NearMiss(NearMissKind::Variant, $line, $wider, $count)];
            }
        }

        return [];
    }

    /** @return list<NearMiss> the range made to reach the nearest value before it, and the nearest behind it */
    private function widerRange(int $line, SearchClause $node, FieldDefinition $field, DocumentSet $rest): array
    {
        if (in_array($node->relation, ['any', 'all'], true)) {
            // Several values are no range that could be made wider.
            return [];
        }
        $slices = $this->reader->slices($field->code);
        [$low, $high] = (new ValueTest($this->schema))->reach($field, $node->relation, $node->term);
        $misses = [];
        foreach (
            [[null, $low === null ? null : $low - 1, true], [$high === null ? null : $high + 1, null, false]] as [$from, $to, $before]
        ) {
            $side = $from === null && $to === null ? DocumentSet::none() : $slices->between($from, $to)->and($rest);
            if ($side->isEmpty()) {
                continue;
            }
            $nearest = $slices->extreme($side, $before);
            $wider = $before ? [$nearest, $high] : [$low, $nearest];
            $count = $slices->between($wider[0], $wider[1])->and($rest)->count();
            $misses[] = new NearMiss(NearMissKind::WiderRange, $line, self::range($field, $wider[0], $wider[1]), $count);
        }

        return $misses;
    }

    private static function range(FieldDefinition $field, ?int $low, ?int $high): SearchClause
    {
        $written = $field->kind->ofOrdinal(...);

        return match (true) {
            $low === null => new SearchClause($field->code, '<=', $written($high ?? 0)),
            $high === null => new SearchClause($field->code, '>=', $written($low)),
            default => new SearchClause($field->code, 'within', $written($low).' '.$written($high)),
        };
    }
}
