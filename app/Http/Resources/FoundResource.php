<?php

declare(strict_types=1);

namespace App\Http\Resources;

use App\Find\Cursor;
use App\Find\Found;
use App\Find\FoundAdvice;
use App\Find\FoundAnswer;
use App\Find\FoundFacets;
use App\Find\FoundGroups;
use App\Find\Row;
use Brenvic\Core\Design\FieldAdvice;
use Brenvic\Core\Design\ViewAdvice;
use Brenvic\Core\Facets\FacetCounts;
use Brenvic\Core\Facets\FacetRange;
use Brenvic\Core\Facets\FacetValue;
use Brenvic\Core\Fields\FieldDefinition;
use Brenvic\Core\Query\LedgerLine;
use Brenvic\Core\Query\Node;
use Brenvic\Core\Query\Printer;
use Brenvic\Core\Query\SearchClause;
use Brenvic\Core\Search\Answer\LineCount;
use Brenvic\Core\Search\Answer\NearMiss;
use Brenvic\Core\Search\Answer\NearMissKind;
use Brenvic\Core\Search\Answer\PartCount;
use Brenvic\Core\Search\Answer\PlanStep;
use Brenvic\Core\Search\Answer\Rescue;
use Brenvic\Core\Search\Asking\AskedFor;
use Brenvic\Core\Search\Asking\Criterion;
use Brenvic\Core\Search\Asking\Reach;
use Brenvic\Core\Search\Asking\SearchSchema;
use Brenvic\Core\Search\Values\Group;
use Brenvic\Core\Search\Words\Variants;
use Brenvic\Core\Themes\Feature;
use Brenvic\Core\Themes\FoundThemes;
use Brenvic\Core\Themes\StandingWord;
use Brenvic\Core\Themes\Theme;

/** Puts what was found into the shape of the API. */
final class FoundResource
{
    /** @return array<string, mixed> */
    public static function of(FoundAnswer $answer): array
    {
        return [...self::part($answer->found), ...self::part($answer->facets)];
    }

    /** @return array<string, mixed> one of the parts in which an answer is given to those who take it so */
    public static function part(Found|FoundFacets $part): array
    {
        return $part instanceof Found ? self::found($part) : self::facets($part);
    }

    /** @return array<string, mixed> */
    private static function found(Found $found): array
    {
        $answer = $found->answer;

        return [
            'total' => $answer->total,
            ...$answer->all === null ? [] : ['with_copies' => $answer->all],
            'visible' => $answer->visible,
            'took_ms' => $found->took,
            ...$found->request->explain ? ['plan' => array_map(self::step(...), $answer->plan)] : [],
            'cql' => Printer::node($found->ledger->tree()),
            'words' => $found->request->criteria->words,
            'criteria' => $found->request->criteria->toArray(),
            'ledger' => self::ledger($found),
            'rescues' => array_map(static fn (Rescue $r): array => ['lines' => $r->lines, 'count' => $r->count], $answer->rescues),
            'near_misses' => array_map(
                static fn (NearMiss $miss): array => [
                    'kind' => $miss->kind->value,
                    'line' => $miss->line,
                    'cql' => Printer::node($miss->node),
                    'count' => $miss->count,
                    ...Criterion::describe($miss->node, $found->schema),
                    'reach' => $miss->node instanceof SearchClause && $miss->kind === NearMissKind::Variant
                            ? Reach::of($miss->node)->words()
                            : null,
                ],
                $answer->nearMisses,
            ),
            'same' => (object) $found->same,
            'unread' => $found->unread,
            'offset' => $found->request->offset,
            ...$found->request->below === null ? [] : ['cursor' => Cursor::behind($answer->documents, $found->request->limit)],
            'rows' => array_map(self::row(...), $found->rows),
        ];
    }

    /** @return array<string, mixed> */
    private static function facets(FoundFacets $facets): array
    {
        $shape = [];
        foreach ($facets->counts as $code => $counts) {
            $shape[] = self::facet($facets->schema->fields[$code], $counts);
        }

        return ['facets' => $shape, 'took_ms' => $facets->took, 'steps' => $facets->steps];
    }

    /** @return array<string, mixed> */
    private static function step(PlanStep $step): array
    {
        return [
            'depth' => $step->depth,
            'what' => $step->what,
            'documents' => $step->documents,
            'ms' => round($step->milliseconds, 3),
        ];
    }

    /** @return list<array<string, mixed>> */
    private static function ledger(Found $found): array
    {
        $typed = $found->request->criteria->typedLines();

        return array_map(
            static fn (LedgerLine $line, LineCount $count, int $i): array => [
                ...Criterion::describe($line->node, $found->schema, $line->negated),
                'asked' => self::form($line->node, $found->schema),
                'cql' => $line->cql(),
                'negated' => $line->negated,
                'on' => $line->on,
                'origin' => $line->origin,
                'alone' => $count->alone,
                'running' => $count->running,
                'without' => $count->without,
                'how' => Criterion::togetherness($line->node),
                'parts' => self::parts($count->parts, $found->schema),
                // A line of the query line is changed by changing what is typed there.
                'typed' => $i < $typed,
                'words_before' => $i < $typed ? $found->request->criteria->wordsBefore($i) : null,
                'words_without' => $i < $typed ? $found->request->criteria->wordsWithout($i) : null,
                ...self::reach($line, $count->variants, $found->schema),
            ],
            $found->ledger->lines,
            $found->answer->lines,
            array_keys($found->ledger->lines),
        );
    }

    /** @return array{of: string, relation: string, values: list<string>}|null the criterion as a form asks for it; null when none does */
    private static function form(Node $node, SearchSchema $schema): ?array
    {
        $form = AskedFor::from($node, $schema);

        return $form === null ? null : ['of' => $form->of, 'relation' => $form->relation, 'values' => $form->values];
    }

    /**
     * @param  list<PartCount>  $parts
     * @return list<array<string, mixed>>
     */
    private static function parts(array $parts, SearchSchema $schema): array
    {
        return array_map(
            static fn (PartCount $part): array => [
                ...Criterion::describe($part->node, $schema, $part->negated),
                'cql' => (new LedgerLine($part->node))->cql(),
                'negated' => $part->negated,
                'alone' => $part->alone,
                'how' => Criterion::togetherness($part->node),
                'parts' => self::parts($part->parts, $schema),
            ],
            $parts,
        );
    }

    /**
     * How far the words of a criterion reach, the choices there are, and each word it was widened to, each with the
     * criterion that changes it.
     *
     * @param  list<Variants>  $variants
     * @return array{reach: string|null, reaches: list<array{value: string, label: string, cql: string}>, variants: list<array<string, mixed>>}
     */
    private static function reach(LedgerLine $line, array $variants, SearchSchema $schema): array
    {
        $node = $line->node;
        if (
            ! ($node instanceof SearchClause) ||
            $node->index === SearchClause::EVERYTHING ||
            ($schema->parts($node->index) === null && ! ($schema->fields[$node->index] ?? null)?->kind->hasWords()) ||
            $node->relation === '=='
        ) {
            return ['reach' => null, 'reaches' => [], 'variants' => []];
        }

        return [
            'reach' => Reach::of($node)->value,
            'reaches' => array_map(
                static fn (Reach $r): array => ['value' => $r->value, 'label' => $r->words(), 'cql' => Printer::node($r->applied($node))],
                Reach::cases(),
            ),
            'variants' => array_map(
                static fn (Variants $of): array => [
                    'of' => $of->of,
                    'suggested' => $of->suggested,
                    'all' => $of->all,
                    'words' => array_map(
                        static fn (array $word): array => [...$word, 'cql' => Printer::node(self::changed($node, $of, $word['word']))],
                        $of->words,
                    ),
                ],
                $variants,
            ),
        ];
    }

    /** The criterion with a suggested word in place of its own, or with a variant switched off or on. */
    private static function changed(SearchClause $node, Variants $of, string $word): SearchClause
    {
        return $of->suggested
            ? new SearchClause($node->index, $node->relation, str_ireplace($of->of, $word, $node->term), $node->modifiers)
            : Reach::toggled($node, $word);
    }

    /** @return array<string, mixed> */
    private static function facet(FieldDefinition $field, FacetCounts $counts): array
    {
        $ranges = $counts->ranges;

        return [
            'field' => $field->code,
            'label' => $field->label,
            'kind' => $field->kind->value,
            'distinct' => $counts->distinct,
            'values' => array_map(
                static fn (FacetValue $v): array => [
                    'value' => $v->value,
                    'label' => $v->label,
                    'parents' => $v->parents,
                    'more' => $v->more,
                    'count' => $v->count,
                    'chosen' => $v->chosen,
                    'excluded' => $v->excluded,
                    'standing_out' => $v->standingOut === null
                            ? null
                            : ['ratio' => round($v->standingOut->ratio, 1), 'all' => $v->standingOut->all],
                ],
                $counts->values,
            ),
            'ends' => $ranges === [] ? null : [$field->display($ranges[0]->from), $field->display($ranges[count($ranges) - 1]->until)],
            'ranges' => array_map(
                static fn (FacetRange $range): array => [
                    'label' => $field->displayRange($range->from, $range->until),
                    'from' => $range->from,
                    'to' => $range->to,
                    'cql' => (new LedgerLine(new SearchClause($field->code, 'within', "{$range->from} {$range->to}")))->cql(),
                    'count' => $range->count,
                ],
                $ranges,
            ),
        ];
    }

    /** @return array<string, mixed> */
    private static function row(Row $row): array
    {
        $document = $row->document;

        return [
            'ref' => $document->ref,
            'title' => $document->title,
            'title_pieces' => $row->titlePieces,
            'library' => $row->library,
            'repository' => $row->repository,
            'type' => $row->type,
            'file_name' => $document->fileName,
            'file_kind' => $document->fileKind,
            'text_state' => $document->textState,
            'text_reason' => $document->textReason,
            ...$row->copies === 0 ? [] : ['copies' => $row->copies],
            'attachments' => $row->attachments,
            'parent' => $row->parent === null ? null : ['ref' => $row->parent->ref, 'title' => $row->parent->title],
            'found' => $row->places,
            'score' => $row->score,
            'cells' => (object) $row->cells,
            'snippet' => $row->hit?->pieces,
            'snippet_page' => $row->hit?->page,
            'snippet_comment' => $row->hit !== null && $row->hit->page === null,
            'snippet_version' => $row->hit?->version,
        ];
    }

    /**
     * @param  list<array{row: Row, is_found: bool, is_copy: bool}>  $rows
     * @return list<array<string, mixed>>
     */
    public static function attached(array $rows): array
    {
        return array_map(
            static fn (array $of): array => [
                ...self::row($of['row']),
                'is_found' => $of['is_found'],
                ...$of['is_copy'] ? ['is_copy' => true] : [],
            ],
            $rows,
        );
    }

    /** @return list<array<string, mixed>> */
    public static function groups(FoundGroups $found): array
    {
        $field = $found->total;

        return array_map(
            static fn (Group $group): array => [
                'label' => $group->label,
                'cql' => Printer::node($group->node),
                'count' => $group->count,
                'deeper' => $group->deeper,
                'total' => $group->total === null || $field === null
                        ? null
                        : [
                            'sum' => ! $field->kind->hasSum() ? '' : $field->display($group->total['sum']),
                            'range' => $field->displayRange($group->total['lowest'], $group->total['highest']),
                        ],
            ],
            $found->groups,
        );
    }

    /** @return array<string, mixed> */
    public static function themes(FoundThemes $found): array
    {
        return [
            'documents' => $found->documents,
            'without_text' => $found->withoutText,
            'others' => $found->others,
            'looked_at' => $found->lookedAt,
            'themes' => array_map(
                static fn (Theme $theme): array => [
                    'names' => array_map(
                        static fn (Feature $of): array => ['label' => $of->label(), 'field' => $of->field?->label],
                        $theme->names,
                    ),
                    'cql' => (new LedgerLine($theme->node))->cql(),
                    'count' => $theme->count,
                ],
                $found->themes,
            ),
            'words' => array_map(
                static fn (StandingWord $of): array => [
                    'word' => $of->word,
                    'cql' => Printer::node(new SearchClause(FoundThemes::WORDS, '=', $of->word)),
                    'count' => $of->count,
                    'all' => $of->standingOut->all,
                    'ratio' => round($of->standingOut->ratio, 1),
                ],
                $found->words,
            ),
        ];
    }

    /** @return array{documents: int, fields: list<array<string, mixed>>, dividing: list<string>} */
    public static function advice(FoundAdvice $found): array
    {
        return [
            'documents' => $found->documents,
            'fields' => array_map(
                static fn (FieldAdvice $a): array => [
                    'field' => $a->field,
                    'filled' => $a->filled,
                    'distinct' => $a->distinct,
                    'bits' => round($a->bits, 2),
                    'only' => $a->only,
                    'mostly_empty' => ViewAdvice::isMostlyEmpty($a, $found->documents),
                ],
                $found->fields,
            ),
            'dividing' => array_map(
                static fn (FieldAdvice $a): string => $a->field,
                ViewAdvice::dividing($found->fields, $found->documents),
            ),
        ];
    }

    /**
     * @param  array{
     *     from: int,
     *     fields: list<FieldDefinition>,
     *     values: list<array{field: FieldDefinition, value: string, label: string, count: int, cql: string}>
     * }  $found  as Finder::complete gives it
     * @return array<string, mixed> `from` in characters
     */
    public static function completion(array $found, string $typed): array
    {
        return [
            'from' => mb_strlen(substr($typed, 0, $found['from'])),
            'fields' => array_map(static fn (FieldDefinition $f): array => ['code' => $f->code, 'label' => $f->label], $found['fields']),
            'values' => array_map(
                static fn (array $v): array => [
                    'field' => $v['field']->code,
                    'field_label' => $v['field']->label,
                    'label' => $v['label'],
                    'count' => $v['count'],
                    'cql' => $v['cql'],
                ],
                $found['values'],
            ),
        ];
    }
}
