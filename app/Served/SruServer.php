<?php

declare(strict_types=1);

namespace App\Served;

use App\Find\Searching;
use App\Models\User;
use Brenvic\Core\Exchange\Records\RecordSchema;
use Brenvic\Core\Exchange\Sru\Serving\Diagnostic;
use Brenvic\Core\Exchange\Sru\Serving\Operation;
use Brenvic\Core\Exchange\Sru\Serving\ServedFacet;
use Brenvic\Core\Exchange\Sru\Serving\ServedIndex;
use Brenvic\Core\Exchange\Sru\Serving\SruQuestion;
use Brenvic\Core\Exchange\Sru\Serving\SruWriter;
use Brenvic\Core\Exchange\Sru\Serving\Version;
use Brenvic\Core\Facets\FacetOrder;
use Brenvic\Core\Facets\FacetRequest;
use Brenvic\Core\Facets\FacetValue;
use Brenvic\Core\Fields\Cover;
use Brenvic\Core\Fields\FieldDefinition;
use Brenvic\Core\Query\BooleanNode;
use Brenvic\Core\Query\BooleanOperator;
use Brenvic\Core\Query\Ledger;
use Brenvic\Core\Query\Node;
use Brenvic\Core\Query\Parser;
use Brenvic\Core\Query\PrefixNode;
use Brenvic\Core\Query\Printer;
use Brenvic\Core\Query\Query;
use Brenvic\Core\Query\SearchClause;
use Brenvic\Core\Query\SyntaxError;
use Brenvic\Core\Search\Answer\SearchAnswer;
use Brenvic\Core\Search\Asking\Criterion;
use Brenvic\Core\Search\Asking\SearchError;
use Brenvic\Core\Search\Asking\SearchRequest;
use Brenvic\Core\Search\Asking\SearchSchema;
use Illuminate\Support\Facades\Cache;

/** Answers SRU: explain, searchRetrieve and scan, each with the sight of the person who asks. */
final readonly class SruServer
{
    /** Seconds that a result set can be asked for again. */
    private const SET_KEPT = 600;

    private const RESULT_SET = 'cql.resultsetid';

    /** Fields that only people who work here have. */
    private const OURS = ['hold', 'pull_list', 'waits_for'];

    public function __construct(private Searching $searching, private ServedRecords $records, private TermScan $scan)
    {
    }

    /**
     * @param  array<array-key, mixed>  $given  the parameters
     * @param  string  $address  of the server
     * @return string XML
     */
    public function answer(User $user, array $given, string $address): string
    {
        try {
            $question = SruQuestion::read($given);
            $schema = $this->searching->schema($user);

            return match ($question->operation) {
                Operation::Explain => $this->explain($question, $schema, $address),
                Operation::SearchRetrieve => $this->search($user, $question, $schema, $address),
                Operation::Scan => SruWriter::scan($question, $this->scan->of($user, $question, $schema)),
            };
        } catch (Diagnostic $fault) {
            return self::fault($given, $fault);
        } catch (SyntaxError $fault) {
            return self::fault($given, new Diagnostic(Diagnostic::SYNTAX, $fault->getMessage()));
        } catch (SearchError $fault) {
            return self::fault($given, new Diagnostic($fault->fault->value, $fault->getMessage()));
        }
    }

    /** @param  array<array-key, mixed>  $given */
    public static function fault(array $given, Diagnostic $fault): string
    {
        return SruWriter::fault(SruQuestion::versionOf($given), SruQuestion::operationOf($given), $fault);
    }

    private function explain(SruQuestion $question, SearchSchema $schema, string $address): string
    {
        $indexes = [
            new ServedIndex('Anywhere', 'cql', 'anywhere', false),
            new ServedIndex('What the server chooses', 'cql', 'serverChoice', false),
            new ServedIndex('All records', 'cql', 'allRecords', false),
            new ServedIndex('An earlier result', 'cql', 'resultSetId', false),
        ];
        foreach (SearchSchema::DUBLIN_CORE as $element) {
            if ($schema->isIndex("dc.{$element}")) {
                $indexes[] = new ServedIndex(ucfirst($element), 'dc', $element, true, in_array($element, ['title', 'date'], true));
            }
        }
        foreach (['title' => 'Title', 'text' => 'Text', 'values' => 'Index values'] as $name => $title) {
            $indexes[] = new ServedIndex($title, 'brenvic', $name, true, $name === 'title');
        }
        foreach (array_diff_key(Cover::open($schema->fields), array_flip(self::OURS)) as $code => $field) {
            $indexes[] = new ServedIndex($field->label, 'brenvic', (string) $code, $field->faceted || $field->kind->hasWords(), true);
        }

        return SruWriter::explain(
            $question->version,
            $address,
            (string) config('brenvic.organisation'),
            'Documents of '.config('brenvic.organisation').', kept with Brenvic.',
            $indexes,
        );
    }

    private function search(User $user, SruQuestion $question, SearchSchema $schema, string $address): string
    {
        $form = $question->schema === '' ? RecordSchema::DublinCore : RecordSchema::named($question->schema);
        $form ?? throw new Diagnostic(Diagnostic::SCHEMA, $question->schema);
        $query = Parser::parse($question->query);
        $node = self::opened($user, $query->root);
        $sort = $question->sort ?? $query->sortKeys;
        foreach ($sort as $key) {
            $schema->isIndex($key->index) || throw new Diagnostic(Diagnostic::SORT_KEY, $key->index);
        }
        $facets = $question->version === Version::V20 ? self::facets($question, $schema) : [];
        $asked = new SearchRequest(Ledger::of($node), $sort, array_values($facets), $question->start - 1, $question->most);

        return $this->searching->snapshot(function () use (
            $user,
            $question,
            $schema,
            $address,
            $form,
            $node,
            $sort,
            $facets,
            $asked,
        ): string {
            $answer = $this->searching->searcher($schema)->search($this->searching->asker($user), $asked);
            if ($question->start > 1 && $question->start > $answer->total) {
                throw new Diagnostic(Diagnostic::FIRST_RECORD, (string) $answer->total);
            }
            $records = $this->records->of($user, $answer->documents);

            return SruWriter::search(
                $question,
                $form,
                $answer->total,
                array_map(static fn (int $id) => $records[$id] ?? new Diagnostic(Diagnostic::RECORD_GONE, ''), $answer->documents),
                self::kept($user, Printer::print(new Query($node, $sort))),
                self::SET_KEPT,
                $question->facets === null || $question->version !== Version::V20
                    ? null
                    : self::counted($question, $schema, $facets, $answer),
                $address,
            );
        });
    }

    /**
     * The same with earlier results in the place of their names.
     *
     * @throws Diagnostic
     */
    private static function opened(User $user, Node $node): Node
    {
        if ($node instanceof BooleanNode) {
            return new BooleanNode($node->operator, self::opened($user, $node->left), self::opened($user, $node->right), $node->modifiers);
        }
        if ($node instanceof PrefixNode) {
            return new PrefixNode($node->prefix, $node->uri, self::opened($user, $node->inner));
        }
        if (! ($node instanceof SearchClause) || $node->index !== self::RESULT_SET) {
            return $node;
        }
        $kept = Cache::get("sru/{$user->id}/{$node->term}");

        return is_string($kept) ? Parser::parse($kept)->root : throw new Diagnostic(Diagnostic::RESULT_SET, $node->term);
    }

    /** Keeps a result by name for who asked. It is the query that is kept: asked again it finds what there is then. */
    private static function kept(User $user, string $cql): string
    {
        $name = substr(hash('sha256', "{$user->id}\n{$cql}"), 0, 20);
        Cache::put("sru/{$user->id}/{$name}", $cql, self::SET_KEPT);

        return $name;
    }

    /**
     * @return array<string, FacetRequest> by the name of the index
     *
     * @throws SearchError
     */
    private static function facets(SruQuestion $question, SearchSchema $schema): array
    {
        if ($question->facets === null) {
            return [];
        }
        $names = array_keys($question->facetLimits);
        if ($names === []) {
            $faceted = array_filter(
                Cover::open($schema->fields),
                static fn (FieldDefinition $of): bool => $of->faceted && ! $of->kind->isNumber(),
            );
            $names = array_keys(array_diff_key($faceted, array_flip(self::OURS)));
        }
        $asked = [];
        foreach ($names as $name) {
            $field = $schema->field((string) $name);
            if (Cover::hides($field) || in_array($field->code, self::OURS, true)) {
                throw new Diagnostic(16, (string) $name);
            }
            $most = self::start($question, (string) $name) - 1 + self::limit($question, (string) $name);
            $asked[(string) $name] = new FacetRequest(
                $field->code,
                max(1, $most),
                $question->facetsByName ? FacetOrder::Name : FacetOrder::Count,
            );
        }

        return $asked;
    }

    private static function limit(SruQuestion $question, string $index): int
    {
        return $question->facetLimits[$index] ?? (int) $question->facets;
    }

    private static function start(SruQuestion $question, string $index): int
    {
        return $question->facetStarts[$index] ?? ($question->facetStarts[''] ?? 1);
    }

    /**
     * @param  array<string, FacetRequest>  $facets
     * @return list<ServedFacet>
     */
    private static function counted(SruQuestion $question, SearchSchema $schema, array $facets, SearchAnswer $answer): array
    {
        $counts = $answer->facets();
        $served = [];
        foreach ($facets as $index => $request) {
            $values = array_slice(
                array_values(array_filter($counts[$request->field]->values ?? [], static fn (FacetValue $value): bool => $value->count > 0)),
                self::start($question, $index) - 1,
                self::limit($question, $index),
            );
            $served[] = new ServedFacet(
                $index,
                $schema->fields[$request->field]->label,
                array_map(
                    static fn (FacetValue $value): array => [
                        'term' => $value->label,
                        'query' => self::narrowed($question->query, $request->field, $value->value),
                        'count' => $value->count,
                    ],
                    $values,
                ),
            );
        }

        return $served;
    }

    /** The query with one value more; its order stays at its end. */
    private static function narrowed(string $query, string $field, string $value): string
    {
        $read = Parser::parse($query);
        $clause = new SearchClause($field, '==', Criterion::escaped($value));
        $isAll = $read->root instanceof SearchClause && $read->root->index === SearchClause::EVERYTHING;

        return Printer::print(new Query($isAll ? $clause : new BooleanNode(BooleanOperator::And, $read->root, $clause), $read->sortKeys));
    }
}
