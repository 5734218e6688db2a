<?php

declare(strict_types=1);

namespace App\Http\Resources;

use App\Access\Rights;
use App\Models\CheckOut;
use App\Models\Right;
use App\Models\User;
use App\Support\Column;

/** Shapes what is checked out: one’s own, and for those who answer for it everybody’s. */
final readonly class InProgressResource
{
    private const MOST = 200;

    public function __construct(private Rights $rights)
    {
    }

    /** @return list<array<string, mixed>> the latest first */
    public function of(User $user): array
    {
        $outs = CheckOut::query()
            ->with(['user', 'document'])
            ->when(! $user->may(Right::Remove), fn ($q) => $q->where('user_id', $user->id))
            ->orderByDesc('since')
            ->limit(self::MOST)
            ->get();
        $seen = $this->rights->seen($user, Column::numbers($outs->pluck('document_id')));

        return array_values(
            $outs
                ->whereIn('document_id', $seen)
                ->map(
                    static fn (CheckOut $out): array => [
                        'ref' => $out->document->ref,
                        'title' => $out->document->title,
                        'version' => $out->version,
                        'behind' => $out->version !== $out->document->version,
                        ...self::one($out, $user),
                    ],
                )
                ->all(),
        );
    }

    /** @return array<string, mixed> of the copy put by only its owner learns */
    public static function one(CheckOut $out, User $user): array
    {
        $isOwn = $out->user_id === $user->id;

        return [
            'by' => $out->user->name,
            'own' => $isOwn,
            'since' => $out->since->toIso8601String(),
            'note' => $out->note,
            'copy' => $isOwn && $out->file_name !== null ? ['file_name' => $out->file_name, 'at' => $out->kept_at?->toIso8601String()] : null,
        ];
    }
}
