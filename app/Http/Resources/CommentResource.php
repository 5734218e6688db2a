<?php

declare(strict_types=1);

namespace App\Http\Resources;

use App\Models\Comment;
use App\Models\User;
use Illuminate\Database\Eloquent\Builder;

/** Shapes comments for whoever reads them. */
final class CommentResource
{
    /**
     * @param  Builder<Comment>  $comments
     * @return list<array<string, mixed>> the oldest first
     */
    public static function list(Builder $comments, User $user): array
    {
        return array_values(
            $comments
                ->with('author')
                ->orderBy('id')
                ->get()
                ->map(
                    static fn (Comment $c): array => [
                        'id' => $c->id,
                        'text' => $c->text,
                        'by' => $c->author->name,
                        'own' => $c->user_id === $user->id,
                        'at' => $c->created_at->toIso8601String(),
                    ],
                )
                ->all(),
        );
    }
}
