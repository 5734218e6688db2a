<?php

declare(strict_types=1);

namespace App\Http\Resources;

use App\Design\Catalog;
use App\Models\DocumentType;
use App\Models\Field;
use App\Models\Library;
use App\Models\Repository;
use App\Models\Term;
use App\Models\User;
use App\Models\View;
use App\Models\VocabularyModel;
use Brenvic\Core\Fields\FieldDefinition;
use Brenvic\Core\Fields\FieldKind;
use Brenvic\Core\Fields\VocabularyTerm;
use Brenvic\Core\Search\Criterion;
use Brenvic\Core\Search\Relation;
use Brenvic\Core\Search\SearchSchema;

/** Shapes the parts of the design for the API. */
final readonly class DesignResource
{
    public function __construct(private Catalog $catalog)
    {
    }

    /** @return array<string, mixed> */
    public function of(User $user): array
    {
        $rights = $user->libraryRights();
        $all = $user->role->mayDesign();
        $libraries = $all ? $this->catalog->libraries() : $this->catalog->libraries()->only(array_keys($rights));
        $libraries->loadMissing('types');
        $fields = Field::query()->with('vocabulary')->orderBy('position')->orderBy('id')->get();
        $visible = $this->catalog->fieldsFor($user);
        $repositories = Repository::query()->orderBy('position')->get();
        if (! $all) {
            $repositories = $repositories->whereIn('id', $libraries->pluck('repository_id'));
        }
        $types = $this->catalog->types()->loadMissing('fields');
        if (! $all) {
            $mine = $libraries->flatMap(static fn (Library $library) => $library->types->modelKeys())->unique();
            $types = $types->only($mine->all());
        }
        $views = View::query()->orderBy('position')->orderBy('name')->get();

        return [
            'repositories' => $repositories->map(self::repository(...))->values()->all(),
            'libraries' => $libraries->map(static fn (Library $l): array => [...self::library($l), 'may_change' => ($rights[$l->id] ?? false) && $user->role->mayFile()])->values()->all(),
            'fields' => $fields->filter(static fn (Field $f): bool => isset($visible[$f->code]))->map(self::field(...))->values()->all(),
            'system_fields' => array_values(array_map(
                static fn (FieldDefinition $field): array => self::definition($field, match ($field->code) {
                    'library' => $libraries->pluck('code')->all(),
                    'repository' => $repositories->pluck('code')->all(),
                    'type' => $types->pluck('code')->all(),
                    default => null,
                }),
                $this->catalog->systemFields(),
            )),
            'dublin_core' => SearchSchema::DUBLIN_CORE,
            'vocabularies' => VocabularyModel::query()->with('terms')->orderBy('name')->get()->map(self::vocabulary(...))->all(),
            'types' => $types->map(self::type(...))->values()->all(),
            'views' => $views->map(self::view(...))->all(),
            'kinds' => array_map(static fn (FieldKind $kind): array => [
                'value' => $kind->value, 'label' => $kind->label(), 'may_be_faceted' => $kind->mayBeFaceted(),
                'relations' => array_map(static fn (Relation $r): array => ['value' => $r->value, 'label' => $r->words($kind)], Criterion::relations($kind)),
                'tree_relations' => array_map(static fn (Relation $r): array => ['value' => $r->value, 'label' => $r->words($kind)], Criterion::relations($kind, true)),
            ], FieldKind::cases()),
        ];
    }

    /** @return array<string, mixed> */
    public static function repository(Repository $repository): array
    {
        return ['code' => $repository->code, 'name' => $repository->name, 'lock_version' => $repository->lock_version];
    }

    /** @return array<string, mixed> */
    public static function library(Library $library): array
    {
        return [
            'code' => $library->code, 'name' => $library->name, 'note' => $library->note, 'repository' => $library->repository->code,
            'types' => $library->types->pluck('code')->all(), 'lock_version' => $library->lock_version,
        ];
    }

    /** @return array<string, mixed> */
    public static function field(Field $field): array
    {
        return [
            'code' => $field->code, 'label' => $field->label, 'kind' => $field->kind, 'help' => $field->help,
            'multiple' => $field->multiple, 'faceted' => $field->faceted, 'sensitive' => $field->sensitive,
            'vocabulary' => $field->vocabulary?->code, 'unit' => $field->unit, 'pattern' => $field->pattern,
            'dublin_core' => $field->dublin_core, 'minimum' => $field->minimum, 'maximum' => $field->maximum, 'lock_version' => $field->lock_version,
        ];
    }

    /**
     * @param  list<string>|null  $only  the terms a person may know of; null for all
     * @return array<string, mixed>
     */
    private static function definition(FieldDefinition $field, ?array $only): array
    {
        $terms = array_filter($field->vocabulary->terms ?? [], static fn (VocabularyTerm $term): bool => $only === null || in_array($term->code, $only, true));

        return [
            'code' => $field->code, 'label' => $field->label, 'kind' => $field->kind->value, 'faceted' => $field->faceted,
            'terms' => array_values(array_map(static fn (VocabularyTerm $t): array => ['code' => $t->code, 'label' => $t->label, 'parent' => $t->parent, 'synonyms' => $t->synonyms], $terms)),
        ];
    }

    /** @return array<string, mixed> */
    public static function vocabulary(VocabularyModel $vocabulary): array
    {
        return [
            'code' => $vocabulary->code, 'name' => $vocabulary->name, 'lock_version' => $vocabulary->lock_version,
            'terms' => $vocabulary->terms->map(static fn (Term $t): array => ['code' => $t->code, 'label' => $t->label, 'parent' => $t->parent, 'synonyms' => $t->synonyms])->all(),
        ];
    }

    /** @return array<string, mixed> */
    public static function type(DocumentType $type): array
    {
        return [
            'code' => $type->code, 'name' => $type->name, 'title_pattern' => $type->title_pattern, 'lock_version' => $type->lock_version,
            'fields' => $type->fields->map(static fn (Field $f): array => ['code' => $f->code, 'required' => (bool) $f->getRelationValue('pivot')->required])->all(),
        ];
    }

    /** @return array<string, mixed> */
    public static function view(View $view): array
    {
        return ['code' => $view->code, 'name' => $view->name, 'criterion' => $view->criterion, 'columns' => $view->columns, 'sort' => $view->sort, 'levels' => $view->levels, 'total' => $view->total, 'total_as' => $view->total_as ?? 'sum', 'lock_version' => $view->lock_version];
    }
}
