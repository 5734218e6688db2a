<?php

declare(strict_types=1);

namespace App\Oversight;

use App\Catalog\Catalog;
use App\Find\Searching;
use App\Models\User;
use Brenvic\Core\Facets\FacetCounter;
use Brenvic\Core\Fields\PartialDate;
use Brenvic\Core\Fields\Vocabulary;
use Brenvic\Core\Index\DocumentSet;
use Brenvic\Core\Index\IndexReader;
use Brenvic\Core\Query\BooleanNode;
use Brenvic\Core\Query\BooleanOperator;
use Brenvic\Core\Query\Node;
use Brenvic\Core\Query\SearchClause;
use Brenvic\Core\Retention\KeepingState;
use Brenvic\Core\Retention\Quarter;
use Brenvic\Core\Retention\RetentionAction;
use Brenvic\Core\Search\Asking\Criterion;
use Brenvic\Core\Search\Asking\SearchSchema;

/**
 * What falls due when: the documents that a person may see, by quarter and by what is to be done. All of it is counted from the
 * index, as the facets of a search are.
 */
final readonly class DueList
{
    /** Quarters that are told one by one; what is due later is one line. */
    private const QUARTERS = 8;

    private const ACTIONS = [RetentionAction::Review, RetentionAction::Destroy, RetentionAction::HandOver];

    public function __construct(private Searching $searching, private Catalog $catalog)
    {
    }

    /**
     * @param  array{library?: string|null, rule?: string|null}  $only  that the list is narrowed to
     * @return array<string, mixed>
     */
    public function of(User $user, array $only): array
    {
        return $this->searching->snapshot(function () use ($user, $only): array {
            $schema = $this->searching->schema($user);
            $searcher = $this->searching->searcher($schema);
            $asker = $this->searching->asker($user);
            $reader = $this->searching->reader($schema);
            $reader->refresh();
            $counter = new FacetCounter($reader);
            $sight = $searcher->sight($asker);
            $within = $this->narrowed($only);
            $all = $within === null ? $sight : $searcher->documents($asker, $within);
            $byValue = static fn (string $field, DocumentSet $set): array => self::byValue($reader, $counter, $field, $set);
            $months = [];
            foreach (self::ACTIONS as $action) {
                $of = $searcher->documents($asker, self::is('retention_action', $action->value))->and($all);
                $months[$action->value] = array_filter(
                    $byValue('retention_due', $of),
                    static fn (string $term): bool => strlen($term) === 7,
                    ARRAY_FILTER_USE_KEY,
                );
            }
            $states = $byValue('retention', $all);

            return [
                'today' => $this->catalog->calendar()->today->format('Y-m-d'),
                'periods' => self::periods($this->quarter(), $months),
                'states' => array_map(
                    static fn (KeepingState $state): array => [
                        'state' => $state->value,
                        'label' => $state->label(),
                        'documents' => $states[$state->value] ?? 0,
                    ],
                    KeepingState::cases(),
                ),
                'libraries' => self::labelled($schema, 'library', $byValue('library', $all)),
                'rules' => self::labelled($schema, 'retention_rule', $byValue('retention_rule', $all)),
            ];
        });
    }

    /**
     * What is due in one period: by library and by rule.
     *
     * @param  array{library?: string|null, rule?: string|null}  $only
     * @param  string|null  $from  a day; null for all that was due before
     * @return array<string, mixed>
     */
    public function period(User $user, ?string $from, ?string $until, RetentionAction $action, array $only): array
    {
        return $this->searching->snapshot(function () use ($user, $from, $until, $action, $only): array {
            $schema = $this->searching->schema($user);
            $searcher = $this->searching->searcher($schema);
            $reader = $this->searching->reader($schema);
            $reader->refresh();
            $counter = new FacetCounter($reader);
            $nodes = array_values(array_filter([
                $this->narrowed($only),
                self::is('retention_action', $action->value),
                $from === null ? null : new SearchClause('retention_due', '>=', $from),
                $until === null ? null : new SearchClause('retention_due', '<=', $until),
            ]));
            $set = $searcher->documents($this->searching->asker($user), BooleanNode::join(BooleanOperator::And, $nodes) ?? $nodes[0]);
            $labelled = static fn (string $field): array => self::labelled($schema, $field, self::byValue($reader, $counter, $field, $set));

            return ['documents' => $set->count(), 'libraries' => $labelled('library'), 'rules' => $labelled('retention_rule')];
        });
    }

    /** @return array<string, int> how many documents of a set have each value of a field */
    private static function byValue(IndexReader $reader, FacetCounter $counter, string $field, DocumentSet $set): array
    {
        $terms = $reader->valueTerms($field);
        $counts = [];
        foreach ($counter->byNumber($field, $set) as $number => $count) {
            $counts[$terms[$number]] = $count;
        }

        return $counts;
    }

    private function quarter(): Quarter
    {
        return Quarter::with($this->catalog->calendar()->today);
    }

    /** @param  array{library?: string|null, rule?: string|null}  $only */
    private function narrowed(array $only): ?Node
    {
        $nodes = [];
        foreach (['library' => $only['library'] ?? null, 'retention_rule' => $only['rule'] ?? null] as $field => $value) {
            if ($value !== null) {
                $nodes[] = self::is($field, $value);
            }
        }

        return BooleanNode::join(BooleanOperator::And, $nodes);
    }

    /**
     * @param  array<string, array<string, int>>  $months  action => month => documents
     * @return list<array<string, mixed>>
     */
    private static function periods(Quarter $quarter, array $months): array
    {
        $iso = static fn (int $day): string => PartialDate::ofDay($day)->iso();
        $sum = static fn (string $action, ?string $from, ?string $until): int => array_sum(
            array_filter(
                $months[$action],
                static fn (string $month): bool => ($from === null || $month >= $from) && ($until === null || $month <= $until),
                ARRAY_FILTER_USE_KEY,
            ),
        );
        $row = static function (string $code, string $words, ?string $from, ?string $until) use ($sum): array {
            $counts = [];
            foreach (self::ACTIONS as $action) {
                $counts[$action->value] = $sum($action->value, $from === null ? null : substr($from, 0, 7), $until === null ? null : substr($until, 0, 7));
            }

            return ['code' => $code, 'words' => $words, 'from' => $from, 'until' => $until, 'counts' => $counts];
        };
        $periods = [$row('before', 'Before this quarter', null, $iso($quarter->firstDay - 1))];
        for ($i = 0; $i < self::QUARTERS; $i++) {
            $periods[] = $row($quarter->code(), $quarter->words(), $iso($quarter->firstDay), $iso($quarter->lastDay));
            $quarter = $quarter->next();
        }
        $periods[] = $row('later', 'Later', $iso($quarter->firstDay), null);

        return $periods;
    }

    /**
     * @param  array<string, int>  $counts
     * @return list<array{code: string, label: string, documents: int}> what the person may know of, the most first
     */
    private static function labelled(SearchSchema $schema, string $field, array $counts): array
    {
        $vocabulary = $schema->fields[$field]->vocabulary ?? new Vocabulary($field, []);
        arsort($counts);
        $rows = [];
        foreach ($counts as $code => $documents) {
            if (isset($vocabulary->terms[$code])) {
                $rows[] = ['code' => (string) $code, 'label' => $vocabulary->label((string) $code), 'documents' => $documents];
            }
        }

        return $rows;
    }

    private static function is(string $field, string $value): SearchClause
    {
        return new SearchClause($field, '==', Criterion::escaped($value));
    }
}
