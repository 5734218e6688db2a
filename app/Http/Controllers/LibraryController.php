<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Http\Requests\LibraryInput;
use App\Http\Resources\DesignResource;
use App\Models\Document;
use App\Models\DocumentType;
use App\Models\Library;
use App\Models\Repository;
use App\Models\User;
use App\Support\Refused;
use App\Support\Versions;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Response;
use Illuminate\Support\Facades\DB;

final class LibraryController
{
    public function store(LibraryInput $request): JsonResponse
    {
        /** @var User $user */
        $user = $request->user();
        $library = DB::transaction(function () use ($request, $user): Library {
            $library = new Library(['code' => $request->validated('code'), 'position' => 1 + (int) Library::query()->max('position'), 'lock_version' => 1]);
            $this->fill($library, $request);
            // Nobody sees a new library but the groups of whoever made it, until access is designed.
            $library->groups()->attach($user->groups()->pluck('groups.id')->all(), ['may_change' => true]);

            return $library;
        });

        return new JsonResponse(DesignResource::library($library->load(['repository', 'types'])), 201);
    }

    public function update(LibraryInput $request, Library $library): JsonResponse
    {
        DB::transaction(function () use ($request, $library): void {
            Versions::advance($library, $request->integer('lock_version'), static fn (Library $l): array => DesignResource::library($l->load(['repository', 'types'])));
            $repository = $library->repository_id;
            $this->fill($library, $request);
            $held = Document::query()->where('library_id', $library->id)->exists();
            if ($held && $library->repository_id !== $repository) {
                throw new Refused('A library with documents stays in its repository.');
            }
        });

        return new JsonResponse(DesignResource::library($library->load(['repository', 'types'])));
    }

    public function destroy(Library $library): Response
    {
        $documents = Document::query()->withTrashed()->where('library_id', $library->id)->count();
        if ($documents > 0) {
            throw new Refused("“{$library->name}” still holds {$documents} documents. Move them to another library first.");
        }
        $library->delete();

        return new Response(status: 204);
    }

    private function fill(Library $library, LibraryInput $request): void
    {
        $library->fill([
            'name' => $request->validated('name'), 'note' => $request->validated('note') ?? '',
            'repository_id' => Repository::query()->where('code', $request->validated('repository'))->value('id'),
        ])->save();
        $library->types()->sync(DocumentType::query()->whereIn('code', $request->validated('types') ?? [])->pluck('id'));
    }
}
