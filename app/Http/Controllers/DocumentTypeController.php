<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Http\Requests\TypeInput;
use App\Http\Resources\DesignResource;
use App\Jobs\Reindex;
use App\Models\Document;
use App\Models\DocumentType;
use App\Models\Field;
use App\Support\Refused;
use App\Support\Versions;
use Brenvic\Core\Design\TitlePattern;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Response;
use Illuminate\Support\Facades\DB;
use Illuminate\Validation\ValidationException;

final class DocumentTypeController
{
    public function store(TypeInput $request): JsonResponse
    {
        $type = DB::transaction(function () use ($request): DocumentType {
            $type = new DocumentType(['code' => $request->validated('code'), 'lock_version' => 1]);
            $this->fill($type, $request);

            return $type;
        });

        return new JsonResponse(DesignResource::type($type->load('fields')), 201);
    }

    public function update(TypeInput $request, DocumentType $type): JsonResponse
    {
        DB::transaction(function () use ($request, $type): void {
            Versions::advance($type, $request->integer('lock_version'), static fn (DocumentType $t): array => DesignResource::type($t->load('fields')));
            $this->fill($type, $request);
            Reindex::dispatch('type', $type->id);
        });

        return new JsonResponse(DesignResource::type($type->load('fields')));
    }

    public function destroy(DocumentType $type): Response
    {
        $documents = Document::query()->withTrashed()->where('document_type_id', $type->id)->count();
        if ($documents > 0) {
            throw new Refused("{$documents} documents are of the type “{$type->name}”. Give them another type first.");
        }
        $type->delete();

        return new Response(status: 204);
    }

    private function fill(DocumentType $type, TypeInput $request): void
    {
        $input = $request->validated();
        $codes = array_column($input['fields'] ?? [], 'code');
        $unknown = array_diff((new TitlePattern($input['title_pattern'] ?? ''))->fields(), $codes);
        if ($unknown !== []) {
            throw ValidationException::withMessages(['title_pattern' => 'The title names {'.implode('}, {', $unknown).'}, which this type does not have.']);
        }
        $type->fill(['name' => $input['name'], 'title_pattern' => $input['title_pattern'] ?? ''])->save();
        $ids = Field::query()->whereIn('code', $codes)->pluck('id', 'code');
        $rows = [];
        foreach ($input['fields'] ?? [] as $i => $field) {
            $rows[$ids[$field['code']]] = ['position' => $i, 'required' => $field['required'] ?? false];
        }
        $type->fields()->sync($rows);
    }
}
