<?php

declare(strict_types=1);

namespace Bench;

use App\Index\Names;
use App\Index\SqliteStore;
use Brenvic\Core\Design\Design;
use Brenvic\Core\Design\DesignChange;
use Brenvic\Core\Design\DesignKind;
use Brenvic\Core\Design\Effect;
use Brenvic\Core\Design\EffectCount;
use Brenvic\Core\Design\Returned;
use Brenvic\Core\Design\StoredValues;
use Brenvic\Core\Design\ViewAdvice;
use Brenvic\Core\Fields\FieldDefinition;
use Brenvic\Core\Fields\VocabularyTerm;
use Brenvic\Core\Index\DocumentSet;
use Brenvic\Core\Index\IndexReader;
use Brenvic\Core\Query\Node;
use Brenvic\Core\Query\Parser;
use Brenvic\Core\Search\Asking\Asker;
use Brenvic\Core\Search\Asking\SearchSchema;
use Brenvic\Core\Search\Searcher;
use Closure;
use RuntimeException;

/** What changes of a design would do to all documents of the collection, and the advice on a view. */
final readonly class DesignSuite
{
    public function __construct(private Corpus $corpus, private Report $report)
    {
    }

    public function run(): void
    {
        $old = self::design();
        $values = $this->values();
        foreach ($this->changes($old) as $case => $new) {
            $effects = $this->report->time(
                'design',
                $case,
                SearchSuite::ENGINE,
                function () use ($old, $new, $values): array {
                    $effect = new Effect($old, $new, $values, $this->finder($old), $this->finder($new));

                    return array_merge([], ...array_map($effect->of(...), DesignChange::between($old, $new)));
                },
                5,
            );
            if ($effects === []) {
                throw new RuntimeException("“{$case}” has no effect.");
            }
            $this->report->note(
                "  {$case}: ".
                    implode('; ', array_map(static fn (EffectCount $e): string => number_format($e->documents)." {$e->what}", $effects)),
            );
        }
        $this->report->time(
            'design',
            'advice on a view of everything',
            SearchSuite::ENGINE,
            function () use ($old): void {
                (new ViewAdvice(new IndexReader(new SqliteStore())))->of(
                    $this->finder($old)(Parser::parse('')->root),
                    Corpus::definitions(),
                );
            },
            5,
        );
    }

    /** @return array<string, Design> */
    private function changes(Design $old): array
    {
        $amount = $old->part(DesignKind::Field, 'amount') ?? [];
        $places = $old->part(DesignKind::Vocabulary, 'place') ?? [];
        $reaches = $old->part(DesignKind::Vocabulary, 'reach') ?? [];
        $terms = array_map(static fn (array $t): array => $t['code'] === '3' ? [...$t, 'parent' => 'b9'] : $t, $reaches['terms']);

        return [
            'a highest value for a number field' => $old->with(DesignKind::Field, 'amount', [...$amount, 'maximum' => 400_000.0]),
            'a number field becomes text' => $old->with(DesignKind::Field, 'amount', [...$amount, 'kind' => 'text']),
            'a term is taken out of a vocabulary' => $old->with(DesignKind::Vocabulary, 'place', [
                ...$places,
                'terms' => array_slice($places['terms'], 1),
            ]),
            'a branch of a tree is moved' => $old->with(DesignKind::Vocabulary, 'reach', [...$reaches, 'terms' => $terms]),
            'a view’s criterion is changed' => $old->with(DesignKind::View, 'v', [
                'name' => 'V',
                'criterion' => 'kind == 3 and dated >= 1990',
                'columns' => ['kind'],
                'sort' => [],
            ]),
        ];
    }

    private static function design(): Design
    {
        $design = (new Design())->with(DesignKind::View, 'v', [
            'name' => 'V',
            'criterion' => 'kind == 3',
            'columns' => ['kind'],
            'sort' => [],
        ]);
        foreach (Corpus::definitions() as $field) {
            if ($field->code === 'library') {
                continue;
            }
            if ($field->vocabulary !== null) {
                $design = $design->with(DesignKind::Vocabulary, $field->code, [
                    'name' => $field->label,
                    'terms' => array_map(
                        static fn (VocabularyTerm $t): array => ['code' => $t->code, 'label' => $t->label, 'parent' => $t->parent],
                        array_values($field->vocabulary->terms),
                    ),
                ]);
            }
            $design = $design->with(DesignKind::Field, $field->code, [
                'label' => $field->label,
                'kind' => $field->kind->value,
                'faceted' => $field->faceted,
                'vocabulary' => $field->vocabulary?->code,
            ]);
        }

        return $design;
    }

    /** @return Closure(Node): DocumentSet */
    private function finder(Design $design): Closure
    {
        $library = array_filter(Corpus::definitions(), static fn (FieldDefinition $f): bool => $f->code === 'library');
        $searcher = new Searcher(new IndexReader(new SqliteStore()), new SearchSchema([...$library, ...$design->fields()]), new Names());

        return static fn (Node $node): DocumentSet => $searcher->documents(new Asker(array_map(strval(...), range(1, 8))), $node);
    }

    private function values(): StoredValues
    {
        $counts = [];
        foreach ($this->corpus->documents() as $document) {
            foreach (['amount' => $document['amount'], ...$document['values']] as $field => $value) {
                $counts[$field][$value] = ($counts[$field][$value] ?? 0) + 1;
            }
        }

        return new class($counts) implements StoredValues
        {
            /** @param  array<string, array<int, int>>  $counts */
            public function __construct(private readonly array $counts)
            {
            }

            public function distinct(string $field): array
            {
                return $this->counts[$field] ?? [];
            }

            public function several(string $field): int
            {
                return 0;
            }

            public function returned(string $field): Returned
            {
                return Returned::nothing();
            }

            public function titled(string $type, array $fields): iterable
            {
                return [];
            }

            public function dossiers(string $kind, ?string $without = null): int
            {
                return 0;
            }

            public function heirs(string $kind, string $field): int
            {
                return 0;
            }
        };
    }
}
