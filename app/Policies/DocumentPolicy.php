<?php

declare(strict_types=1);

namespace App\Policies;

use App\Models\Document;
use App\Models\User;
use Illuminate\Auth\Access\Response;

/** Whoever may not see a document is told that there is none. */
final class DocumentPolicy
{
    public function view(User $user, Document $document): Response
    {
        $seen = isset($user->libraryRights()[$document->library_id])
            && ($document->state === Document::FILED || ($user->role->mayFile() && $document->created_by === $user->id));

        return $seen ? Response::allow() : Response::denyAsNotFound();
    }

    public function update(User $user, Document $document): Response
    {
        if (! $this->view($user, $document)->allowed()) {
            return Response::denyAsNotFound();
        }

        return $user->role->mayFile() && $user->libraryRights()[$document->library_id] ? Response::allow() : Response::deny();
    }
}
