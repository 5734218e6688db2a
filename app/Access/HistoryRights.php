<?php

declare(strict_types=1);

namespace App\Access;

use App\Models\Document;
use App\Models\Right;
use App\Models\User;

/** Whose history a person may read, of documents that they see: those who oversee all, others of what they may change. */
final readonly class HistoryRights
{
    public function __construct(private Changing $changing)
    {
    }

    /** The same of one document, where it is known already what keeps the person from changing it. */
    public static function reads(User $user, ?Hindrance $hindrance): bool
    {
        return $user->may(Right::Oversee) || $hindrance?->kind->isOfPerson() !== true;
    }

    /**
     * @param  iterable<Document>  $documents
     * @return list<int>
     */
    public function readable(User $user, iterable $documents): array
    {
        $ids = [];
        foreach ($documents as $document) {
            $ids[] = $document->id;
        }

        return $user->may(Right::Oversee)
            ? $ids
            : array_values(array_diff($ids, array_keys($this->changing->ofPerson($user, $ids, Change::Values))));
    }
}
