<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Http\Requests\VocabularyInput;
use App\Http\Resources\DesignResource;
use App\Jobs\Reindex;
use App\Models\Field;
use App\Models\Term;
use App\Models\VocabularyModel;
use App\Support\Refused;
use App\Support\Versions;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Response;
use Illuminate\Support\Facades\DB;
use Illuminate\Validation\ValidationException;

final class VocabularyController
{
    public function store(VocabularyInput $request): JsonResponse
    {
        $vocabulary = DB::transaction(function () use ($request): VocabularyModel {
            $vocabulary = VocabularyModel::query()->create(['code' => $request->validated('code'), 'name' => $request->validated('name'), 'lock_version' => 1]);
            $this->putTerms($vocabulary, $request);

            return $vocabulary;
        });

        return new JsonResponse(DesignResource::vocabulary($vocabulary->load('terms')), 201);
    }

    public function update(VocabularyInput $request, VocabularyModel $vocabulary): JsonResponse
    {
        DB::transaction(function () use ($request, $vocabulary): void {
            Versions::advance($vocabulary, $request->integer('lock_version'), static fn (VocabularyModel $v): array => DesignResource::vocabulary($v->load('terms')));
            $vocabulary->fill(['name' => $request->validated('name')])->save();
            $this->putTerms($vocabulary, $request);
            foreach (Field::query()->where('vocabulary_id', $vocabulary->id)->pluck('id') as $field) {
                Reindex::dispatch('field', $field);
            }
        });

        return new JsonResponse(DesignResource::vocabulary($vocabulary->load('terms')));
    }

    public function destroy(VocabularyModel $vocabulary): Response
    {
        $fields = Field::query()->where('vocabulary_id', $vocabulary->id)->pluck('label');
        if ($fields->isNotEmpty()) {
            throw new Refused("“{$vocabulary->name}” is the source of {$fields->join(', ', ' and ')}. Give them another vocabulary first.");
        }
        $vocabulary->delete();

        return new Response(status: 204);
    }

    private function putTerms(VocabularyModel $vocabulary, VocabularyInput $request): void
    {
        /** @var list<array{code: string, label: string, parent?: string|null}> $terms */
        $terms = $request->validated('terms') ?? [];
        $parents = array_column($terms, 'parent', 'code');
        foreach ($parents as $code => $parent) {
            if ($parent !== null && ! array_key_exists($parent, $parents)) {
                throw ValidationException::withMessages(['terms' => "“{$code}” is below “{$parent}”, which is not in the vocabulary."]);
            }
            $seen = [(string) $code];
            for ($at = $parent; $at !== null; $at = $parents[$at] ?? null) {
                if (in_array($at, $seen, true)) {
                    throw ValidationException::withMessages(['terms' => "“{$code}” stands below itself. Give it another parent."]);
                }
                $seen[] = $at;
            }
        }
        $gone = $vocabulary->terms()->whereNotIn('code', array_map(strval(...), array_keys($parents)))->pluck('label', 'code');
        $used = DB::table('document_values')->join('fields', 'fields.id', '=', 'document_values.field_id')
            ->where('fields.vocabulary_id', $vocabulary->id)->whereIn('value', $gone->keys())->groupBy('value')->pluck(DB::raw('count(*)'), 'value');
        if ($used->isNotEmpty()) {
            $code = (string) $used->keys()->first();
            throw new Refused("“{$gone[$code]}” cannot be taken out: {$used[$code]} documents have it.");
        }
        $vocabulary->terms()->delete();
        foreach (array_chunk($terms, 200, true) as $chunk) {
            Term::query()->insert(array_map(static fn (array $term, int $i): array => [
                'vocabulary_id' => $vocabulary->id, 'code' => $term['code'], 'label' => $term['label'], 'parent' => $term['parent'] ?? null, 'position' => $i,
            ], $chunk, array_keys($chunk)));
        }
    }
}
