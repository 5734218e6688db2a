<?php

declare(strict_types=1);

namespace App\History;

use App\Access\Rights;
use App\Models\Document;
use App\Models\Role;
use App\Models\User;

/** Whose history a person may read, of documents that they see: those who oversee all, others of what they may change. */
final readonly class HistoryRights
{
    public function __construct(private Rights $rights)
    {
    }

    /**
     * @param  iterable<Document>  $documents
     * @return list<int>
     */
    public function readable(User $user, iterable $documents): array
    {
        $rights = $user->libraryRights();
        $kept = $user->role === Role::Manager ? null : $this->rights->keptFrom($user, 'change');
        $readable = [];
        foreach ($documents as $document) {
            $mayChange = $user->role->mayFile() && ($rights[$document->library_id] ?? false) && ($kept === null || ! $kept->has($document->id));
            if ($user->role === Role::Manager || $mayChange) {
                $readable[] = $document->id;
            }
        }

        return $readable;
    }
}
