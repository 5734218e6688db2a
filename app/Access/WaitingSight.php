<?php

declare(strict_types=1);

namespace App\Access;

use App\Models\Document;
use App\Models\User;
use Illuminate\Database\Eloquent\Builder;

/** Who sees a document that waits in intake: who brought it in, or the group that its source gives it to, where they may file. */
final class WaitingSight
{
    /** @return Builder<Document> what a person sees of what waits, or was taken out of intake by them */
    public static function of(User $user): Builder
    {
        $libraries = array_keys(array_filter($user->libraryRights()));

        return Document::query()->where(static function (Builder $query) use ($user, $libraries): void {
            $query
                ->where(static fn (Builder $own) => $own->where('created_by', $user->id)->whereNull('intake_group'))
                ->orWhere(
                    static fn (Builder $group) => $group
                        ->whereIn('intake_group', $user->groupNames())
                        ->whereIntegerInRaw('library_id', $libraries),
                );
        });
    }

    public static function sees(User $user, Document $document): bool
    {
        return $document->intake_group === null
            ? $document->created_by === $user->id
            : in_array($document->intake_group, $user->groupNames(), true) && ($user->libraryRights()[$document->library_id] ?? false);
    }
}
