<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Design\Reindex;
use App\Http\Resources\DraftResource;
use App\Models\Reindexing;
use Illuminate\Http\JsonResponse;

/** The work on the index that publications left: its progress, stopping it and going on with it. */
final class WorkController
{
    public function index(): JsonResponse
    {
        return new JsonResponse(['work' => Reindexing::query()->orderByDesc('id')->limit(5)->get()->map(DraftResource::work(...))->all()]);
    }

    public function stop(int $work): JsonResponse
    {
        Reindexing::query()->whereKey($work)->where('state', Reindexing::RUNNING)->update(['state' => Reindexing::STOPPED]);

        return $this->index();
    }

    public function goOn(int $work): JsonResponse
    {
        if (Reindexing::query()->whereKey($work)->where('state', Reindexing::STOPPED)->update(['state' => Reindexing::RUNNING]) > 0) {
            Reindex::begin($work);
        }

        return $this->index();
    }
}
