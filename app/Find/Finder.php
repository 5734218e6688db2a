<?php

declare(strict_types=1);

namespace App\Find;

use App\Access\Rights;
use App\Catalog\Catalog;
use App\Index\Names;
use App\Index\RedactedTexts;
use App\Index\SqliteStore;
use App\Models\Library;
use App\Models\User;
use App\Redaction\Redactions;
use Brenvic\Core\Design\DesignKind;
use Brenvic\Core\Design\FieldAdvice;
use Brenvic\Core\Design\ViewAdvice;
use Brenvic\Core\Facets\FacetRange;
use Brenvic\Core\Facets\FacetRequest;
use Brenvic\Core\Facets\FacetValue;
use Brenvic\Core\Fields\ColumnFormat;
use Brenvic\Core\Fields\Cover;
use Brenvic\Core\Fields\FieldDefinition;
use Brenvic\Core\Index\DocumentSet;
use Brenvic\Core\Index\IndexReader;
use Brenvic\Core\Index\Part;
use Brenvic\Core\Pages\HitFinder;
use Brenvic\Core\Pages\Snippet;
use Brenvic\Core\Query\Ledger;
use Brenvic\Core\Query\LedgerLine;
use Brenvic\Core\Query\Node;
use Brenvic\Core\Query\Parser;
use Brenvic\Core\Query\Printer;
use Brenvic\Core\Query\SearchClause;
use Brenvic\Core\Query\SyntaxError;
use Brenvic\Core\Search\Answer\Evaluator;
use Brenvic\Core\Search\Answer\NearMiss;
use Brenvic\Core\Search\Answer\NearMissKind;
use Brenvic\Core\Search\Answer\PlanStep;
use Brenvic\Core\Search\Answer\Rescue;
use Brenvic\Core\Search\Answer\SearchAnswer;
use Brenvic\Core\Search\Asking\Asker;
use Brenvic\Core\Search\Asking\Criteria;
use Brenvic\Core\Search\Asking\Criterion;
use Brenvic\Core\Search\Asking\Reach;
use Brenvic\Core\Search\Asking\SearchError;
use Brenvic\Core\Search\Asking\SearchRequest;
use Brenvic\Core\Search\Asking\SearchSchema;
use Brenvic\Core\Search\Completion;
use Brenvic\Core\Search\Searcher;
use Brenvic\Core\Search\Values\Group;
use Brenvic\Core\Search\Values\Grouping;
use Brenvic\Core\Search\Words\Variants;
use DateTimeImmutable;
use Fiber;
use Illuminate\Support\Facades\DB;

/** Searches for a person and puts what was found into the shape that is shown. */
final readonly class Finder
{
    public function __construct(
        private SqliteStore $store,
        private Catalog $catalog,
        private Rights $rights,
        private Redactions $redactions,
    ) {
    }

    /** @return array<string, mixed> the answer as the API gives it */
    public function find(User $user, FindRequest $request): array
    {
        return array_merge(...iterator_to_array($this->parts($user, $request), false));
    }

    /**
     * The same in two parts, each as soon as it is known: what was found, and the facets.
     *
     * @return \Generator<int, array<string, mixed>>
     */
    public function parts(User $user, FindRequest $request): \Generator
    {
        // Both of one state of the index: the reading waits while a part is taken.
        $reading = new Fiber(fn () => $this->store->snapshot(fn () => $this->answer($user, $request, Fiber::suspend(...))));
        for ($part = $reading->start(); ! $reading->isTerminated(); $part = $reading->resume()) {
            yield $part;
        }
    }

    /**
     * All documents that a kept search finds, for work on every one of them.
     *
     * @param  array<string, mixed>  $search  as SavedSearchInput keeps it
     */
    public function documents(User $user, array $search): DocumentSet
    {
        $node = Criteria::ofSearch($search, $this->catalog->schema($user))->ledger()->tree();

        return $this->store->snapshot(
            fn (): DocumentSet => $this->searcher($this->schema($user, $search['where'] ?? []))->documents(
                $this->rights->asker($user),
                $node,
            ),
        );
    }

    /**
     * Whether a search that somebody else made tells a person of what they do not know: by a name in it, by a field that is
     * not theirs, or by a view that they are not offered.
     *
     * @param  array<string, mixed>  $search  as it is kept
     */
    public function betrays(User $user, array $search): bool
    {
        $known = $this->catalog->known($user);
        if ($known === null) {
            return false;
        }
        $view = (string) ($search['view'] ?? '');
        if (
            $view !== '' &&
            $this->catalog->design()->part(DesignKind::View, $view) !== null &&
            ! isset($this->catalog->viewsFor($user)[$view])
        ) {
            return true;
        }
        try {
            // Lines that are switched off are read as well.
            foreach (Criteria::ofSearch($search, $this->catalog->fullSchema())->ledger()->lines as $line) {
                if ($known->isBetrayedBy($line->node, $this->catalog->systemFields())) {
                    return true;
                }
            }
            $this->documents($user, $search);
        } catch (SearchError|SyntaxError) {
            return true;
        }

        return false;
    }

    /**
     * The libraries and views that a person is offered, with how many documents there are in them that somebody else may
     * see too.
     *
     * @return array{libraries: list<array<string, mixed>>, views: list<array<string, mixed>>}
     */
    public function places(User $asking, User $person): array
    {
        return $this->store->snapshot(function () use ($asking, $person): array {
            $searcher = $this->searcher($this->schema($person));
            $asker = $this->rights->together($asking, $person);
            $count = static fn (string $cql): int => $searcher->documents($asker, Parser::parse($cql)->root)->count();
            $libraries = $views = [];
            foreach (
                $this->catalog->libraries()->only(array_keys($person->libraryRights()))->only(array_keys($asking->libraryRights())) as $library
            ) {
                $libraries[] = [
                    'code' => $library->code,
                    'name' => $library->name,
                    'documents' => $count(Printer::node(new SearchClause('library', '==', $library->code))),
                ];
            }
            $groups = $person->groupNames();
            foreach ($this->catalog->design()->all(DesignKind::View) as $code => $view) {
                try {
                    $documents =
                        ($view['groups'] ?? []) === [] || array_intersect($view['groups'], $groups) !== []
                            ? $count((string) $view['criterion'])
                            : 0;
                } catch (SearchError) {
                    $documents = 0;
                }
                if ($documents > 0) {
                    $views[] = ['code' => (string) $code, 'name' => $view['name'], 'documents' => $documents];
                }
            }

            return ['libraries' => $libraries, 'views' => $views];
        });
    }

    /**
     * Which of some criteria find anything that a person may see.
     *
     * @param  array<string, string>  $criteria  CQL by name
     * @return list<string> names
     */
    public function filled(User $user, array $criteria): array
    {
        return array_map(strval(...), array_keys(array_filter($this->counts($user, $criteria))));
    }

    /**
     * How many documents that a person may see some criteria find. What cannot be searched finds nothing.
     *
     * @param  array<string, string>  $criteria  CQL by name
     * @return array<string, int>
     */
    public function counts(User $user, array $criteria): array
    {
        return $this->store->snapshot(function () use ($user, $criteria): array {
            $searcher = $this->searcher($this->schema($user));
            $asker = $this->rights->asker($user);

            return array_map(static function (string $cql) use ($searcher, $asker): int {
                try {
                    return $searcher->documents($asker, Parser::parse($cql)->root)->count();
                } catch (SearchError) {
                    return 0;
                }
            }, $criteria);
        });
    }

    /**
     * What is attached to a document and may be seen, as rows of a search.
     *
     * @return list<array<string, mixed>> rows, each with whether the search finds it too
     */
    public function attached(User $user, FindRequest $request, int $parent): array
    {
        return $this->store->snapshot(function () use ($user, $request, $parent): array {
            $schema = $this->schema($request->as ?? $user, $request->where);
            $asker = $this->asker($user, $request);
            $searcher = $this->searcher($schema);
            $sight = $searcher->sight($asker);
            $ledger = $request->criteria->ledger();
            $found = $searcher->documents($asker, $ledger->tree());
            $ids = DB::table('documents')
                ->where('parent_id', $parent)
                ->whereNull('deleted_at')
                ->orderBy('id')
                ->pluck('id')
                ->map(intval(...))
                ->filter($sight->has(...))
                ->values()
                ->all();

            return array_map(
                static fn (array $row, int $id): array => [...$row, 'is_found' => $found->has($id)],
                $this->rows($request->as ?? $user, array_fill_keys($ids, null), [$ledger, $schema], $request, $sight),
                $ids,
            );
        });
    }

    /**
     * One level of a view: the documents of a search divided by a field.
     *
     * @param  string|null  $below  the value of a tree or date that is opened
     * @param  string|null  $summed  a number field to sum up
     * @return list<array<string, mixed>>
     */
    public function groups(User $user, FindRequest $request, string $level, ?string $below, ?string $summed): array
    {
        return $this->store->snapshot(function () use ($user, $request, $level, $below, $summed): array {
            $schema = $this->schema($request->as ?? $user, $request->where);
            $documents = $this->searcher($schema)->documents($this->asker($user, $request), $request->criteria->ledger()->tree());
            $total = $summed === null ? null : $schema->field($summed);
            foreach (Cover::hidden(array_filter([$schema->field($level), $total])) as $covered) {
                throw new SearchError(
                    "{$covered->label} is sensitive: its values are revealed one at a time, so documents are not grouped or summed by it.",
                );
            }

            return array_map(
                static fn (Group $group): array => [
                    'label' => $group->label,
                    'cql' => Printer::node($group->node),
                    'count' => $group->count,
                    'deeper' => $group->deeper,
                    'total' => $group->total === null || $total === null
                            ? null
                            : [
                                'sum' => $total->kind->isDate() ? '' : $total->display($group->total['sum']),
                                'range' => $total->displayRange($group->total['lowest'], $group->total['highest']),
                            ],
                ],
                (new Grouping(new IndexReader($this->store), $total))->of($documents, $schema->field($level), $below),
            );
        });
    }

    /**
     * What the documents a criterion finds say about columns and levels.
     *
     * @return array{documents: int, fields: list<array<string, mixed>>, dividing: list<string>}
     */
    public function advice(User $user, Node $node): array
    {
        return $this->store->snapshot(function () use ($user, $node): array {
            $schema = $this->schema($user);
            $documents = $this->searcher($schema)->documents($this->rights->asker($user), $node);
            $count = $documents->count();
            $advice = (new ViewAdvice(new IndexReader($this->store)))->of($documents, $schema->fields);

            return [
                'documents' => $count,
                'fields' => array_map(
                    static fn (FieldAdvice $a): array => [
                        'field' => $a->field,
                        'filled' => $a->filled,
                        'distinct' => $a->distinct,
                        'bits' => round($a->bits, 2),
                        'only' => $a->only,
                        'mostly_empty' => ViewAdvice::isMostlyEmpty($a, $count),
                    ],
                    $advice,
                ),
                'dividing' => array_map(static fn (FieldAdvice $a): string => $a->field, ViewAdvice::dividing($advice, $count)),
            ];
        });
    }

    /** @param  callable(array<string, mixed>): mixed  $give */
    private function answer(User $user, FindRequest $request, callable $give): void
    {
        $since = hrtime(true);
        $schema = $this->schema($request->as ?? $user, $request->where);
        $asker = $this->asker($user, $request);
        $ledger = $request->criteria->ledger();
        $facets = $request->allFacets
            ? array_map(
                static fn (FieldDefinition $field): FacetRequest => $request->facets[$field->code] ?? new FacetRequest($field->code),
                array_values(array_filter(Cover::open($schema->fields), static fn (FieldDefinition $field): bool => $field->faceted)),
            )
            : array_values(
                array_filter(
                    $request->facets,
                    static fn (FacetRequest $facet): bool => ! Cover::hides($schema->fields[$facet->field] ?? null),
                ),
            );
        $reader = new IndexReader($this->store);
        $searcher = new Searcher($reader, $schema, new Names());
        $answer = $searcher->search(
            $asker,
            new SearchRequest($ledger, $request->sort, $facets, $request->offset, $request->limit, $request->explain),
        );
        $sight = $searcher->sight($asker);
        $evaluate = static fn (Node $node): int => (new Evaluator($reader, $schema, $sight))->evaluate($node)->count();
        $typed = $request->criteria->typedLines();
        $lines = [];
        foreach ($ledger->lines as $i => $line) {
            $count = $answer->lines[$i];
            $lines[] = [
                ...Criterion::describe($line->node, $schema),
                'cql' => $line->cql(),
                'negated' => $line->negated,
                'on' => $line->on,
                'alone' => $count->alone,
                'running' => $count->running,
                'without' => $count->without,
                ...$this->group($line->node, $schema, $evaluate),
                // A line of the query line is changed by changing what is typed there.
                'typed' => $i < $typed,
                'words_without' => $i < $typed ? $request->criteria->wordsWithout($i) : null,
                ...$this->reach($line->node, $count->variants, $schema),
            ];
        }
        $found = array_replace(array_fill_keys($answer->documents, null), array_intersect_key($answer->scores, array_flip($answer->documents)));
        $rows = $this->rows($request->as ?? $user, $found, [$ledger, $schema], $request, $sight);
        $took = static fn (): float => round((hrtime(true) - $since) / 1e6, 1);
        $give([
            'total' => $answer->total,
            'visible' => $answer->visible,
            'took_ms' => $took(),
            ...$request->explain
                ? [
                    'plan' => array_map(
                        static fn (PlanStep $step): array => [
                            'depth' => $step->depth,
                            'what' => $step->what,
                            'documents' => $step->documents,
                            'ms' => round($step->milliseconds, 3),
                        ],
                        $answer->plan,
                    ),
                ]
                : [],
            'cql' => Printer::node($ledger->tree()),
            'words' => $request->criteria->words,
            'criteria' => $request->criteria->toArray(),
            'ledger' => $lines,
            'rescues' => array_map(static fn (Rescue $r): array => ['lines' => $r->lines, 'count' => $r->count], $answer->rescues),
            'near_misses' => array_map(
                static fn (NearMiss $miss): array => [
                    'kind' => $miss->kind->value,
                    'line' => $miss->line,
                    'cql' => Printer::node($miss->node),
                    'count' => $miss->count,
                    ...Criterion::describe($miss->node, $schema),
                    'reach' => $miss->node instanceof SearchClause && $miss->kind === NearMissKind::Variant
                            ? Reach::of($miss->node)->words()
                            : null,
                ],
                $answer->nearMisses,
            ),
            'offset' => $request->offset,
            'rows' => $rows,
        ]);
        $facets = self::facets($answer, $schema);
        $give(['facets' => $facets, 'took_ms' => $took(), 'steps' => $answer->steps()]);
    }

    /** @return list<array<string, mixed>> */
    private static function facets(SearchAnswer $answer, SearchSchema $schema): array
    {
        $facets = [];
        foreach ($answer->facets() as $code => $counts) {
            $field = $schema->fields[$code];
            $facets[] = [
                'field' => $code,
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
                        'standing_out' => $v->standingOut === null ? null : ['ratio' => round($v->standingOut->ratio, 1), 'all' => $v->standingOut->all],
                    ],
                    $counts->values,
                ),
                'ends' => $counts->ranges === []
                        ? null
                        : [$field->display($counts->ranges[0]->from), $field->display($counts->ranges[count($counts->ranges) - 1]->until)],
                'ranges' => array_map(
                    static fn (FacetRange $range): array => [
                        'label' => $field->displayRange($range->from, $range->until),
                        'from' => $range->from,
                        'to' => $range->to,
                        'cql' => (new LedgerLine(new SearchClause($code, 'within', "{$range->from} {$range->to}")))->cql(),
                        'count' => $range->count,
                    ],
                    $counts->ranges,
                ),
            ];
        }

        return $facets;
    }

    /**
     * What a group of criteria is made of, each part with its own count.
     *
     * @param  \Closure(Node): int  $evaluate
     * @return array{how: string|null, parts: list<array<string, mixed>>}
     */
    private function group(Node $node, SearchSchema $schema, \Closure $evaluate): array
    {
        $how = Criterion::togetherness($node);

        return [
            'how' => $how,
            'parts' => $how === null
                    ? []
                    : array_map(
                        fn (array $part): array => [
                            ...Criterion::describe($part['node'], $schema),
                            'cql' => (new LedgerLine($part['node']))->cql(),
                            'negated' => $part['negated'],
                            'alone' => $evaluate($part['node']),
                            ...$this->group($part['node'], $schema, $evaluate),
                        ],
                        Criterion::parts($node),
                    ),
        ];
    }

    /** @return array<string, mixed> what a query line may be going to say */
    public function complete(User $user, string $typed): array
    {
        return $this->store->snapshot(function () use ($user, $typed): array {
            $schema = $this->schema($user);
            $reader = new IndexReader($this->store);
            $found = (new Completion(
                $reader,
                $schema,
                (new Searcher($reader, $schema, new Names()))->sight($this->rights->asker($user)),
            ))->of($typed);

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
        });
    }

    /**
     * How far the words of a criterion reach, the choices there are, and each word it was widened to, each with the
     * criterion that changes it.
     *
     * @param  list<Variants>  $variants
     * @return array{reach: string|null, reaches: list<array{value: string, label: string, cql: string}>, variants: list<array<string, mixed>>}
     */
    private function reach(Node $node, array $variants, SearchSchema $schema): array
    {
        if (
            ! ($node instanceof SearchClause) ||
            ($schema->parts($node->index) === null && ! ($schema->fields[$node->index] ?? null)?->kind->hasWords()) ||
            $node->index === SearchClause::EVERYTHING ||
            $node->relation === '=='
        ) {
            return ['reach' => null, 'reaches' => [], 'variants' => []];
        }
        $shown = [];
        foreach ($variants as $of) {
            $shown[] = [
                'of' => $of->of,
                'suggested' => $of->suggested,
                'all' => $of->all,
                'words' => array_map(
                    static fn (array $word): array => [
                        ...$word,
                        'cql' => Printer::node(
                            $of->suggested
                                ? new SearchClause(
                                    $node->index,
                                    $node->relation,
                                    str_ireplace($of->of, $word['word'], $node->term),
                                    $node->modifiers,
                                )
                                : Reach::toggled($node, $word['word']),
                        ),
                    ],
                    $of->words,
                ),
            ];
        }

        return [
            'reach' => Reach::of($node)->value,
            'reaches' => array_map(
                static fn (Reach $r): array => ['value' => $r->value, 'label' => $r->words(), 'cql' => Printer::node($r->applied($node))],
                Reach::cases(),
            ),
            'variants' => $shown,
        ];
    }

    private function asker(User $user, FindRequest $request): Asker
    {
        return $request->as === null ? $this->rights->asker($user) : $this->rights->together($user, $request->as);
    }

    private function searcher(SearchSchema $schema): Searcher
    {
        return new Searcher(new IndexReader($this->store), $schema, new Names());
    }

    /** @param  list<string>  $where */
    private function schema(User $user, array $where = []): SearchSchema
    {
        return $this->catalog->schema($user)->lookingIn($where, RedactedTexts::any() && $this->redactions->bound($user) === []);
    }

    /**
     * @param  array<int, int|null>  $found  scores, where there are any, by document
     * @param  array{Ledger, SearchSchema}  $asked
     * @return list<array<string, mixed>>
     */
    private function rows(User $user, array $found, array $asked, FindRequest $request, DocumentSet $sight): array
    {
        [$ledger, $schema] = $asked;
        [$ids, $scores] = [array_keys($found), $found];
        $documents = FoundDocument::of($ids);
        $attachments = [];
        foreach (
            DB::table('documents')
                ->whereIntegerInRaw('parent_id', $ids)
                ->whereNull('deleted_at')
                ->get(['id', 'parent_id']) as $attachment
        ) {
            $attachments[(int) $attachment->parent_id] =
                ($attachments[(int) $attachment->parent_id] ?? 0) + ($sight->has((int) $attachment->id) ? 1 : 0);
        }
        $values = $this->values($ids, $schema);
        $finder = HitFinder::forText($ledger, true);
        $isEarlier =
            in_array(Part::Earlier->indexName(), $request->where, true) ||
            count($finder->sequences) > count(HitFinder::forText($ledger)->sequences);
        $texts =
            ! $request->snippets || $finder->findsNothing()
                ? []
                : $this->firstHits(
                    $ids,
                    $finder,
                    $isEarlier,
                    RedactedTexts::any() ? array_values(array_intersect($ids, $this->redactions->bound($user))) : [],
                );
        $titles = HitFinder::forPart($ledger, Part::Names, $schema->everywhere);
        $places = $request->snippets ? new FoundPlaces($ledger, $schema, $ids) : null;
        $above = array_values(
            array_filter(
                array_map(static fn (FoundDocument $d): ?int => $d->parent, $documents),
                static fn (?int $id): bool => $id !== null && $sight->has($id),
            ),
        );
        $parents = FoundDocument::of($above);
        $libraries = $this->catalog->libraries()->map(static fn (Library $l): array => [$l->name, $l->repository->name])->all();
        $types = $this->catalog->types()->pluck('name', 'id')->all();
        $rows = [];
        foreach ($ids as $id) {
            $document = $documents[$id] ?? null;
            if ($document === null) {
                continue;
            }
            [$library, $repository] = $libraries[$document->library] ?? ['', ''];
            $type = $types[$document->type] ?? '';
            $parent = $parents[$document->parent] ?? null;
            // The columns that are no fields, or that a document has of its own.
            $own = [
                'ref' => $document->ref,
                'title' => $document->title,
                'file_name' => $document->fileName,
                'path' => $document->path,
                'library' => $library,
                'repository' => $repository,
                'type' => $type,
                'creator' => $document->creator,
            ];
            $cells = [];
            foreach ($request->columns as $code) {
                $cells[$code] =
                    $own[$code] ??
                    self::cell($code, $document, $values[$id] ?? [], $schema, $request->formats[$code] ?? new ColumnFormat());
            }
            $rows[] = [
                'ref' => $document->ref,
                'title' => $document->title,
                'title_pieces' => $titles->pieces($document->title),
                'library' => $library,
                'repository' => $repository,
                'type' => $type,
                'file_name' => $document->fileName,
                'file_kind' => $document->fileKind,
                'text_state' => $document->textState,
                'text_reason' => $document->textReason,
                'attachments' => $attachments[$id] ?? 0,
                'parent' => $parent === null ? null : ['ref' => $parent->ref, 'title' => $parent->title],
                'found' => $places?->of($id, $document, $values[$id] ?? []) ?? [],
                'score' => $scores[$id] ?? null,
                'cells' => $cells,
                ...$request->normals ? ['normals' => $values[$id] ?? []] : [],
                'snippet' => isset($texts[$id]) ? $texts[$id][1]->pieces : $places?->comment($id)?->pieces,
                'snippet_page' => $texts[$id][0] ?? null,
                'snippet_comment' => ! isset($texts[$id]) && $places?->comment($id) !== null,
                'snippet_version' => $texts[$id][2] ?? null,
            ];
        }

        return $rows;
    }

    /**
     * @param  list<int>  $ids
     * @return array<int, array<string, list<string>>> document => field code => normal forms
     */
    private function values(array $ids, SearchSchema $schema): array
    {
        $values = [];
        $rows = DB::table('effective_values')->whereIntegerInRaw('document_id', $ids)->orderBy('position')->get();
        foreach ($rows as $row) {
            $field = $this->catalog->fieldOfId((int) $row->field_id);
            if ($field !== null && isset($schema->fields[$field->code])) {
                $values[(int) $row->document_id][$field->code][] = (string) $row->value;
            }
        }

        return $values;
    }

    /** @param  array<string, list<string>>  $values  normal forms */
    private static function cell(string $code, FoundDocument $document, array $values, SearchSchema $schema, ColumnFormat $format): string
    {
        $field = $schema->fields[$code] ?? null;

        return match ($code) {
            'file_type' => $field?->display($document->fileKind) ?? '',
            'text_state' => $field?->display($document->textState) ?? '',
            'attached' => $field?->display($document->parent === null ? '0' : '1') ?? '',
            'created' => $document->filedAt === null ? '' : (new DateTimeImmutable($document->filedAt))->format('j M Y'),
            'pages' => $document->pages === 0 ? '' : (string) $document->pages,
            default => $field === null
                ? ''
                : Cover::text($field, $values[$code] ?? [], display: static fn (string $normal): string => $format->shown($field, $normal)),
        };
    }

    /**
     * @param  list<int>  $ids
     * @param  list<int>  $redactedOnly  those of them whose redacted copies are shown
     * @param  bool  $earlier  in earlier versions too, the latest first
     * @return array<int, array{int, Snippet, int|null}> document => page number, snippet, and which version when it is not the present one
     */
    private function firstHits(array $ids, HitFinder $finder, bool $earlier, array $redactedOnly): array
    {
        $found = [];
        foreach (RedactedTexts::of($redactedOnly) as $id => $pages) {
            foreach ($pages as $number => $text) {
                $snippet = isset($found[$id]) ? null : Snippet::of($text, $finder);
                if ($snippet !== null) {
                    $found[$id] = [$number, $snippet, null];
                }
            }
        }
        $layers = [DB::table('pages')->select(['document_id', 'number', 'text', DB::raw('NULL AS version')])];
        if ($earlier) {
            $layers[] = DB::table('version_pages')
                ->orderByDesc('version')
                ->select(['document_id', 'number', 'text', 'version']);
        }
        foreach ($layers as $pages) {
            foreach (
                $pages
                    ->whereIntegerInRaw('document_id', array_diff($ids, array_keys($found), $redactedOnly))
                    ->orderBy('document_id')
                    ->orderBy('number')
                    ->cursor() as $page
            ) {
                $id = (int) $page->document_id;
                if (! isset($found[$id])) {
                    $snippet = Snippet::of((string) $page->text, $finder);
                    if ($snippet !== null) {
                        $found[$id] = [(int) $page->number, $snippet, $page->version === null ? null : (int) $page->version];
                    }
                }
            }
        }

        return $found;
    }
}
