<?php

declare(strict_types=1);

namespace App\History;

use App\Models\User;
use Illuminate\Support\Facades\DB;

/** Acts on several whole documents, kept with what each was before, so that they can be undone. */
final class DocumentActLog
{
    /**
     * @param  string  $says  what was done, to be read with the number of documents
     * @param  list<array{id: int, lock: int, before: array<string, mixed>|null}>  $items
     * @return int the act
     */
    public static function keep(User $user, DocumentActKind $kind, string $says, array $items): int
    {
        return (int) DB::table('document_acts')->insertGetId([
            'user_id' => $user->id,
            'kind' => $kind->value,
            'says' => mb_substr($says, 0, 300),
            'items' => json_encode($items, JSON_UNESCAPED_UNICODE | JSON_THROW_ON_ERROR),
            'at' => now(),
        ]);
    }
}
