<?php

declare(strict_types=1);

namespace App\Reports;

use App\Catalog\Catalog;
use App\Find\Searching;
use App\Models\User;
use Brenvic\Core\Design\SheetEntry;
use Brenvic\Core\Design\TypePart;
use Brenvic\Core\Facets\FacetCounter;
use Brenvic\Core\Fields\Cover;
use Brenvic\Core\Fields\FieldDefinition;
use Brenvic\Core\Index\DocumentSet;
use Brenvic\Core\Query\BooleanNode;
use Brenvic\Core\Query\BooleanOperator;
use Brenvic\Core\Query\LedgerLine;
use Brenvic\Core\Query\Node;
use Brenvic\Core\Query\SearchClause;
use Brenvic\Core\Search\Asking\Criterion;
use Brenvic\Core\Search\Asking\SearchSchema;

/**
 * How well documents are indexed, of those that a person may see. Each number is that of a search, so that it opens in Find as the
 * documents it is about.
 */
final readonly class Quality
{
    /** No paper of the office is older. */
    private const EARLIEST = '1500';

    public function __construct(private Searching $searching, private Catalog $catalog)
    {
    }

    /**
     * @param  string|null  $library  code, to narrow it
     * @param  string|null  $type  code
     * @return array{documents: int, findings: list<Finding>} the most first within their groups
     */
    public function of(User $user, ?string $library, ?string $type): array
    {
        return $this->searching->snapshot(function () use ($user, $library, $type): array {
            $schema = $this->searching->schema($user);
            $searcher = $this->searching->searcher($schema);
            $asker = $this->searching->asker($user);
            $only = array_values(array_filter([
                $library === null ? null : self::is('library', $library),
                $type === null ? null : self::is('type', $type),
            ]));
            $all = $only === [] ? $searcher->sight($asker) : $searcher->documents($asker, BooleanNode::join(BooleanOperator::And, $only) ?? $only[0]);
            $findings = [];
            foreach ($this->asked($user, $schema, $type) as [$group, $words, $node]) {
                $count = $searcher->documents($asker, $node)->countCommon($all);
                $count > 0 && ($findings[] = new Finding($group, $words, $count, self::cql([...$only, $node])));
            }
            array_push($findings, ...$this->outside($user, $schema, $all, $only));
            usort($findings, static fn (Finding $a, Finding $b): int => strcmp($a->group, $b->group) ?: $b->documents <=> $a->documents);

            return ['documents' => $all->count(), 'findings' => $findings];
        });
    }

    /** @return list<array{string, string, Node}> group, words, and what finds it */
    private function asked(User $user, SearchSchema $schema, ?string $type): array
    {
        $asked = [];
        $known = array_keys($schema->fields['type']->vocabulary->terms ?? []);
        foreach ($this->catalog->design()->parts(TypePart::class) as $part) {
            if (! in_array($part->code, $known, true) || ($type !== null && $type !== $part->code)) {
                continue;
            }
            foreach (array_filter($part->fields, static fn (SheetEntry $entry): bool => $entry->isRequired) as $entry) {
                $field = $schema->fields[$entry->code] ?? null;
                if ($field !== null) {
                    $node = new BooleanNode(BooleanOperator::And, self::is('type', $part->code), new SearchClause($entry->code, '==', ''));
                    $asked[] = ['1 Required values missing', "{$part->name} without {$field->label}", $node];
                }
            }
        }
        $fields = array_intersect_key($this->catalog->fieldsFor($user), $schema->fields);
        $today = $this->catalog->calendar()->today->format('Y-m-d');
        foreach (array_filter($fields, static fn (FieldDefinition $field): bool => $field->kind->isDate()) as $code => $field) {
            if ($field->dublinCore === 'date') {
                $asked[] = ['3 Dates that cannot be', "{$field->label} in the future", new SearchClause($code, '>', $today)];
            }
            $asked[] = ['3 Dates that cannot be', "{$field->label} before ".self::EARLIEST, new SearchClause($code, '<', self::EARLIEST)];
        }
        $schemes = array_filter($fields, static fn (FieldDefinition $field): bool => $field->isTree());
        $none = BooleanNode::join(
            BooleanOperator::And,
            array_map(static fn (string $code): Node => new SearchClause($code, '==', ''), array_map(strval(...), array_keys($schemes))),
        );
        if ($none !== null) {
            $asked[] = ['4 Not classified', 'in no scheme', $none];
        }

        return [
            ...$asked,
            ['4 Not classified', 'without a document type', new SearchClause('type', '==', '')],
            ['5 Titles and texts', 'called as their file', self::is('titled_by_file', '1')],
            ['5 Titles and texts', 'without a text', self::is('text_state', 'none')],
            ['5 Titles and texts', 'with a text that waits to be read', self::is('text_state', 'pending')],
            ['6 Retention', 'without the date that their period counts from', self::is('retention', 'no_date')],
            ['6 Retention', 'that no rule covers', self::is('retention', 'no_rule')],
        ];
    }

    /**
     * Values that are in no vocabulary (any more).
     *
     * @param  list<Node>  $only
     * @return list<Finding>
     */
    private function outside(User $user, SearchSchema $schema, DocumentSet $all, array $only): array
    {
        $reader = $this->searching->reader($schema);
        $reader->refresh();
        $counter = new FacetCounter($reader);
        $findings = [];
        foreach (Cover::open(array_intersect_key($schema->fields, $this->catalog->fieldsFor($user))) as $code => $field) {
            if ($field->vocabulary === null || ! $field->faceted) {
                continue;
            }
            $unknown = array_diff($reader->valueTerms((string) $code), array_map(strval(...), array_keys($field->vocabulary->terms)));
            $counts = $unknown === [] ? [] : array_intersect_key($counter->byNumber((string) $code, $all), $unknown);
            foreach ($counts as $number => $documents) {
                $node = new SearchClause((string) $code, '==', Criterion::escaped($unknown[$number]));
                $findings[] = new Finding('2 Values outside their vocabulary', "{$field->label} “{$unknown[$number]}”", $documents, self::cql([...$only, $node]));
            }
        }

        return $findings;
    }

    private static function is(string $field, string $value): SearchClause
    {
        return new SearchClause($field, '==', Criterion::escaped($value));
    }

    /** @param  list<Node>  $nodes */
    private static function cql(array $nodes): string
    {
        return implode(' and ', array_map(static fn (Node $node): string => '('.(new LedgerLine($node))->cql().')', $nodes));
    }
}
