<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Catalog\Catalog;
use App\Http\Requests\SearchInput;
use App\Http\Resources\DocumentResource;
use App\Intake\Arrivals;
use App\Models\User;
use App\Remote\RemoteFault;
use App\Remote\RemoteRepositories;
use App\Remote\RemoteRepository;
use App\Remote\RemoteSearch;
use App\Remote\RemoteServer;
use App\Support\Refused;
use Brenvic\Core\Capture\FileKind;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Support\Facades\Gate;
use Symfony\Component\HttpFoundation\BinaryFileResponse;
use Symfony\Component\HttpFoundation\HeaderUtils;

/** Repositories elsewhere: searched, read, and copied from. */
final readonly class RemoteController
{
    public function __construct(
        private RemoteRepositories $repositories,
        private RemoteSearch $search,
        private RemoteServer $server,
        private Catalog $catalog,
        private Arrivals $arrivals,
        private DocumentResource $resource,
    ) {
    }

    /** The same search as here, made there. It is a request of its own, so that nothing here waits for it. */
    public function search(SearchInput $input, string $code): JsonResponse
    {
        $user = User::of($input);
        $asked = $input->asked();
        $repository = $this->repositories->get($user, $code);
        if ($asked->as !== null) {
            $this->repositories->get($asked->as, $code);
        }
        if ($input->boolean('again')) {
            $this->server->forget($repository);
        }

        return new JsonResponse($this->search->find($user, $repository, $asked));
    }

    /** What a record there describes, as something to look at. */
    public function file(Request $request, string $code): BinaryFileResponse
    {
        $input = $request->validate(['address' => 'required|string|max:2000', 'seal' => 'required|string|max:64']);
        $address = (string) $input['address'];
        [$path, $name, $type] = $this->fetched($this->repositories->get(User::of($request), $code), $address, (string) $input['seal']);

        return (new BinaryFileResponse(
            $path,
            200,
            [
                'Content-Type' => $type,
                'Content-Disposition' => HeaderUtils::makeDisposition(
                    $request->boolean('download') ? 'attachment' : 'inline',
                    $name,
                    'document',
                ),
                'Content-Security-Policy' => 'sandbox',
                'X-Content-Type-Options' => 'nosniff',
                'Cache-Control' => 'private, no-store',
            ],
            public: false,
        ))->deleteFileAfterSend();
    }

    /** Brings a copy into intake, where it is indexed and filed like anything that arrives; its path says where it is from. */
    public function take(Request $request, string $code): JsonResponse
    {
        $user = User::of($request);
        $input = $request->validate([
            'address' => 'required|string|max:2000',
            'seal' => 'required|string|max:64',
            'title' => 'required|string|max:500',
            'library' => 'required|string',
        ]);
        $library = $this->catalog->libraries()->firstWhere('code', $input['library']) ?? abort(404);
        Gate::authorize('file', $library);
        $repository = $this->repositories->get($user, $code);
        [$path, $name] = $this->fetched($repository, (string) $input['address'], (string) $input['seal']);
        $ending = pathinfo($name, PATHINFO_EXTENSION);
        $title = mb_strcut(strtr((string) $input['title'], ['/' => '-', '\\' => '-']), 0, 180);
        try {
            $document = $this->arrivals->receive(
                $path,
                $title.($ending === '' ? '' : ".{$ending}"),
                $library,
                $user,
                "{$repository->name}/{$name}",
            );
        } finally {
            @unlink($path);
        }

        return new JsonResponse($this->resource->of($document->refresh(), $user), 201);
    }

    /** What a server says it can do, and what the fields here are called there. */
    public function look(Request $request): JsonResponse
    {
        $input = $request->validate([
            'address' => ['required', 'string', 'max:500', 'regex:#^https?://[^\s/]#i'],
            'name' => 'nullable|string|max:200',
        ]);

        return new JsonResponse(
            $this->search->look(
                User::of($request),
                new RemoteRepository('', (string) ($input['name'] ?? '') ?: 'The server', (string) $input['address']),
            ),
        );
    }

    /** @return array{string, string, string} a temporary file, its name, and its media type by its contents */
    private function fetched(RemoteRepository $repository, string $address, string $seal): array
    {
        if (! hash_equals($repository->seal($address), $seal)) {
            throw new Refused(
                "This address is not one that a record of {$repository->name} named. Search again, and open the record anew.",
            );
        }
        $path = (string) tempnam(sys_get_temp_dir(), 'brenvic-remote-');
        try {
            $this->server->file($repository, $address, $path);
        } catch (RemoteFault $fault) {
            @unlink($path);
            throw new Refused($fault->getMessage());
        }
        $name = Arrivals::safeName(rawurldecode((string) parse_url($address, PHP_URL_PATH)));
        $head = (string) file_get_contents($path, length: 4096);

        return [$path, $name, FileKind::detect($head, $name)->mediaType($head)];
    }
}
