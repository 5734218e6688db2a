<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Access\Rights;
use App\Catalog\Catalog;
use App\Http\Resources\DocumentResource;
use App\Intake\Uploads;
use App\Intake\WrongOffset;
use App\Models\Upload;
use App\Models\User;
use App\Support\Refused;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Http\Response;
use Illuminate\Support\Facades\Gate;

/**
 * Files in pieces, by draft-ietf-httpbis-resumable-upload: what the fields Upload-Length, Upload-Offset, Upload-Complete and Upload-Limit
 * say is said there. What file it is, and for which library, is in the address that it is begun at.
 */
final readonly class UploadController
{
    private const MEDIA = 'application/partial-upload';

    public function __construct(private Uploads $uploads, private DocumentResource $documents, private Rights $rights)
    {
    }

    public function store(Request $request, Catalog $catalog): JsonResponse
    {
        $given = $request->validate([
            'library' => 'required|string',
            'name' => 'required|string|max:300',
            'path' => 'nullable|string|max:1000',
        ]);
        $library = $catalog->libraries()->firstWhere('code', $given['library']) ?? abort(404);
        Gate::authorize('file', $library);
        $bytes = self::number($request, 'Upload-Length');
        $piece = self::piece($request);
        $isLast = self::isLast($request);
        if ($isLast && $bytes === null) {
            $bytes = strlen($piece);
        }
        $user = User::of($request);
        $upload = $this->uploads->begin($user, $library, $given['name'], trim((string) ($given['path'] ?? ''), '/'), $bytes);

        return $this->answer($user, $this->uploads->put($user, $upload, 0, $piece, $isLast), 201);
    }

    public function show(Request $request, string $key): JsonResponse
    {
        return $this->answer(User::of($request), $this->own($request, $key), 200);
    }

    public function append(Request $request, string $key): JsonResponse
    {
        $upload = $this->own($request, $key);
        if ($request->header('Content-Type') !== self::MEDIA) {
            throw new Refused('A piece is sent as '.self::MEDIA.'.');
        }
        $at = self::number($request, 'Upload-Offset') ?? throw new Refused('Say with Upload-Offset where the piece begins.');
        try {
            return $this->answer(
                User::of($request),
                $this->uploads->put(User::of($request), $upload, $at, self::piece($request), self::isLast($request)),
                200,
            );
        } catch (WrongOffset $fault) {
            return (new JsonResponse(
                [
                    'error' => [
                        'code' => 'offset',
                        'message' => $fault->getMessage(),
                        'expected-offset' => $fault->expected,
                        'provided-offset' => $fault->provided,
                    ],
                ],
                409,
            ))->withHeaders(self::state($upload->refresh()));
        }
    }

    public function destroy(Request $request, string $key): Response
    {
        Uploads::giveUp($this->own($request, $key));

        return new Response(status: 204);
    }

    /** One’s own, for a library that one may still file in. */
    private function own(Request $request, string $key): Upload
    {
        $upload = Upload::query()->with('library')->where('user_id', User::of($request)->id)->where('key', $key)->firstOrFail();
        Gate::authorize('file', $upload->library);

        return $upload;
    }

    private function answer(User $user, Upload $upload, int $status): JsonResponse
    {
        $document = $upload->document()->first();
        $isSeen = $document !== null && $this->rights->sees($user, $document);

        return (new JsonResponse(
            [
                'key' => $upload->key,
                'offset' => Uploads::offset($upload),
                'bytes' => $upload->bytes,
                'is_complete' => $upload->document_id !== null,
                'document' => $isSeen ? $this->documents->of($document, $user) : null,
            ],
            $status,
        ))->withHeaders(self::state($upload));
    }

    /** @return array<string, string> */
    private static function state(Upload $upload): array
    {
        return [
            'Location' => "/api/v1/intake/uploads/{$upload->key}",
            'Upload-Offset' => (string) Uploads::offset($upload),
            'Upload-Complete' => $upload->document_id === null ? '?0' : '?1',
            'Upload-Limit' => 'max-size='.config('brenvic.limits.file_bytes').', max-append-size='.Uploads::PIECE,
            'Cache-Control' => 'no-store',
            ...$upload->bytes === null ? [] : ['Upload-Length' => (string) $upload->bytes],
        ];
    }

    /** An integer as RFC 9651 writes it, which no length exceeds. */
    private static function number(Request $request, string $field): ?int
    {
        $value = $request->header($field);
        if ($value === null) {
            return null;
        }

        return preg_match('/^\d{1,15}$/', $value) === 1 ? (int) $value : throw new Refused("{$field} is a number of bytes.");
    }

    private static function isLast(Request $request): bool
    {
        return match ($request->header('Upload-Complete')) {
            '?1' => true,
            '?0' => false,
            default => throw new Refused('Say with Upload-Complete whether more comes: ?0, or ?1 with the last.'),
        };
    }

    private static function piece(Request $request): string
    {
        $piece = (string) $request->getContent();
        if (strlen($piece) > Uploads::PIECE) {
            throw new Refused('A piece has up to '.Uploads::PIECE.' bytes.');
        }

        return $piece;
    }
}
