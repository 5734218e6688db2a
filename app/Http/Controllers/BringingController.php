<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Catalog\Catalog;
use App\Http\Resources\BringingResource;
use App\Import\BringIn;
use App\Models\Bringing;
use App\Models\User;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Http\Response;
use Illuminate\Http\UploadedFile;
use Illuminate\Support\Facades\Gate;

/** Files brought in by an accepted proposal: each person brings in one set at a time. */
final readonly class BringingController
{
    public function __construct(private BringIn $bringIn, private Catalog $catalog)
    {
    }

    public function show(Request $request): JsonResponse
    {
        $bringing = BringIn::of(User::of($request));

        return new JsonResponse(['bringing' => $bringing === null ? null : $this->shape($bringing)]);
    }

    public function store(Request $request): JsonResponse
    {
        $most = intdiv((int) config('brenvic.limits.file_bytes'), 1024);
        $input = $request->validate(['library' => 'required|string', 'file' => "required|file|max:{$most}"]);
        $library = $this->catalog->libraries()->firstWhere('code', $input['library']) ?? abort(404);
        Gate::authorize('file', $library);

        return new JsonResponse(['bringing' => $this->shape($this->bringIn->begin(User::of($request), $library, $input['file']))], 202);
    }

    public function open(Request $request): JsonResponse
    {
        $input = $request->validate(['rest' => 'required|boolean']);
        $bringing = $this->own($request);
        $this->bringIn->open($bringing, (bool) $input['rest']);

        return $this->answer($bringing);
    }

    public function wanted(Request $request): JsonResponse
    {
        $input = $request->validate(['after' => 'sometimes|nullable|string']);

        return new JsonResponse(['sources' => $this->bringIn->wanted($this->own($request), (string) ($input['after'] ?? ''))]);
    }

    public function files(Request $request): JsonResponse
    {
        $most = intdiv((int) config('brenvic.limits.file_bytes'), 1024);
        $input = $request->validate([
            'sources' => 'required|array|min:1|max:20',
            'sources.*' => 'required|string|max:2000|distinct',
            'files' => 'required|array|max:20',
            'files.*' => "required|file|max:{$most}",
        ]);
        abort_unless(count($input['sources']) === count($input['files']), 422);
        $paths = array_map(static fn (UploadedFile $file): string => (string) $file->getRealPath(), array_values($input['files']));
        $bringing = $this->own($request);
        $this->bringIn->take($bringing, array_combine(array_values($input['sources']), $paths));

        return $this->answer($bringing);
    }

    public function finish(Request $request): JsonResponse
    {
        $bringing = $this->own($request);
        $this->bringIn->finish(User::of($request), $bringing);

        return $this->answer($bringing);
    }

    public function undo(Request $request): JsonResponse
    {
        $bringing = $this->own($request);

        return new JsonResponse($this->bringIn->undo(User::of($request), $bringing));
    }

    public function destroy(Request $request): Response
    {
        $this->bringIn->forget(User::of($request));

        return new Response(status: 204);
    }

    /** The person’s own, in a library that they may still file in. */
    private function own(Request $request): Bringing
    {
        $bringing = BringIn::of(User::of($request)) ?? abort(404);
        Gate::authorize('file', $this->catalog->libraries()->get($bringing->library_id));

        return $bringing;
    }

    private function answer(Bringing $bringing): JsonResponse
    {
        return new JsonResponse(['bringing' => $this->shape($bringing->refresh())]);
    }

    /** @return array<string, mixed> */
    private function shape(Bringing $bringing): array
    {
        return BringingResource::of($bringing, (string) $this->catalog->libraries()->get($bringing->library_id)?->code);
    }
}
