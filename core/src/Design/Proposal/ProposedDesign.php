<?php

declare(strict_types=1);

namespace Brenvic\Core\Design\Proposal;

use Brenvic\Core\Design\Design;
use Brenvic\Core\Design\DesignKind;

/** The parts of a design that a proposal becomes, once somebody has decided about each. */
final class ProposedDesign
{
    private const COLUMNS = 6;

    /** @var array<int, string> place => code of the field */
    public array $fields = [];

    /** @var array<string, string> value in the type column => code of the document type; under '' the type of all rows */
    public array $types = [];

    /** @var list<array{DesignKind, string, array<string, mixed>}> in an order in which each finds what it refers to */
    public array $parts = [];

    /** @var array<string, true> of fields, there and made */
    private array $codes;

    /** @var array<string, mixed> by code, there and made */
    private array $vocabularies;

    /**
     * @param  array<int, Taken>  $taken  by the place of the column
     * @param  bool  $withTypes  whether document types, and a view of them, are made
     */
    public function __construct(
        private readonly TableProposal $proposal,
        private readonly array $taken,
        private readonly Design $existing,
        string $name,
        bool $withTypes = true,
    ) {
        $this->codes = array_fill_keys(array_map(strval(...), array_keys($existing->fields())), true);
        $this->vocabularies = $existing->all(DesignKind::Vocabulary);
        array_map($this->field(...), $proposal->columns);
        if ($withTypes) {
            $this->makeTypes($name);
        }
    }

    private function of(ColumnProposal $column): Taken
    {
        return $this->taken[$column->place] ?? Taken::proposed($column, $this->proposal->typeColumn);
    }

    /** The reading that was chosen for a column. */
    public function reading(ColumnProposal $column): Reading
    {
        $kind = $this->of($column)->kind;
        foreach ($column->readings as $reading) {
            if ($reading->kind === $kind) {
                return $reading;
            }
        }

        return new Reading($kind, 1.0);
    }

    private function field(ColumnProposal $column): void
    {
        $taken = $this->of($column);
        if (! $taken->isTaken || isset($this->fields[$column->place])) {
            return;
        }
        if ($column->dependsOn !== null) {
            // What it depends on comes before it; that has fewer values, so that no two depend on each other.
            $this->field($this->proposal->columns[$column->dependsOn]);
        }
        if ($taken->existing !== null) {
            $this->fields[$column->place] = $taken->existing;

            return;
        }
        $reading = $this->reading($column);
        $code = PartCode::of($taken->label, $this->codes, 'field');
        $this->codes[$code] = true;
        $this->fields[$column->place] = $code;
        $content = [
            'label' => $taken->label,
            'kind' => $reading->kind,
            'unit' => $reading->unit,
            'pattern' => $reading->pattern,
            'multiple' => $column->separator !== '' && in_array($reading->kind, ['choice', 'text', 'person'], true),
            'faceted' => $column->isFaceted() && $reading->kind === $column->kind(),
            'sensitive' => $column->sensitivity !== '',
        ];
        if ($reading->kind === 'choice') {
            $content['vocabulary'] = $this->vocabulary($column, $code, $taken->label);
        }
        $this->parts[] = [DesignKind::Field, $code, $content];
    }

    private function vocabulary(ColumnProposal $column, string $code, string $label): string
    {
        $vocabulary = PartCode::of($code, $this->vocabularies, 'terms');
        $this->vocabularies[$vocabulary] = true;
        $on = $column->dependsOn === null ? null : $this->proposal->columns[$column->dependsOn];
        $onCode = $on === null ? null : $this->fields[$on->place] ?? null;
        $isDependent = $onCode !== null && $this->of($on)->kind === 'choice';
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
        $this->parts[] = [
            DesignKind::Vocabulary,
            $vocabulary,
            ['name' => $label, 'scheme' => $column->isScheme, 'depends_on' => $isDependent ? $onCode : null, 'terms' => $terms],
        ];

        return $vocabulary;
    }

    private function makeTypes(string $name): void
    {
        $codes = $this->existing->all(DesignKind::Type);
        $made = [];
        $title = implode(' ', array_filter(array_map(
            fn (int $place): string => isset($this->fields[$place]) ? "{{$this->fields[$place]}}" : '',
            $this->proposal->title,
        )));
        foreach ($this->proposal->types as $type) {
            $fields = [];
            foreach ($type->columns as $place => $isRequired) {
                if (isset($this->fields[$place]) && $place !== $this->proposal->typeColumn) {
                    $fields[] = ['code' => $this->fields[$place], 'required' => $isRequired];
                }
            }
            if ($fields === []) {
                continue;
            }
            $code = PartCode::of($type->name, $codes, 'document_type');
            $codes[$code] = $made[$code] = $fields;
            $this->types[$type->value] = $code;
            $this->parts[] = [DesignKind::Type, $code, ['name' => $type->name, 'title_pattern' => $title, 'fields' => $fields]];
        }
        if ($made === []) {
            return;
        }
        $levels = array_values(array_filter(array_map(fn (int $place): ?string => $this->fields[$place] ?? null, $this->proposal->levels)));
        $columns = array_values(array_unique(array_column(array_merge(...array_values($made)), 'code')));
        $this->parts[] = [
            DesignKind::View,
            PartCode::of($name, $this->existing->all(DesignKind::View), 'view'),
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
