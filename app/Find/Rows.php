<?php

declare(strict_types=1);

namespace App\Find;

use App\Catalog\Catalog;
use App\Index\RedactedTexts;
use App\Index\SqliteStore;
use App\Models\Library;
use App\Models\User;
use App\Redaction\Redactions;
use Brenvic\Core\Fields\ColumnFormat;
use Brenvic\Core\Fields\Cover;
use Brenvic\Core\Index\DocumentSet;
use Brenvic\Core\Index\IndexReader;
use Brenvic\Core\Index\Part;
use Brenvic\Core\Pages\HitFinder;
use Brenvic\Core\Pages\Snippet;
use Brenvic\Core\Query\Ledger;
use Brenvic\Core\Search\Answer\SearchAnswer;
use Brenvic\Core\Search\Asking\SearchSchema;
use Brenvic\Core\Search\Filing\KeepingEntries;
use Illuminate\Support\Facades\DB;

/** Reads for a page of results what its rows show: a fixed number of queries, however many rows there are. */
final readonly class Rows
{
    /** In so many rows of one page a snippet tells nothing more, and so many others are looked at in its place. */
    private const ALIKE = 3;

    private const TRIES = 4;

    /** Fields of which the tables have no value for each document. */
    private const FROM_INDEX = [
        'procedure',
        'procedure_step',
        'procedure_decision',
        'waits_for',
        'step_since',
        'ocr_confidence',
        ...KeepingEntries::FIELDS,
    ];

    public function __construct(private Catalog $catalog, private Redactions $redactions, private SqliteStore $store)
    {
    }

    /**
     * @param  User  $user  whose eyes the rows are for
     * @param  array<int, int|null>  $found  scores, where there are any, by document
     * @param  array<int, int>  $copies  for how many near copies a document stands
     * @return array<int, Row> by document, in the order given; without those that are gone
     */
    public function of(
        User $user,
        array $found,
        SearchSchema $schema,
        FindRequest $request,
        DocumentSet $sight,
        array $copies = [],
    ): array {
        $ledger = $request->criteria->ledger();
        $ids = array_keys($found);
        $documents = FoundDocument::of($ids);
        $attachments = self::attachments($ids, $sight);
        $values = $this->values($ids, $schema, $request->columns);
        $hits = $request->snippets ? $this->hits($user, $ids, $ledger, $request) : [];
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
        foreach (array_intersect_key($found, $documents) as $id => $score) {
            $document = $documents[$id];
            [$library, $repository] = $libraries[$document->library] ?? ['', ''];
            $type = $types[$document->type] ?? '';
            $comment = $places?->comment($id);
            $rows[$id] = new Row(
                $document,
                $titles->pieces($document->title),
                $library,
                $repository,
                $type,
                $attachments[$id] ?? 0,
                $document->parent === null ? null : $parents[$document->parent] ?? null,
                $places?->of($id, $document, $values[$id] ?? []) ?? [],
                $score,
                self::cells($request, $document, ['library' => $library, 'repository' => $repository, 'type' => $type], $values[$id] ?? [], $schema),
                $values[$id] ?? [],
                $hits[$id] ?? ($comment === null ? null : new FirstHit($comment->pieces)),
                $copies[$id] ?? 0,
            );
        }

        return $rows;
    }

    /**
     * @param  list<int>  $ids
     * @return array<int, int> how many attachments there are that are in sight, by document
     */
    private static function attachments(array $ids, DocumentSet $sight): array
    {
        $counts = [];
        foreach (
            DB::table('documents')
                ->whereIntegerInRaw('parent_id', $ids)
                ->whereNull('deleted_at')
                ->get(['id', 'parent_id']) as $attachment
        ) {
            $parent = (int) $attachment->parent_id;
            $counts[$parent] = ($counts[$parent] ?? 0) + ($sight->has((int) $attachment->id) ? 1 : 0);
        }

        return $counts;
    }

    /**
     * @param  list<int>  $ids
     * @param  list<string>  $columns
     * @return array<int, array<string, list<string>>> document => field code => normal forms
     */
    private function values(array $ids, SearchSchema $schema, array $columns): array
    {
        $values = [];
        $rows = DB::table('effective_values')->whereIntegerInRaw('document_id', $ids)->orderBy('position')->get();
        foreach ($rows as $row) {
            $field = $this->catalog->fieldOfId((int) $row->field_id);
            if ($field !== null && isset($schema->fields[$field->code])) {
                $values[(int) $row->document_id][$field->code][] = (string) $row->value;
            }
        }
        foreach ($schema->beside === [] ? [] : ListedDocuments::of($ids, $schema) as $id => $lists) {
            $values[$id][ListedDocuments::FIELD] = $lists;
        }

        foreach ($schema->beside === [] ? [] : HeldDocuments::of($ids, $schema) as $id => $holds) {
            $values[$id][HeldDocuments::FIELD] = $holds;
        }
        foreach ($this->fromIndex(array_values(array_intersect($columns, self::FROM_INDEX)), $ids, $schema) as $id => $of) {
            $values[$id] = ($values[$id] ?? []) + $of;
        }

        return $values;
    }

    /**
     * What Brenvic fills in itself and only the index holds ready, as far as the person may know of it.
     *
     * @param  list<string>  $codes
     * @param  list<int>  $ids
     * @return array<int, array<string, list<string>>> document => field code => normal forms
     */
    private function fromIndex(array $codes, array $ids, SearchSchema $schema): array
    {
        $shown = [];
        foreach ($codes === [] ? [] : (new IndexReader($this->store))->entriesOf($codes, $ids) as $id => $entries) {
            foreach ($entries as $code => [$values, $ordinals]) {
                $field = $schema->fields[$code];
                if ($field->kind->isOrdered()) {
                    $values = array_map($field->kind->ofOrdinal(...), $ordinals);
                } elseif ($field->vocabulary !== null) {
                    $values = array_filter($values, static fn (string $value): bool => isset($field->vocabulary->terms[$value]));
                }
                $shown[$id][$code] = array_values($values);
            }
        }

        return $shown;
    }

    /**
     * @param  array<string, string>  $names  of the places and the type of the document
     * @param  array<string, list<string>>  $values  normal forms
     * @return array<string, string> by field code
     */
    private static function cells(FindRequest $request, FoundDocument $document, array $names, array $values, SearchSchema $schema): array
    {
        // The columns that are no fields, or that a document has of its own.
        $own = [
            ...$names,
            'ref' => $document->ref,
            'title' => $document->title,
            'file_name' => $document->fileName,
            'path' => $document->path,
            'creator' => $document->creator,
        ];
        $cells = [];
        foreach ($request->columns as $code) {
            $cells[$code] = $own[$code] ?? self::cell($code, $document, $values, $schema, $request->formats[$code] ?? new ColumnFormat());
        }

        return $cells;
    }

    /**
     * The columns in which all that was found say the same: they tell nothing row by row. Where the rows are only the first of
     * more, the index decides, for fields of which a document has one value and that are no trees.
     *
     * @param  list<Row>  $rows  the first rows
     * @return array<string, string> what they say, by field code
     */
    public function same(array $rows, FindRequest $request, SearchSchema $schema, SearchAnswer $answer): array
    {
        $same = [];
        foreach ($request->offset === 0 && count($rows) > 1 ? $request->columns : [] as $code) {
            $text = $rows[0]->cells[$code] ?? '';
            $field = $schema->fields[$code] ?? null;
            if ($text === '' || Cover::hides($field) || array_filter($rows, static fn (Row $row): bool => $row->cells[$code] !== $text) !== []) {
                continue;
            }
            $isWhole = count($rows) === $answer->total;
            $isOne = $field !== null && ! $field->multiple && ! $field->isTree() && ! $field->kind->isOrdered();
            if ($isWhole || ($isOne && $answer->allHave($code, $this->normal($code, $rows[0])))) {
                $same[$code] = $text;
            }
        }

        return $same;
    }

    /** The value of a document in a field of which it has one. */
    private function normal(string $code, Row $row): string
    {
        $library = $this->catalog->libraries()->get($row->document->library);

        return match ($code) {
            'library' => (string) $library?->code,
            'repository' => (string) $library?->repository->code,
            'type' => (string) $this->catalog->types()->firstWhere('id', $row->document->type)?->code,
            'file_type' => $row->document->fileKind,
            'text_state' => $row->document->textState,
            'text_language' => $row->document->language,
            'attached' => $row->document->parent === null ? '0' : '1',
            default => $row->values[$code][0] ?? '',
        };
    }

    /** @param  array<string, list<string>>  $values  normal forms */
    private static function cell(string $code, FoundDocument $document, array $values, SearchSchema $schema, ColumnFormat $format): string
    {
        $field = $schema->fields[$code] ?? null;

        return match ($code) {
            'file_type' => $field?->display($document->fileKind) ?? '',
            'text_state' => $field?->display($document->textState) ?? '',
            'text_language' => $document->language === '' ? '' : $field?->display($document->language) ?? '',
            'attached' => $field?->display($document->parent === null ? '0' : '1') ?? '',
            'created' => $document->filedAt === null ? '' : $field?->display(substr($document->filedAt, 0, 10)) ?? '',
            'pages' => $document->pages === 0 ? '' : (string) $document->pages,
            default => $field === null
                ? ''
                : Cover::text($field, $values[$code] ?? [], display: static fn (string $normal): string => $format->shown($field, $normal)),
        };
    }

    /**
     * The first hits in the pages of documents; of those whose redacted copies are shown, in these.
     *
     * @param  list<int>  $ids
     * @return array<int, FirstHit> by document
     */
    private function hits(User $user, array $ids, Ledger $ledger, FindRequest $request): array
    {
        $finder = HitFinder::forText($ledger, true);
        if ($finder->findsNothing()) {
            return [];
        }
        $redactedOnly = RedactedTexts::any() ? array_values(array_intersect($ids, $this->redactions->bound($user))) : [];
        $found = [];
        foreach (RedactedTexts::of($redactedOnly) as $id => $pages) {
            foreach ($pages as $number => $text) {
                $snippet = isset($found[$id]) ? null : Snippet::of($text, $finder);
                if ($snippet !== null) {
                    $found[$id] = new FirstHit($snippet->pieces, $number);
                }
            }
        }
        $texts = [];
        $layers = [DB::table('pages')->select(['document_id', 'number', 'text', DB::raw('NULL AS version')])];
        $isEarlier =
            in_array(Part::Earlier->indexName(), $request->where, true) ||
            count($finder->sequences) > count(HitFinder::forText($ledger)->sequences);
        if ($isEarlier) {
            // The latest of them first.
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
                $snippet = isset($found[$id]) ? null : Snippet::of((string) $page->text, $finder);
                if ($snippet !== null) {
                    $found[$id] = new FirstHit($snippet->pieces, (int) $page->number, $page->version === null ? null : (int) $page->version);
                    $texts[$id] = [(string) $page->text, $snippet];
                }
            }
        }
        foreach (self::telling($texts, $finder) as $id => $snippet) {
            $found[$id] = new FirstHit($snippet->pieces, $found[$id]->page, $found[$id]->version);
        }

        return $found;
    }

    /**
     * For documents whose snippet is the same as that of others, as in a letterhead: a later one that is not.
     *
     * @param  array<int, array{string, Snippet}>  $texts  by document: the page that has the hit, and the snippet
     * @return array<int, Snippet> by document
     */
    private static function telling(array $texts, HitFinder $finder): array
    {
        $counts = array_count_values(array_map(static fn (array $of): string => $of[1]->around(), $texts));
        $better = [];
        foreach ($texts as $id => [$text, $snippet]) {
            $next = $snippet;
            for ($tries = 0; $tries < self::TRIES && $next !== null && ($counts[$next->around()] ?? 0) >= self::ALIKE; $tries++) {
                $next = Snippet::of($text, $finder, $next->after);
            }
            if ($next !== null && $next !== $snippet && ($counts[$next->around()] ?? 0) < self::ALIKE) {
                $better[$id] = $next;
            }
        }

        return $better;
    }
}
