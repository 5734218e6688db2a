<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Http\Requests\RepositoryInput;
use App\Http\Resources\DesignResource;
use App\Models\Repository;
use App\Support\Refused;
use App\Support\Versions;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Response;
use Illuminate\Support\Facades\DB;

final class RepositoryController
{
    public function store(RepositoryInput $request): JsonResponse
    {
        $repository = Repository::query()->create([
            'code' => $request->validated('code'), 'name' => $request->validated('name'),
            'position' => 1 + (int) Repository::query()->max('position'), 'lock_version' => 1,
        ]);

        return new JsonResponse(DesignResource::repository($repository), 201);
    }

    public function update(RepositoryInput $request, Repository $repository): JsonResponse
    {
        DB::transaction(function () use ($request, $repository): void {
            Versions::advance($repository, $request->integer('lock_version'), DesignResource::repository(...));
            $repository->fill(['name' => $request->validated('name')])->save();
        });

        return new JsonResponse(DesignResource::repository($repository));
    }

    public function destroy(Repository $repository): Response
    {
        $libraries = $repository->libraries()->count();
        if ($libraries > 0) {
            throw new Refused("“{$repository->name}” still has {$libraries} libraries. Move or remove them first.");
        }
        $repository->delete();

        return new Response(status: 204);
    }
}
