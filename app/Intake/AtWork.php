<?php

declare(strict_types=1);

namespace App\Intake;

use App\Models\User;
use Illuminate\Support\Facades\DB;

/** Who is at which waiting document now, so that two do not fill in the same sheet. */
final class AtWork
{
    /** Seconds after which somebody who has not looked again is taken to be gone. */
    private const PATIENCE = 20;

    /** Seconds between two notes of the same: each is a write. */
    private const NOTED = 8;

    public function note(User $user, ?int $document): void
    {
        $now = DB::table('intake_at_work')->where('user_id', $user->id)->first();
        $isNoted = $now !== null && (int) $now->document_id === $document && now()->subSeconds(self::NOTED)->lt($now->at);
        if ($document === null) {
            $now === null || DB::table('intake_at_work')->where('user_id', $user->id)->delete();
        } elseif (! $isNoted) {
            DB::table('intake_at_work')->upsert([['user_id' => $user->id, 'document_id' => $document, 'at' => now()]], ['user_id']);
        }
    }

    /** @return array<int, string> names of others, by the document that they are at */
    public function others(User $user): array
    {
        $names = [];
        $rows = DB::table('intake_at_work')
            ->join('users', 'users.id', '=', 'user_id')
            ->where('user_id', '!=', $user->id)
            ->where('at', '>', now()->subSeconds(self::PATIENCE))
            ->orderBy('name')
            ->get(['document_id', 'name']);
        foreach ($rows as $row) {
            $names[(int) $row->document_id] ??= (string) $row->name;
        }

        return $names;
    }
}
