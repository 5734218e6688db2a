<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Catalog\Catalog;
use App\Design\DesignFile;
use App\Design\Draft;
use App\Find\Finder;
use App\Http\Resources\DraftResource;
use App\Http\Resources\FoundResource;
use App\Models\DesignVersion;
use App\Models\User;
use Brenvic\Core\Design\Design;
use Brenvic\Core\Design\DesignChange;
use Brenvic\Core\Design\DesignKind;
use Brenvic\Core\Query\Parser;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Validation\Rule;

/** The draft of the design, its effect, and the versions that were published. */
final readonly class DraftController
{
    public function __construct(private Draft $draft, private DraftResource $resource)
    {
    }

    /** The design as the draft has it, and what differs from what is published. */
    public function show(Request $request): JsonResponse
    {
        return new JsonResponse($this->resource->of(User::of($request), $this->draft));
    }

    public function effects(Request $request): JsonResponse
    {
        $since = hrtime(true);
        $effects = $this->draft->effects(User::of($request));

        return new JsonResponse([
            'effects' => array_map(DraftResource::effect(...), $effects),
            'took_ms' => round((hrtime(true) - $since) / 1e6, 1),
        ]);
    }

    public function discard(Request $request): JsonResponse
    {
        $input = $request->validate(['kind' => ['nullable', Rule::enum(DesignKind::class)], 'code' => 'required_with:kind|string']);
        isset($input['kind'])
            ? $this->draft->discard(User::of($request), DesignKind::from($input['kind']), $input['code'])
            : $this->draft->discard(User::of($request));

        return $this->show($request);
    }

    public function publish(Request $request): JsonResponse
    {
        $note = (string) ($request->validate(['note' => 'nullable|string|max:500'])['note'] ?? '');

        return new JsonResponse(DraftResource::version($this->draft->publish(User::of($request), $note)), 201);
    }

    public function versions(): JsonResponse
    {
        $versions = DesignVersion::query()
            ->with('publisher')
            ->orderByDesc('id')
            ->get(['id', 'note', 'effects', 'published_by', 'published_at']);

        return new JsonResponse(['versions' => $versions->map(DraftResource::version(...))->all()]);
    }

    /** What differs between a version and another (`against`), or what is published. */
    public function compare(Request $request, int $version): JsonResponse
    {
        $design = new Design(DesignVersion::query()->findOrFail($version)->design);
        $against = $request->integer('against');
        $other = $against === 0 ? $this->draft->published() : new Design(DesignVersion::query()->findOrFail($against)->design);

        return new JsonResponse(['changes' => array_map(DraftResource::change(...), DesignChange::between($design, $other))]);
    }

    /** Puts one field in the place of another; publishing moves its values. */
    public function mergeFields(Request $request): JsonResponse
    {
        $input = $request->validate(['from' => 'required|string', 'into' => 'required|string|different:from']);
        $this->draft->mergeFields(User::of($request), $input['from'], $input['into']);

        return $this->show($request);
    }

    /** Makes the draft such that publishing it brings a version back. */
    public function restore(Request $request, int $version): JsonResponse
    {
        $this->draft->become(User::of($request), new Design(DesignVersion::query()->findOrFail($version)->design), $version);

        return $this->show($request);
    }

    /** What the documents of a view, as it is typed, say about its columns and levels. */
    public function advice(Request $request, Finder $finder, Catalog $catalog): JsonResponse
    {
        $criterion = (string) ($request->validate(['criterion' => 'nullable|string|max:60000'])['criterion'] ?? '');
        $catalog->tryOut($this->draft->design());

        return new JsonResponse(FoundResource::advice($finder->advice(User::of($request), Parser::parse($criterion)->root)));
    }

    public function export(): JsonResponse
    {
        return new JsonResponse(
            DesignFile::write($this->draft->published(), DesignVersion::query()->max('id')),
            headers: ['Content-Disposition' => 'attachment; filename="design.json"'],
            options: JSON_PRETTY_PRINT | JSON_UNESCAPED_UNICODE | JSON_UNESCAPED_SLASHES,
        );
    }

    /**
     * Puts a design file into the draft, where its difference and effect show before anything is published; with
     * `how=merge` only what it changed since the version it was written from.
     */
    public function import(Request $request): JsonResponse
    {
        $file = DesignFile::read($request->getContent());
        $request->query('how') === 'merge'
            ? $this->draft->mergeIn(User::of($request), $file->design, $file->version)
            : $this->draft->become(User::of($request), $file->design);

        return $this->show($request);
    }
}
