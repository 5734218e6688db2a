<?php

declare(strict_types=1);

namespace App\Find;

use App\Catalog\Catalog;
use App\Copies\Families;
use App\Models\User;
use Brenvic\Core\Copies\Once;
use Brenvic\Core\Design\DesignKind;
use Brenvic\Core\Design\ViewAdvice;
use Brenvic\Core\Facets\FacetRequest;
use Brenvic\Core\Fields\Cover;
use Brenvic\Core\Fields\FieldDefinition;
use Brenvic\Core\Index\DocumentSet;
use Brenvic\Core\Query\BooleanNode;
use Brenvic\Core\Query\Node;
use Brenvic\Core\Query\PrefixNode;
use Brenvic\Core\Query\SearchClause;
use Brenvic\Core\Query\SyntaxError;
use Brenvic\Core\Search\Asking\KeptSearch;
use Brenvic\Core\Search\Asking\SearchError;
use Brenvic\Core\Search\Asking\SearchRequest;
use Brenvic\Core\Search\Asking\SearchSchema;
use Brenvic\Core\Search\Completion;
use Brenvic\Core\Search\Values\Grouping;
use Brenvic\Core\Themes\FoundThemes;
use Brenvic\Core\Themes\ThemeFinder;
use Fiber;
use Illuminate\Support\Facades\DB;

/** Searches for a person. What it gives are values, which are put into the shape of the API elsewhere. */
final readonly class Finder
{
    public function __construct(
        private Searching $searching,
        private Catalog $catalog,
        private Rows $rows,
        private Families $families,
    ) {
    }

    public function find(User $user, FindRequest $request): FoundAnswer
    {
        $found = $facets = null;
        foreach ($this->parts($user, $request) as $part) {
            if ($part instanceof Found) {
                $found = $part;
            } else {
                $facets = $part;
            }
        }
        if ($found === null || $facets === null) {
            throw new \LogicException('A search ended before it was answered.');
        }

        return new FoundAnswer($found, $facets);
    }

    /**
     * The same in two parts, each as soon as it is known: what was found, and the facets.
     *
     * @return \Generator<int, Found|FoundFacets>
     */
    public function parts(User $user, FindRequest $request): \Generator
    {
        // Both of one state of the index: the reading waits while a part is taken.
        $reading = new Fiber(fn () => $this->searching->snapshot(fn () => $this->answer($user, $request, Fiber::suspend(...))));
        for ($part = $reading->start(); ! $reading->isTerminated(); $part = $reading->resume()) {
            yield $part;
        }
    }

    /** @param  callable(Found|FoundFacets): mixed  $give */
    private function answer(User $user, FindRequest $request, callable $give): void
    {
        $since = hrtime(true);
        $took = static fn (): float => round((hrtime(true) - $since) / 1e6, 1);
        $schema = $this->searching->schema($user, $request->where, $request->as);
        $asker = $this->searching->asker($user, $request->as);
        $ledger = $request->criteria->ledger();
        $searcher = $this->searching->searcher($schema);
        $answer = $searcher->search(
            $asker,
            new SearchRequest(
                $ledger,
                $request->sort,
                self::facets($request, $schema),
                $request->offset,
                $request->limit,
                $request->explain,
                $this->once($request->as ?? $user, $request->once),
                $request->below,
            ),
        );
        $found = array_replace(array_fill_keys($answer->documents, null), array_intersect_key($answer->scores, array_flip($answer->documents)));
        $rows = array_values($this->rows->of($request->as ?? $user, $found, $schema, $request, $searcher->sight($asker), $answer->behind));
        $same = $request->allFacets ? $this->rows->same($rows, $request, $schema, $answer) : [];
        $give(new Found($request, $schema, $ledger, $answer, $rows, $took(), $same, $searcher->count($asker, 'text_state', 'pending')));
        $counts = $answer->facets();
        $give(new FoundFacets($schema, $counts, $took(), $answer->steps()));
    }

    /** @return list<FacetRequest> the facets that are counted: never those of covered fields */
    private static function facets(FindRequest $request, SearchSchema $schema): array
    {
        return $request->allFacets
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
    }

    /** All documents that a kept search finds, for work on every one of them. */
    public function documents(User $user, KeptSearch $search): DocumentSet
    {
        $node = $search->read($this->catalog->schema($user))->ledger()->tree();

        return $this->searching->snapshot(
            fn (): DocumentSet => $this->searching
                ->searcher($this->searching->schema($user, $search->where))
                ->documents($this->searching->asker($user), $node, $this->once($user, $search->once)),
        );
    }

    private function once(User $user, bool $isAsked): ?Once
    {
        return $isAsked ? $this->families->once($user) : null;
    }

    /**
     * Whether a search that somebody else made tells a person of what they do not know: by a name in it, by a field that is
     * not theirs, or by a view that they are not offered.
     */
    public function betrays(User $user, KeptSearch $search): bool
    {
        if ($this->catalog->known($user) === null) {
            return false;
        }
        if ($this->isBetrayedByNames($user, $search)) {
            return true;
        }
        try {
            $this->documents($user, $search);
        } catch (SearchError|SyntaxError) {
            return true;
        }

        return false;
    }

    /** The same by the names in it alone, of which many are looked at: that a value cannot be is not seen. */
    public function isBetrayedByNames(User $user, KeptSearch $search): bool
    {
        $known = $this->catalog->known($user);
        if ($known === null) {
            return false;
        }
        $isShared = $this->catalog->design()->part(DesignKind::View, $search->view) !== null;
        if ($isShared && ! isset($this->catalog->viewsFor($user)[$search->view])) {
            return true;
        }
        try {
            $schema = $this->catalog->schema($user);
            // Lines that are switched off are read as well.
            foreach ($search->read($this->catalog->fullSchema())->ledger()->lines as $line) {
                if ($known->isBetrayedBy($line->node, $this->catalog->systemFields()) || ! self::isKnown($line->node, $schema)) {
                    return true;
                }
            }
        } catch (SearchError|SyntaxError) {
            return true;
        }

        return false;
    }

    private static function isKnown(Node $node, SearchSchema $schema): bool
    {
        return match (true) {
            $node instanceof BooleanNode => self::isKnown($node->left, $schema) && self::isKnown($node->right, $schema),
            $node instanceof PrefixNode => self::isKnown($node->inner, $schema),
            default => ! $node instanceof SearchClause || $node->index === SearchClause::EVERYTHING || $schema->isIndex($node->index),
        };
    }

    /**
     * What is attached to a document and may be seen, as rows of a search; and the near copies that it stands for.
     *
     * @return list<array{row: Row, is_found: bool, is_copy: bool}> whether the search finds it too
     */
    public function attached(User $user, FindRequest $request, int $parent): array
    {
        return $this->searching->snapshot(function () use ($user, $request, $parent): array {
            $schema = $this->searching->schema($user, $request->where, $request->as);
            $asker = $this->searching->asker($user, $request->as);
            $searcher = $this->searching->searcher($schema);
            $sight = $searcher->sight($asker);
            $found = $searcher->documents($asker, $request->criteria->ledger()->tree());
            $ids = DB::table('documents')
                ->where('parent_id', $parent)
                ->whereNull('deleted_at')
                ->orderBy('id')
                ->pluck('id')
                ->map(intval(...))
                ->filter($sight->has(...))
                ->all();
            $copies = $this->once($request->as ?? $user, $request->once)?->copies($parent, $found) ?? [];
            $listed = array_fill_keys([...$ids, ...$copies], null);
            $rows = $this->rows->of($request->as ?? $user, $listed, $schema, $request, $sight);

            return array_map(
                static fn (Row $row, int $id): array => [
                    'row' => $row,
                    'is_found' => $found->has($id),
                    'is_copy' => in_array($id, $copies, true),
                ],
                $rows,
                array_keys($rows),
            );
        });
    }

    /**
     * One level of a view: the documents of a search divided by a field.
     *
     * @param  string|null  $below  the value of a tree or date that is opened
     * @param  string|null  $summed  a number field to sum up
     */
    public function groups(User $user, FindRequest $request, string $level, ?string $below, ?string $summed): FoundGroups
    {
        return $this->searching->snapshot(function () use ($user, $request, $level, $below, $summed): FoundGroups {
            $schema = $this->searching->schema($user, $request->where, $request->as);
            $documents = $this->searching
                ->searcher($schema)
                ->documents(
                    $this->searching->asker($user, $request->as),
                    $request->criteria->ledger()->tree(),
                    $this->once($request->as ?? $user, $request->once),
                );
            $total = $summed === null ? null : $schema->field($summed);
            foreach (Cover::hidden(array_filter([$schema->field($level), $total])) as $covered) {
                throw new SearchError(
                    "{$covered->label} is sensitive: its values are revealed one at a time, so documents are not grouped or summed by it.",
                );
            }
            $grouping = new Grouping($this->searching->reader($schema), $total);

            return new FoundGroups($grouping->of($documents, $schema->field($level), $below), $total);
        });
    }

    /** What a search found is about. */
    public function themes(User $user, FindRequest $request): FoundThemes
    {
        return $this->searching->snapshot(function () use ($user, $request): FoundThemes {
            $schema = $this->searching->schema($user, $request->where, $request->as);
            $asker = $this->searching->asker($user, $request->as);
            $searcher = $this->searching->searcher($schema);
            $once = $this->once($request->as ?? $user, $request->once);
            $documents = $searcher->documents($asker, $request->criteria->ledger()->tree(), $once);
            $sight = $searcher->sight($asker);
            $beside = array_column($schema->beside, 'field');
            $fields = array_filter(
                Cover::open($schema->fields),
                static fn (FieldDefinition $field): bool => $field->faceted && ! in_array($field->code, $beside, true),
            );

            return (new ThemeFinder($this->searching->reader($schema), $schema))->of($documents, $once?->of($sight) ?? $sight, $fields);
        });
    }

    /** What the documents a criterion finds say about columns and levels. */
    public function advice(User $user, Node $node): FoundAdvice
    {
        return $this->searching->snapshot(function () use ($user, $node): FoundAdvice {
            $schema = $this->searching->schema($user);
            $documents = $this->searching->searcher($schema)->documents($this->searching->asker($user), $node);

            return new FoundAdvice($documents->count(), (new ViewAdvice($this->searching->reader($schema)))->of($documents, $schema->fields));
        });
    }

    /**
     * What a query line may be going to say.
     *
     * @return array{
     *     from: int,
     *     fields: list<FieldDefinition>,
     *     values: list<array{field: FieldDefinition, value: string, label: string, count: int, cql: string}>
     * } `from` is where what is completed begins, in bytes
     */
    public function complete(User $user, string $typed): array
    {
        return $this->searching->snapshot(function () use ($user, $typed): array {
            $schema = $this->searching->schema($user);
            $sight = $this->searching->searcher($schema)->sight($this->searching->asker($user));

            return (new Completion($this->searching->reader($schema), $schema, $sight))->of($typed);
        });
    }
}
