<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Annotations\Annotations;
use App\Catalog\Catalog;
use App\Http\Requests\AnnotationInput;
use App\Models\Annotation;
use App\Models\Document;
use App\Models\User;
use Brenvic\Core\Design\VocabularyPart;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Http\Response;

/** What people lay over the pages of a document. */
final readonly class AnnotationController
{
    /** The vocabulary whose terms are the office’s stamps; `{name}` and `{date}` in them are filled in. */
    private const STAMPS = 'stamp';

    public function __construct(private Annotations $annotations)
    {
    }

    public function index(Request $request, Document $document, Catalog $catalog): JsonResponse
    {
        $user = User::of($request);
        $stamps = array_filter(
            $catalog->design()->one(VocabularyPart::class, self::STAMPS)->terms ?? [],
            static fn (array $t): bool => ($t['retired'] ?? false) !== true,
        );

        return new JsonResponse([
            'annotations' => array_map(
                fn (Annotation $a): array => $this->annotations->shaped($a, $user),
                $this->annotations->of($user, $document),
            ),
            'stamps' => array_values(
                array_map(
                    static fn (array $t): string => strtr((string) $t['label'], [
                        '{name}' => $user->name,
                        '{date}' => now()->format('j M Y'),
                    ]),
                    $stamps,
                ),
            ),
        ]);
    }

    public function store(AnnotationInput $request, Document $document): JsonResponse
    {
        $user = User::of($request);

        return new JsonResponse($this->annotations->shaped($this->annotations->add($document, $user, $request->validated()), $user), 201);
    }

    public function update(AnnotationInput $request, Document $document, int $annotation): JsonResponse
    {
        $user = User::of($request);

        return new JsonResponse(
            $this->annotations->shaped(
                $this->annotations->change($this->one($request, $document, $annotation), $user, $request->validated()),
                $user,
            ),
        );
    }

    public function destroy(Request $request, Document $document, int $annotation): Response
    {
        $this->annotations->takeBack($this->one($request, $document, $annotation), User::of($request));

        return new Response(status: 204);
    }

    public function restore(Request $request, Document $document, int $annotation): JsonResponse
    {
        $user = User::of($request);

        return new JsonResponse(
            $this->annotations->shaped($this->annotations->restore($this->one($request, $document, $annotation), $user), $user),
        );
    }

    /** Takes the annotations that the PDF itself has in as one’s own. */
    public function takeIn(Request $request, Document $document): JsonResponse
    {
        $user = User::of($request);
        $taken = $this->annotations->takeIn($document, $user);

        return new JsonResponse([
            'taken' => $taken,
            'annotations' => array_map(
                fn (Annotation $a): array => $this->annotations->shaped($a, $user),
                $this->annotations->of($user, $document),
            ),
        ]);
    }

    private function one(Request $request, Document $document, int $annotation): Annotation
    {
        return $this->annotations->find(User::of($request), $document, $annotation);
    }
}
