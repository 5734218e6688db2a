<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\History\Act;
use App\History\History;
use App\Http\Resources\CommentResource;
use App\Index\Indexer;
use App\Models\Comment;
use App\Models\Document;
use App\Models\User;
use App\Support\Refused;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Support\Facades\DB;

/** What people say of documents. Whoever may read a document may comment on it; the author may take a comment back. */
final readonly class CommentController
{
    public function __construct(private Indexer $indexer)
    {
    }

    public function index(Document $document): JsonResponse
    {
        return self::all($document);
    }

    public function store(Request $request, Document $document): JsonResponse
    {
        $text = (string) $request->validate(['text' => 'required|string|max:4000'], ['text.required' => 'Write something first.'])['text'];
        if ($document->destroyed_at !== null) {
            throw new Refused('The document was destroyed; what is left of it stays as it is.');
        }
        DB::transaction(function () use ($request, $document, $text): void {
            Comment::query()->create(['document_id' => $document->id, 'user_id' => User::of($request)->id, 'text' => $text]);
            History::record(Act::Commented, User::of($request), $document);
            $this->indexer->update([$document->id]);
        });

        return self::all($document, 201);
    }

    public function destroy(Request $request, Document $document, int $comment): JsonResponse
    {
        DB::transaction(function () use ($request, $document, $comment): void {
            Comment::query()->where('document_id', $document->id)->where('user_id', User::of($request)->id)->findOrFail($comment)->delete();
            $this->indexer->update([$document->id]);
        });

        return self::all($document);
    }

    private static function all(Document $document, int $status = 200): JsonResponse
    {
        return new JsonResponse(
            ['comments' => CommentResource::list(Comment::query()->where('document_id', $document->id), User::of(request()))],
            $status,
        );
    }
}
