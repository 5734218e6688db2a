<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Models\Document;
use App\Models\User;
use App\Retrieve\Removal;
use App\Support\Refused;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Support\Facades\DB;

/** Removing filed documents, taking that back, and destroying what was removed. */
final readonly class RemovalController
{
    public function __construct(private Removal $removal)
    {
    }

    public function index(Request $request): JsonResponse
    {
        $documents = $this->removal->removed(User::of($request))->whereNull('parent_id')->orderByDesc('deleted_at')->limit(500)->get();
        $acts = DB::table('history')
            ->leftJoin('users', 'users.id', '=', 'history.user_id')
            ->where('act', 'removed')
            ->whereIntegerInRaw('document_id', $documents->modelKeys())
            ->orderBy('history.id')
            ->get(['document_id', 'detail', 'users.name as by'])
            ->keyBy('document_id');

        return new JsonResponse([
            'documents' => $documents
                ->map(
                    static fn (Document $d): array => [
                        'ref' => $d->ref,
                        'title' => $d->title,
                        'at' => $d->deleted_at?->toIso8601String(),
                        'by' => $acts[$d->id]->by ?? null,
                        'reason' => json_decode((string) ($acts[$d->id]->detail ?? '{}'), true)['reason'] ?? '',
                    ],
                )
                ->all(),
        ]);
    }

    public function remove(Request $request): JsonResponse
    {
        return new JsonResponse($this->removal->remove(User::of($request), self::documents($request), self::reason($request)));
    }

    public function restore(Request $request): JsonResponse
    {
        return new JsonResponse(['restored' => $this->removal->restore(User::of($request), self::documents($request))]);
    }

    public function destroy(Request $request): JsonResponse
    {
        return new JsonResponse([
            'destroyed' => $this->removal->destroy(User::of($request), self::documents($request), self::reason($request)),
        ]);
    }

    /** @return list<string> */
    private static function documents(Request $request): array
    {
        return $request->validate(['documents' => 'required|array|max:500', 'documents.*' => 'string'])['documents'];
    }

    /** @throws Refused */
    private static function reason(Request $request): string
    {
        $reason = trim((string) ($request->validate(['reason' => 'nullable|string|max:500'])['reason'] ?? ''));
        if ($reason === '') {
            throw new Refused('Say why: it is kept in the history.');
        }

        return $reason;
    }
}
