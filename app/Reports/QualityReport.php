<?php

declare(strict_types=1);

namespace App\Reports;

use App\Catalog\Catalog;
use App\Find\Searching;
use App\Models\User;
use Brenvic\Core\Classification\LikelyDoubles;
use Brenvic\Core\Design\SheetEntry;
use Brenvic\Core\Design\TypePart;
use Brenvic\Core\Facets\FacetCounter;
use Brenvic\Core\Fields\Cover;
use Brenvic\Core\Fields\FieldDefinition;
use Brenvic\Core\Fields\VocabularyTerm;
use Brenvic\Core\Index\DocumentSet;
use Brenvic\Core\Query\BooleanNode;
use Brenvic\Core\Query\BooleanOperator;
use Brenvic\Core\Query\LedgerLine;
use Brenvic\Core\Query\Node;
use Brenvic\Core\Query\SearchClause;
use Brenvic\Core\Reports\Column;
use Brenvic\Core\Reports\Measure;
use Brenvic\Core\Reports\Plot;
use Brenvic\Core\Reports\ReportRow;
use Brenvic\Core\Reports\ReportTable;
use Brenvic\Core\Search\Asking\Criterion;
use Brenvic\Core\Search\Asking\SearchSchema;

/**
 * How well documents are indexed, of those that a person may see. Each number is that of a search, so that it opens in Find as the
 * documents it is about.
 */
final readonly class QualityReport implements Report
{
    /** No paper of the office is older. */
    private const EARLIEST = '1500';

    /** Of what OCR is less sure, in per cent, many words are wrong. */
    private const SURE = '70';

    /** Pairs of terms of one field that are told. */
    private const PAIRS = 100;

    public function __construct(private Searching $searching, private Catalog $catalog)
    {
    }

    public function code(): string
    {
        return 'quality';
    }

    public function name(): string
    {
        return 'Indexing quality';
    }

    public function hasPeriod(): bool
    {
        return false;
    }

    public function narrowedBy(): array
    {
        return ['library', 'type'];
    }

    public function tables(User $user, Asked $asked): array
    {
        return $this->searching->snapshot(function () use ($user, $asked): array {
            $schema = $this->searching->schema($user);
            $searcher = $this->searching->searcher($schema);
            $asker = $this->searching->asker($user);
            $only = array_values(array_filter([
                $asked->library === null ? null : self::is('library', $asked->library),
                $asked->type === null ? null : self::is('type', $asked->type),
            ]));
            $all = $only === [] ? $searcher->sight($asker) : $searcher->documents($asker, BooleanNode::join(BooleanOperator::And, $only) ?? $only[0]);
            $found = [];
            foreach ([...$this->asked($user, $schema, $asked->type), ...$this->doubles($user, $schema)] as [$group, $words, $node]) {
                $found[] = [$group, $words, $searcher->documents($asker, $node)->countCommon($all), $node];
            }
            $found = array_filter([...$found, ...$this->outside($user, $schema, $all)], static fn (array $of): bool => $of[2] > 0);
            usort($found, static fn (array $a, array $b): int => strcmp($a[0], $b[0]) ?: $b[2] <=> $a[2]);
            $of = $all->count();

            return [
                new ReportTable(
                    'Findings',
                    "Of {$of} ".($of === 1 ? 'document' : 'documents').' that you may see.',
                    [Column::text('Concerns'), Column::text('Finding'), new Column('Documents'), new Column('Share', Measure::Percent)],
                    array_map(
                        static fn (array $of): ReportRow => ReportRow::finds(
                            [substr($of[0], 2), $of[1], $of[2], round(100 * $of[2] / max(1, $all->count()), 1)],
                            self::cql([...$only, $of[3]]),
                        ),
                        $found,
                    ),
                    new Plot(Plot::BARS, 1, [2]),
                ),
            ];
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
            ['5 Titles and texts', 'with a text that OCR is not sure of (less than '.self::SURE.' %)', new SearchClause('ocr_confidence', '<', self::SURE)],
            ['6 Retention', 'without the date that their period counts from', self::is('retention', 'no_date')],
            ['6 Retention', 'that no rule covers', self::is('retention', 'no_rule')],
        ];
    }

    /**
     * Terms of one vocabulary that probably mean the same, where documents have them.
     *
     * @return list<array{string, string, Node}> as `asked` gives them
     */
    private function doubles(User $user, SearchSchema $schema): array
    {
        $asked = [];
        foreach (Cover::open(array_intersect_key($schema->fields, $this->catalog->fieldsFor($user))) as $code => $field) {
            $terms = array_filter($field->vocabulary->terms ?? [], static fn (VocabularyTerm $term): bool => ! $term->retired);
            $named = array_map(static fn (VocabularyTerm $term): array => ['code' => $term->code, 'names' => [$term->label, ...$term->synonyms]], $terms);
            foreach (array_slice(LikelyDoubles::of($named), 0, self::PAIRS) as ['a' => $a, 'b' => $b, 'why' => $why]) {
                $words = "{$field->label}: “{$terms[$a]->label}” and “{$terms[$b]->label}” {$why}";
                $node = new BooleanNode(
                    BooleanOperator::Or,
                    new SearchClause((string) $code, '==', Criterion::escaped($a)),
                    new SearchClause((string) $code, '==', Criterion::escaped($b)),
                );
                $asked[] = ['2 Values and vocabularies', $words, $node];
            }
        }

        return $asked;
    }

    /**
     * Values that are in no vocabulary (any more).
     *
     * @return list<array{string, string, int, Node}> as `asked` gives them, with the number of documents
     */
    private function outside(User $user, SearchSchema $schema, DocumentSet $all): array
    {
        $reader = $this->searching->reader($schema);
        $reader->refresh();
        $counter = new FacetCounter($reader);
        $found = [];
        foreach (Cover::open(array_intersect_key($schema->fields, $this->catalog->fieldsFor($user))) as $code => $field) {
            if ($field->vocabulary === null || ! $field->faceted) {
                continue;
            }
            $unknown = array_diff($reader->valueTerms((string) $code), array_map(strval(...), array_keys($field->vocabulary->terms)));
            $counts = $unknown === [] ? [] : array_intersect_key($counter->byNumber((string) $code, $all), $unknown);
            foreach ($counts as $number => $documents) {
                $node = new SearchClause((string) $code, '==', Criterion::escaped($unknown[$number]));
                $found[] = ['2 Values and vocabularies', "{$field->label} “{$unknown[$number]}” is in no vocabulary", $documents, $node];
            }
        }

        return $found;
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
