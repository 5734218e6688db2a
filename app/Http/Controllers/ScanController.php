<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Models\Scan;
use App\Models\User;
use App\Scanning\Scanner;
use App\Scanning\Scans;
use App\Support\Refused;
use Brenvic\Core\Design\SourcePart;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Symfony\Component\HttpFoundation\BinaryFileResponse;

/** Scanners, and stacks that are scanned; each person’s own. */
final readonly class ScanController
{
    public function __construct(private Scans $scans)
    {
    }

    /** The scanners of one’s groups, and what is being scanned. */
    public function index(Request $request): JsonResponse
    {
        $user = User::of($request);
        $scans = Scan::query()->where('user_id', $user->id)->where('state', '!=', Scan::DONE)->orderBy('id')->get();

        return new JsonResponse([
            'scanners' => array_map(
                static fn (SourcePart $source): array => ['code' => $source->code, 'name' => $source->name],
                $this->scans->sources($user),
            ),
            'scans' => $scans->map($this->shape(...))->all(),
        ]);
    }

    /** What a scanner can do. */
    public function scanner(Request $request, string $code): JsonResponse
    {
        $scanner = new Scanner($this->scans->source(User::of($request), $code));
        $can = $scanner->capabilities();

        return new JsonResponse([
            'model' => $can->model,
            'resolutions' => $can->resolutions,
            'colour' => $can->hasColour,
            'feeder' => $can->hasFeeder,
            'glass' => $can->hasGlass,
            'duplex' => $can->hasDuplex,
        ]);
    }

    public function store(Request $request): JsonResponse
    {
        $input = $request->validate([
            'scanner' => 'required|string|max:40',
            'dots' => 'required|integer|between:50,1200',
            'colour' => 'required|boolean',
            'duplex' => 'required|boolean',
            'fed' => 'required|boolean',
        ]);
        $user = User::of($request);
        $scan = $this->scans->begin($user, $this->scans->source($user, $input['scanner']), [
            'dots' => (int) $input['dots'],
            'colour' => (bool) $input['colour'],
            'duplex' => (bool) $input['duplex'],
            'fed' => (bool) $input['fed'],
        ]);

        return new JsonResponse($this->shape($scan->refresh()), 201);
    }

    public function show(Request $request, int $scan): JsonResponse
    {
        return new JsonResponse($this->shape($this->own($request, $scan)));
    }

    public function page(Request $request, int $scan, int $page): BinaryFileResponse
    {
        $path = $this->scans->page($this->own($request, $scan), $page);

        return new BinaryFileResponse($path, 200, [
            'Content-Type' => @exif_imagetype($path) === IMAGETYPE_PNG ? 'image/png' : 'image/jpeg',
            'Content-Security-Policy' => 'sandbox',
            'X-Content-Type-Options' => 'nosniff',
            'Cache-Control' => 'private, no-store',
        ], public: false);
    }

    public function goOn(Request $request, int $scan): JsonResponse
    {
        $found = $this->stopped($request, $scan);
        $this->scans->goOn($found);

        return new JsonResponse($this->shape($found->refresh()), 202);
    }

    /** What came becomes a document. */
    public function keep(Request $request, int $scan): JsonResponse
    {
        $found = $this->own($request, $scan);
        $this->scans->keep($found);

        return new JsonResponse($this->shape($found->refresh()));
    }

    public function destroy(Request $request, int $scan): JsonResponse
    {
        $this->scans->drop($this->own($request, $scan));

        return new JsonResponse(null, 204);
    }

    private function own(Request $request, int $id): Scan
    {
        return Scan::query()->where('user_id', User::of($request)->id)->find($id) ?? abort(404);
    }

    private function stopped(Request $request, int $id): Scan
    {
        $scan = $this->own($request, $id);

        return $scan->state === Scan::STOPPED ? $scan : throw new Refused('It is not stopped.');
    }

    /** @return array<string, mixed> */
    private function shape(Scan $scan): array
    {
        return [
            'id' => $scan->id,
            'scanner' => $scan->source,
            'state' => $scan->state,
            'says' => $scan->says,
            'pages' => Scans::count($scan),
            'document' => Scans::document($scan),
        ];
    }
}
