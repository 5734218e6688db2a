<?php

declare(strict_types=1);

namespace App\Design;

use App\Http\Resources\DesignResource;
use App\Jobs\Reindex;
use App\Models\DocumentType;
use App\Models\DocumentValue;
use App\Models\Field;
use App\Models\Library;
use App\Models\Repository;
use App\Models\Term;
use App\Models\User;
use App\Models\View;
use App\Models\VocabularyModel;
use Brenvic\Core\Design\Design;
use Brenvic\Core\Design\DesignChange;
use Brenvic\Core\Design\DesignKind;
use Brenvic\Core\Fields\FieldDefinition;
use Illuminate\Database\Eloquent\Model;

/** The published design: read from its tables as one, and changed part by part. */
final readonly class DesignTables
{
    private const CHUNK = 200;

    public function read(): Design
    {
        $parts = [];
        foreach ($this->models() as $kind => $models) {
            foreach ($models as $model) {
                $parts[$kind][(string) $model->getAttribute('code')] = self::content(self::shape(DesignKind::from($kind), $model));
            }
        }

        return new Design($parts);
    }

    /** @return array<string, array<string, int>> kind => code => version for optimistic locking */
    public function locks(): array
    {
        return array_map(static fn (iterable $models): array => collect($models)->pluck('lock_version', 'code')->all(), $this->models());
    }

    /**
     * The content of a part without its code and lock, as design files have it.
     *
     * @param  array<string, mixed>  $shape
     * @return array<string, mixed>
     */
    public static function content(array $shape): array
    {
        return array_diff_key($shape, ['code' => true, 'lock_version' => true]);
    }

    /** @return array<string, iterable<Model>> by kind, in the order of DesignKind */
    private function models(): array
    {
        return [
            DesignKind::Repository->value => Repository::query()->orderBy('position')->get(),
            DesignKind::Vocabulary->value => VocabularyModel::query()->with('terms')->orderBy('name')->get(),
            DesignKind::Field->value => Field::query()->with('vocabulary')->orderBy('position')->orderBy('id')->get(),
            DesignKind::Type->value => DocumentType::query()->with('fields')->orderBy('name')->get(),
            DesignKind::Library->value => Library::query()->with(['repository', 'types'])->orderBy('position')->get(),
            DesignKind::View->value => View::query()->orderBy('position')->orderBy('name')->get(),
        ];
    }

    /** @return array<string, mixed> */
    private static function shape(DesignKind $kind, Model $model): array
    {
        return match (true) {
            $model instanceof Repository => DesignResource::repository($model),
            $model instanceof VocabularyModel => DesignResource::vocabulary($model),
            $model instanceof Field => DesignResource::field($model),
            $model instanceof DocumentType => DesignResource::type($model),
            $model instanceof Library => DesignResource::library($model),
            $model instanceof View => DesignResource::view($model),
            default => throw new \LogicException("No shape for {$kind->value}."),
        };
    }

    /** Puts one change into effect. The caller has checked it, and holds the transaction. */
    public function apply(DesignChange $change, int $lock, User $by, Design $old, Design $new): void
    {
        $model = self::query($change->kind)->where('code', $change->code)->first();
        if ($change->after === null) {
            $model?->delete();

            return;
        }
        $isNew = $model === null;
        $model ??= self::query($change->kind)->newModelInstance(['code' => $change->code]);
        if ($isNew && ! in_array($change->kind, [DesignKind::Vocabulary, DesignKind::Type], true)) {
            $model->setAttribute('position', 1 + (int) self::query($change->kind)->max('position'));
        }
        $model->setAttribute('lock_version', $lock);
        match (true) {
            $model instanceof Repository => $model->fill(['name' => $change->after['name']])->save(),
            $model instanceof VocabularyModel => $this->putVocabulary($model, $change->after),
            $model instanceof Field => $this->putField($model, $change, $old, $new),
            $model instanceof DocumentType => $this->putType($model, $change->after),
            $model instanceof Library => $this->putLibrary($model, $change->after, $isNew ? $by : null),
            $model instanceof View => $model->fill(['name' => $change->after['name'], 'criterion' => $change->after['criterion'], 'columns' => $change->after['columns'], 'sort' => $change->after['sort'], 'levels' => $change->after['levels'] ?? [], 'total' => $change->after['total'] ?? null, 'total_as' => $change->after['total_as'] ?? 'sum'])->save(),
            default => throw new \LogicException('No table.'),
        };
    }

    /** @return \Illuminate\Database\Eloquent\Builder<covariant Model> */
    private static function query(DesignKind $kind): \Illuminate\Database\Eloquent\Builder
    {
        return match ($kind) {
            DesignKind::Repository => Repository::query(),
            DesignKind::Vocabulary => VocabularyModel::query(),
            DesignKind::Field => Field::query(),
            DesignKind::Type => DocumentType::query(),
            DesignKind::Library => Library::query(),
            DesignKind::View => View::query(),
        };
    }

    /** @param  array<string, mixed>  $content */
    private function putVocabulary(VocabularyModel $vocabulary, array $content): void
    {
        $vocabulary->fill(['name' => $content['name']])->save();
        $vocabulary->terms()->delete();
        foreach (array_chunk($content['terms'] ?? [], self::CHUNK, true) as $chunk) {
            Term::query()->insert(array_map(static fn (array $term, int $i): array => [
                'vocabulary_id' => $vocabulary->id, 'code' => $term['code'], 'label' => $term['label'], 'parent' => $term['parent'] ?? null, 'synonyms' => json_encode($term['synonyms'] ?? [], JSON_UNESCAPED_UNICODE), 'position' => $i,
            ], $chunk, array_keys($chunk)));
        }
        foreach (Field::query()->where('vocabulary_id', $vocabulary->id)->pluck('id') as $field) {
            Reindex::dispatch('field', $field);
        }
    }

    private function putField(Field $field, DesignChange $change, Design $old, Design $new): void
    {
        $content = $change->after ?? [];
        $vocabulary = VocabularyModel::query()->where('code', $content['vocabulary'] ?? '')->value('id');
        $field->fill([...array_diff_key($content, ['vocabulary' => true]), 'vocabulary_id' => $vocabulary])->save();
        $was = $old->field($change->code);
        $is = $new->field($change->code);
        if ($was !== null && $is !== null && $was->kind !== $is->kind) {
            $this->convert($field, $was, $is);
        }
        Reindex::dispatch('field', $field->id);
    }

    /** Writes all values of a field in its new kind, each different one once. */
    private function convert(Field $field, FieldDefinition $was, FieldDefinition $is): void
    {
        foreach (DocumentValue::query()->where('field_id', $field->id)->distinct()->pluck('value') as $value) {
            $normal = $is->parse($was->display($value));
            if ($normal !== null && $normal !== $value) {
                DocumentValue::query()->where('field_id', $field->id)->where('value', $value)->update(['value' => $normal]);
            }
        }
    }

    /** @param  array<string, mixed>  $content */
    private function putType(DocumentType $type, array $content): void
    {
        $isRetitled = $type->exists && $type->title_pattern !== $content['title_pattern'];
        $type->fill(['name' => $content['name'], 'title_pattern' => $content['title_pattern']])->save();
        $ids = Field::query()->pluck('id', 'code');
        $rows = [];
        foreach ($content['fields'] ?? [] as $i => $field) {
            $rows[$ids[$field['code']]] = ['position' => $i, 'required' => $field['required'] ?? false];
        }
        $type->fields()->sync($rows);
        Reindex::dispatch('type', $type->id, retitle: $isRetitled);
    }

    /** @param  array<string, mixed>  $content */
    private function putLibrary(Library $library, array $content, ?User $maker): void
    {
        $library->fill(['name' => $content['name'], 'note' => $content['note'] ?? '', 'repository_id' => Repository::query()->where('code', $content['repository'])->value('id')])->save();
        $library->types()->sync(DocumentType::query()->whereIn('code', $content['types'] ?? [])->pluck('id'));
        if ($maker !== null) {
            // Nobody sees a new library but the groups of whoever made it.
            $library->groups()->attach($maker->groups()->pluck('groups.id')->all(), ['may_change' => true]);
        }
    }
}
