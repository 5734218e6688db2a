<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Http\Resources\CommentResource;
use App\Models\Comment;
use App\Models\Dossier;
use App\Models\User;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;

/** What people say of dossiers. Whoever may see a dossier may comment on it; the author may take a comment back. */
final class DossierCommentController
{
    public function index(Request $request, string $dossier): JsonResponse
    {
        return self::all($request, self::dossier($request, $dossier));
    }

    public function store(Request $request, string $dossier): JsonResponse
    {
        $found = self::dossier($request, $dossier);
        $text = (string) $request->validate(['text' => 'required|string|max:4000'], ['text.required' => 'Write something first.'])['text'];
        Comment::query()->create(['dossier_id' => $found->id, 'user_id' => User::of($request)->id, 'text' => $text]);

        return self::all($request, $found, 201);
    }

    public function destroy(Request $request, string $dossier, int $comment): JsonResponse
    {
        $found = self::dossier($request, $dossier);
        Comment::query()->where('dossier_id', $found->id)->where('user_id', User::of($request)->id)->findOrFail($comment)->delete();

        return self::all($request, $found);
    }

    private static function dossier(Request $request, string $ref): Dossier
    {
        return Dossier::query()
            ->whereIntegerInRaw('library_id', array_keys(User::of($request)->libraryRights()))
            ->where('ref', $ref)
            ->firstOrFail();
    }

    private static function all(Request $request, Dossier $dossier, int $status = 200): JsonResponse
    {
        return new JsonResponse(
            ['comments' => CommentResource::list(Comment::query()->where('dossier_id', $dossier->id), User::of($request))],
            $status,
        );
    }
}
