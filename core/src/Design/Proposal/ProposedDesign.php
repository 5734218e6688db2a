<?php

declare(strict_types=1);

namespace Brenvic\Core\Design\Proposal;

use Brenvic\Core\Design\Design;
use Brenvic\Core\Design\DesignKind;
use Brenvic\Core\Design\DossierKindPart;
use Brenvic\Core\Design\RepositoryPart;
use Brenvic\Core\Design\TablePart;
use Brenvic\Core\Fields\FieldDefinition;

/** The parts of a design that a proposal becomes, once somebody has decided about each. */
final class ProposedDesign
{
    private const COLUMNS = 6;

    /** @var array<int, string> place => code of the field */
    public array $fields = [];

    /** @var array<string, string> value in the type column => code of the document type; under '' the type of all rows */
    public array $types = [];

    /** @var array<int, array<string, string>> place of a column in a tree => its value => the code of its term there */
    public array $treeCodes = [];

    /** @var list<int> places of columns whose fields have their terms in a tree */
    public array $trees = [];

    /** @var array<int, string> place of a column that gathers rows into dossiers => code of their kind */
    public array $dossierKinds = [];

    /** @var array<int, string> place of a column that gathers rows as a reference table => name of the table */
    public array $tables = [];

    /** @var list<array{DesignKind, string, array<string, mixed>}> in an order in which each finds what it refers to */
    public array $parts = [];

    /** @var list<string> what was not made, and why */
    public array $left = [];

    /** The code of the view that is made, or is there already. */
    private ?string $view = null;

    /** @var array<string, true> of fields, there and made */
    private array $codes;

    /** @var array<string, mixed> by code, there and made */
    private array $vocabularies;

    /**
     * @param  array<int, Taken>  $taken  by the place of the column
     * @param  bool  $withTypes  whether document types, and a view of them, are made
     * @param  array<int, GatheringTaken>  $gathered  by the place of the column that gathers
     * @param  ProposedLibrary|null  $library  that takes documents of the types; null when none is to be changed
     */
    public function __construct(
        private readonly TableProposal $proposal,
        private readonly array $taken,
        private readonly Design $existing,
        string $name,
        bool $withTypes = true,
        private readonly array $gathered = [],
        ?ProposedLibrary $library = null,
    ) {
        $this->codes = array_fill_keys(array_map(strval(...), array_keys($existing->fields())), true);
        $this->vocabularies = $existing->all(DesignKind::Vocabulary);
        array_map($this->field(...), $proposal->columns);
        $this->chooseGatherings();
        if ($withTypes) {
            $this->makeTypes($name);
        }
        $this->makeDossierKinds();
        $this->makeTables();
        if ($library !== null && $this->types !== []) {
            $library->code === null ? $this->makeLibrary($library) : $this->widenLibrary($library->code);
        }
    }

    private function of(ColumnProposal $column): Taken
    {
        return $this->taken[$column->place] ?? Taken::proposed($column, $this->proposal->typeColumn);
    }

    private function gatheringOf(Gathering $gathering): GatheringTaken
    {
        return $this->gathered[$gathering->key] ?? GatheringTaken::proposed($gathering, $this->proposal->columns[$gathering->key]);
    }

    /** The reading that was chosen for a column. */
    public function reading(ColumnProposal $column): Reading
    {
        $into = $this->target($column);
        $kind = $this->of($into ?? $column)->kind;
        foreach ($column->readings as $reading) {
            if ($reading->kind === $kind) {
                return $reading;
            }
        }

        return new Reading($kind, 1.0, nothing: $column->readings[0]->nothing);
    }

    /** The column whose field has the values of this one too. */
    private function target(ColumnProposal $column): ?ColumnProposal
    {
        $into = $this->of($column)->into;
        $target = $into === null ? null : $this->proposal->columns[$into] ?? null;

        // Only one that is a field itself: no chain of them has an end that one would guess.
        return $target === null || $target === $column || $this->of($target)->into !== null || ! $this->of($target)->isTaken
            ? null
            : $target;
    }

    private function field(ColumnProposal $column): void
    {
        $taken = $this->of($column);
        if (! $taken->isTaken || isset($this->fields[$column->place])) {
            return;
        }
        $target = $this->target($column);
        if ($target !== null) {
            $this->field($target);
            $this->fields[$column->place] = $this->fields[$target->place];

            return;
        }
        if ($column->dependsOn !== null) {
            // What it depends on comes before it; that has fewer values, so that no two depend on each other.
            $this->field($this->proposal->columns[$column->dependsOn]);
        }
        if ($taken->existing !== null) {
            $this->fields[$column->place] = $taken->existing;
            if ($taken->addsTerms) {
                $this->addTerms($column, $taken->existing);
            }

            return;
        }
        $reading = $this->reading($column);
        $code = PartCode::of($taken->label, $this->codes, 'field');
        $this->codes[$code] = true;
        $this->fields[$column->place] = $code;
        $joined = $this->joined($column);
        $content = [
            'label' => $taken->label,
            'kind' => $reading->kind,
            'unit' => $reading->unit,
            'pattern' => $reading->pattern,
            'multiple' => $joined !== [] || ($column->separator !== '' && in_array($reading->kind, ['choice', 'text', 'person'], true)),
            'faceted' => $column->isFaceted() && $reading->kind === $column->kind(),
            'sensitive' => array_filter([$column, ...$joined], static fn (ColumnProposal $c): bool => $c->sensitivity !== '') !== [],
        ];
        if ($reading->kind === 'choice') {
            $content['vocabulary'] = $taken->isTree && $column->dependsOn !== null
                ? $this->tree($column, $code, $taken->label)
                : $this->vocabulary($column, $code, $taken->label);
        }
        $this->parts[] = [DesignKind::Field, $code, $content];
    }

    /** @return list<ColumnProposal> columns whose values go into the field of another */
    private function joined(ColumnProposal $column): array
    {
        return array_values(array_filter(
            $this->proposal->columns,
            fn (ColumnProposal $c): bool => $this->of($c)->isTaken && $this->target($c) === $column,
        ));
    }

    /** Values that a vocabulary in use does not know, as terms at its end. */
    private function addTerms(ColumnProposal $column, string $field): void
    {
        $content = $this->existing->part(DesignKind::Field, $field);
        $code = is_string($content['vocabulary'] ?? null) ? $content['vocabulary'] : '';
        $vocabulary = $this->existing->part(DesignKind::Vocabulary, $code);
        if ($vocabulary === null || $column->unknown === []) {
            return;
        }
        foreach ($this->parts as $i => [$kind, $of, $present]) {
            if ($kind === DesignKind::Vocabulary && $of === $code) {
                $this->parts[$i][2] = self::withTerms($present, $column->unknown);

                return;
            }
        }
        $this->parts[] = [DesignKind::Vocabulary, $code, self::withTerms($vocabulary, $column->unknown)];
    }

    /**
     * @param  array<string, mixed>  $vocabulary
     * @param  list<string>  $labels
     * @return array<string, mixed>
     */
    private static function withTerms(array $vocabulary, array $labels): array
    {
        $terms = Design::entries($vocabulary, 'terms');
        $codes = array_fill_keys(array_filter(array_column($terms, 'code'), is_string(...)), true);
        $known = array_fill_keys(array_map(mb_strtolower(...), array_filter(array_column($terms, 'label'), is_string(...))), true);
        foreach ($labels as $label) {
            if (! isset($known[mb_strtolower($label)])) {
                $known[mb_strtolower($label)] = true;
                $terms[] = self::term($label, $codes);
            }
        }

        return [...$vocabulary, 'terms' => $terms];
    }

    /**
     * @param  array<array-key, mixed>  $codes  that are taken; the new one is added
     * @return array{code: string, label: string, parent: null, synonyms: list<string>}
     */
    private static function term(string $label, array &$codes): array
    {
        $code = PartCode::of($label, $codes, 'term');
        $codes[$code] = true;

        return ['code' => $code, 'label' => $label, 'parent' => null, 'synonyms' => []];
    }

    private function newVocabulary(string $code): string
    {
        $vocabulary = PartCode::of($code, $this->vocabularies, 'terms');
        $this->vocabularies[$vocabulary] = true;

        return $vocabulary;
    }

    private function vocabulary(ColumnProposal $column, string $code, string $label): string
    {
        $vocabulary = $this->newVocabulary($code);
        $on = $column->dependsOn === null ? null : $this->proposal->columns[$column->dependsOn];
        $onCode = $on === null ? null : $this->fields[$on->place] ?? null;
        $isDependent = $onCode !== null && $this->of($on)->kind === 'choice' && $this->target($on) === null;
        $codes = $isDependent ? array_column($on->terms, 'code', 'label') : [];
        $known = $isDependent && $this->of($on)->existing !== null ? $this->existing->field($onCode)?->vocabulary : null;
        $terms = array_map(static function (array $term) use ($codes, $known): array {
            $under = array_values(array_filter(array_map(
                static function (mixed $label) use ($codes, $known): ?string {
                    $code = is_string($label) ? ($known === null ? $codes[$label] ?? null : $known->resolve($label)) : null;

                    return is_string($code) ? $code : null;
                },
                is_array($term['under'] ?? null) ? $term['under'] : [],
            )));
            unset($term['under']);

            return $under === [] ? $term : [...$term, 'under' => $under];
        }, $column->terms);
        $content = ['name' => $label, 'scheme' => $column->isScheme, 'depends_on' => $isDependent ? $onCode : null, 'terms' => $terms];
        foreach ($this->joined($column) as $other) {
            $labels = $other->terms === [] ? $other->examples : array_filter(array_column($other->terms, 'label'), is_string(...));
            $content = self::withTerms($content, array_values($labels));
        }
        $this->parts[] = [DesignKind::Vocabulary, $vocabulary, $content];

        return $vocabulary;
    }

    /** One vocabulary of what a column says and what it refines: a term for each value, below that of the other column. */
    private function tree(ColumnProposal $column, string $code, string $label): string
    {
        $vocabulary = $this->newVocabulary($code);
        $terms = $taken = [];
        $this->branch($column, $terms, $taken);
        $this->trees[] = $column->place;
        $this->parts[] = [
            DesignKind::Vocabulary,
            $vocabulary,
            ['name' => $label, 'scheme' => true, 'depends_on' => null, 'terms' => $terms],
        ];

        return $vocabulary;
    }

    /**
     * @param  list<array<string, mixed>>  $terms
     * @param  array<array-key, mixed>  $taken  codes
     * @return array<string, string> code of each value
     */
    private function branch(ColumnProposal $column, array &$terms, array &$taken): array
    {
        $on = $column->dependsOn === null ? null : $this->proposal->columns[$column->dependsOn];
        $above = $on === null ? [] : $this->branch($on, $terms, $taken);
        $codes = [];
        foreach ($column->terms as $term) {
            $label = is_string($term['label'] ?? null) ? $term['label'] : '';
            $new = self::term($label, $taken);
            $under = is_array($term['under'] ?? null) ? $term['under'][0] ?? null : null;
            $codes[$label] = $new['code'];
            $terms[] = [...$term, ...$new, 'parent' => is_string($under) ? $above[$under] ?? null : null, 'under' => []];
        }

        return $this->treeCodes[$column->place] = $codes;
    }

    /** What was decided about what gathers rows, where the key and what is shared became fields. */
    private function chooseGatherings(): void
    {
        $kinds = $this->existing->all(DesignKind::DossierKind);
        foreach ($this->proposal->gatherings as $gathering) {
            $taken = $this->gatheringOf($gathering);
            if ($taken->as === GatheredAs::Nothing || ! isset($this->fields[$gathering->key]) || $this->shared($gathering) === []) {
                continue;
            }
            $there = $this->called(DesignKind::DossierKind, $taken->name);
            if ($taken->as === GatheredAs::Dossiers && $there !== null && $this->isGatheredBy($there, $this->fields[$gathering->key])) {
                $this->dossierKinds[$gathering->key] = $there;
            } elseif ($taken->as === GatheredAs::Dossiers) {
                $code = PartCode::of($taken->name, $kinds, 'dossier');
                $kinds[$code] = true;
                $this->dossierKinds[$gathering->key] = $code;
            } else {
                $this->tables[$gathering->key] = $taken->name;
            }
        }
    }

    /** Whether a dossier kind has the field that gathers, and hands it down. */
    private function isGatheredBy(string $kind, string $field): bool
    {
        foreach ($this->existing->one(DossierKindPart::class, $kind)->fields ?? [] as $entry) {
            if ($entry->code === $field) {
                return $entry->isHandedDown;
            }
        }

        return false;
    }

    /** @return array<int, string> place => code of the fields that the rows of a key share */
    public function shared(Gathering $gathering): array
    {
        $key = $this->fields[$gathering->key] ?? null;
        $shared = array_intersect_key($this->fields, array_flip($gathering->shares));
        ksort($shared);

        return array_unique(array_filter($shared, static fn (string $code): bool => $code !== $key));
    }

    /** @return array<int, string> place => code of what documents have from their dossiers */
    private function handedDown(): array
    {
        $down = [];
        foreach ($this->proposal->gatherings as $gathering) {
            if (isset($this->dossierKinds[$gathering->key])) {
                $down += [$gathering->key => $this->fields[$gathering->key]] + $this->shared($gathering);
            }
        }

        return $down;
    }

    private function makeDossierKinds(): void
    {
        foreach ($this->proposal->gatherings as $gathering) {
            $code = $this->dossierKinds[$gathering->key] ?? null;
            if ($code === null || $this->existing->part(DesignKind::DossierKind, $code) !== null) {
                continue;
            }
            $shared = $this->shared($gathering);
            $key = $this->fields[$gathering->key];
            $name = $this->gatheringOf($gathering)->name;
            // What reads like a name stands behind the number in the title.
            $called = null;
            foreach ($shared as $place => $field) {
                $kind = $this->reading($this->proposal->columns[$place])->kind;
                $called ??= in_array($kind, ['text', 'choice', 'person'], true) ? $field : null;
            }
            $this->parts[] = [
                DesignKind::DossierKind,
                $code,
                [
                    'name' => $name,
                    'title_pattern' => "{{$key}}".($called === null ? '' : " {{$called}}"),
                    'fields' => array_map(
                        static fn (string $field): array => ['code' => $field, 'required' => $field === $key, 'handed_down' => true],
                        [$key, ...array_values($shared)],
                    ),
                ],
            ];
        }
    }

    /** Makes the reference tables, of what each key mostly has beside it. */
    private function makeTables(): void
    {
        if ($this->tables === []) {
            return;
        }
        $design = $this->existing;
        foreach ($this->parts as [$kind, $code, $content]) {
            $design = $design->with($kind, $code, $content);
        }
        $fields = $design->fields();
        $codes = $this->existing->all(DesignKind::Table);
        $gathered = [];
        foreach ($this->proposal->gatherings as $gathering) {
            if (isset($this->tables[$gathering->key])) {
                $gathered[$gathering->key] = new SharedRows($gathering->key, array_keys($this->shared($gathering)));
            }
        }
        $mapping = Mapping::of($this->proposal, $this);
        foreach ($this->proposal->gathered as $row) {
            foreach ($gathered as $shared) {
                $shared->add($mapping->cells($row));
            }
        }
        foreach ($gathered as $key => $shared) {
            $name = $this->tables[$key];
            $fills = array_map(fn (int $place): string => $this->fields[$place], $shared->places);
            $made = $shared->rows(array_map(static fn (string $code): FieldDefinition => $fields[$code], [$this->fields[$key], ...$fills]));
            if ($made === null) {
                $this->left[] = "The reference table {$name} would have more than ".SharedRows::MOST.' rows.';

                continue;
            }
            $there = $this->tableOf($this->fields[$key], $fills);
            $code = $there ?? PartCode::of($name, $codes, 'table');
            $content = $codes[$code] ?? ['name' => $name, 'key' => $this->fields[$key], 'fills' => $fills, 'source' => 'rows'];
            $codes[$code] = $content;
            $this->parts[] = [DesignKind::Table, $code, [...$content, 'rows' => $made]];
        }
    }

    /**
     * A table in the design that a key has for the same fields: it gets the new rows.
     *
     * @param  list<string>  $fills
     */
    private function tableOf(string $key, array $fills): ?string
    {
        foreach ($this->existing->parts(TablePart::class) as $code => $table) {
            if ($table->key === $key && $table->fills === $fills && ! $table->isOutside) {
                return (string) $code;
            }
        }

        return null;
    }

    /** The code of a part of the design that is called so. */
    private function called(DesignKind $kind, string $name): ?string
    {
        foreach ($this->existing->all($kind) as $code => $content) {
            if (mb_strtolower(Design::nameOf($kind, (string) $code, $content)) === mb_strtolower(trim($name))) {
                return (string) $code;
            }
        }

        return null;
    }

    /**
     * Gives a document type that is there the fields it lacks.
     *
     * @param  list<array{code: string, required: bool}>  $fields
     * @return list<array<string, mixed>> what it has then
     */
    private function widen(string $type, array $fields): array
    {
        $content = $this->existing->part(DesignKind::Type, $type) ?? [];
        $has = Design::entries($content, 'fields');
        $codes = array_column($has, 'code');
        $more = array_values(array_filter($fields, static fn (array $field): bool => ! in_array($field['code'], $codes, true)));
        if ($more !== []) {
            // Documents of it are there: what they have not cannot be asked of them.
            $more = array_map(static fn (array $field): array => [...$field, 'required' => false], $more);
            $this->parts[] = [DesignKind::Type, $type, [...$content, 'fields' => [...$has, ...$more]]];
        }

        return [...$has, ...$more];
    }

    /** @return list<string> codes of the types, each once */
    private function typeCodes(): array
    {
        return array_values(array_unique($this->types));
    }

    /** A library with all of it, in the repository that is here; in a first one where there is none. */
    private function makeLibrary(ProposedLibrary $library): void
    {
        $repository = null;
        foreach ($this->existing->parts(RepositoryPart::class) as $code => $part) {
            $repository ??= $part->isRemote() ? null : (string) $code;
        }
        if ($repository === null) {
            $repository = PartCode::of($library->name, $this->existing->all(DesignKind::Repository), 'repository');
            $this->parts[] = [DesignKind::Repository, $repository, ['name' => $library->name]];
        }
        $this->parts[] = [
            DesignKind::Library,
            PartCode::of($library->name, $this->existing->all(DesignKind::Library), 'library'),
            [
                'name' => $library->name,
                'repository' => $repository,
                'types' => $this->typeCodes(),
                'view' => $this->view,
                'groups' => array_map(static fn (string $group): array => ['group' => $group, 'change' => true], $library->groups),
            ],
        ];
    }

    /** Has a library that is there take documents of the types, and open with the view if it opens with none. */
    private function widenLibrary(string $code): void
    {
        $content = $this->existing->part(DesignKind::Library, $code);
        if ($content === null) {
            return;
        }
        $takes = Design::codes($content, 'types');
        $new = [...$content, 'types' => array_values(array_unique([...$takes, ...$this->typeCodes()]))];
        $new['view'] = ($content['view'] ?? null) ?: $this->view;
        if (! Design::same($new, $content)) {
            $this->parts[] = [DesignKind::Library, $code, $new];
        }
    }

    private function makeTypes(string $name): void
    {
        $codes = $this->existing->all(DesignKind::Type);
        $made = [];
        $title = implode(' ', array_unique(array_filter(array_map(
            fn (int $place): string => isset($this->fields[$place]) ? "{{$this->fields[$place]}}" : '',
            $this->proposal->title,
        ))));
        $down = $this->handedDown();
        foreach ($this->proposal->types as $type) {
            $required = [];
            foreach ($type->columns as $place => $isRequired) {
                if (isset($this->fields[$place]) && $place !== $this->proposal->typeColumn) {
                    $field = $this->fields[$place];
                    // What the dossier hands down need not stand on the document’s own sheet.
                    $required[$field] = ($required[$field] ?? false) || ($isRequired && ! in_array($field, $down, true));
                }
            }
            $fields = array_map(
                static fn (string $code, bool $is): array => ['code' => $code, 'required' => $is],
                array_keys($required),
                $required,
            );
            if ($fields === []) {
                continue;
            }
            $called = $type->value === '' ? $name : $type->name;
            $there = $this->called(DesignKind::Type, $called);
            if ($there !== null) {
                $this->types[$type->value] = $there;
                $made[$there] = $this->widen($there, $fields);

                continue;
            }
            $code = PartCode::of($called, $codes, 'document_type');
            $codes[$code] = $made[$code] = $fields;
            $this->types[$type->value] = $code;
            $this->parts[] = [DesignKind::Type, $code, ['name' => $called, 'title_pattern' => $title, 'fields' => $fields]];
        }
        $this->view = $this->called(DesignKind::View, $name);
        if ($made === [] || $this->view !== null) {
            return;
        }
        $levels = array_values(array_unique(array_filter(array_map(
            fn (int $place): ?string => $this->fields[$place] ?? null,
            $this->proposal->levels,
        ))));
        $columns = array_values(array_unique(array_filter(array_column(array_merge(...array_values($made)), 'code'), is_string(...))));
        $this->view = PartCode::of($name, $this->existing->all(DesignKind::View), 'view');
        $this->parts[] = [
            DesignKind::View,
            $this->view,
            [
                'name' => $name,
                'criterion' => implode(' or ', array_map(static fn (string $code): string => "type == {$code}", array_keys($made))),
                'columns' => array_slice($columns, 0, self::COLUMNS),
                'levels' => array_map(static fn (string $field): array => ['field' => $field], $levels),
                'opens' => $levels === [] ? 'table' : 'outline',
            ],
        ];
    }
}
