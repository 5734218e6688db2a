<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Design\Catalog;
use App\Http\Requests\FieldInput;
use App\Http\Resources\DesignResource;
use App\Jobs\Reindex;
use App\Models\DocumentValue;
use App\Models\Field;
use App\Models\VocabularyModel;
use App\Support\Refused;
use App\Support\Versions;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Response;
use Illuminate\Support\Facades\DB;

final class FieldController
{
    public function store(FieldInput $request): JsonResponse
    {
        $field = new Field(['code' => $request->validated('code'), 'position' => 1 + (int) Field::query()->max('position'), 'lock_version' => 1]);
        $this->fill($field, $request);

        return new JsonResponse(DesignResource::field($field), 201);
    }

    public function update(FieldInput $request, Field $field): JsonResponse
    {
        DB::transaction(function () use ($request, $field): void {
            Versions::advance($field, $request->integer('lock_version'), static fn (Field $f): array => DesignResource::field($f->load('vocabulary')));
            $used = DocumentValue::query()->where('field_id', $field->id)->count();
            if ($used > 0 && $request->validated('kind') !== $field->kind) {
                throw new Refused("{$used} documents have values in {$field->label}, so its kind stays as it is.");
            }
            $this->fill($field, $request);
            Reindex::dispatch('field', $field->id);
        });

        return new JsonResponse(DesignResource::field($field));
    }

    public function destroy(Field $field): Response
    {
        $used = DocumentValue::query()->where('field_id', $field->id)->distinct()->count('document_id');
        $types = DB::table('document_type_field')->join('document_types', 'document_types.id', '=', 'document_type_field.document_type_id')->where('field_id', $field->id)->pluck('name');
        if ($used > 0 || $types->isNotEmpty()) {
            throw new Refused("{$field->label} is in use: {$used} documents have it".($types->isEmpty() ? '.' : ", and so do the types {$types->join(', ', ' and ')}."));
        }
        $field->delete();

        return new Response(status: 204);
    }

    private function fill(Field $field, FieldInput $request): void
    {
        $input = $request->validated();
        $vocabulary = VocabularyModel::query()->with('terms')->where('code', $input['vocabulary'] ?? '')->first();
        $field->fill([
            'label' => $input['label'], 'kind' => $input['kind'], 'help' => $input['help'] ?? '',
            'multiple' => $input['multiple'] ?? false, 'faceted' => $input['faceted'] ?? false, 'sensitive' => $input['sensitive'] ?? false,
            'vocabulary_id' => $vocabulary?->id, 'unit' => $input['unit'] ?? '', 'pattern' => $input['pattern'] ?? '',
            'dublin_core' => $input['dublin_core'] ?? null, 'minimum' => $input['minimum'] ?? null, 'maximum' => $input['maximum'] ?? null,
        ]);
        // The core refuses what cannot work, naming the property.
        Catalog::definition($field, $vocabulary === null ? null : Catalog::vocabulary($vocabulary));
        $field->save();
        $field->setRelation('vocabulary', $vocabulary);
    }
}
