<?php

declare(strict_types=1);

namespace App\Policies;

use App\Access\Rights;
use App\Models\Document;
use App\Models\User;
use Illuminate\Auth\Access\Response;

/** Whoever may not see a document is told that there is none. */
final readonly class DocumentPolicy
{
    public function __construct(private Rights $rights)
    {
    }

    public function view(User $user, Document $document): Response
    {
        return $this->rights->sees($user, $document) ? Response::allow() : Response::denyAsNotFound();
    }

    public function update(User $user, Document $document): Response
    {
        if (! $this->view($user, $document)->allowed()) {
            return Response::denyAsNotFound();
        }

        $may = $user->role->mayFile() && $user->libraryRights()[$document->library_id] && ! $this->rights->isKeptFrom($user, 'change', $document->id);

        return $may ? Response::allow() : Response::deny('A rule of the design keeps you from changing this document.');
    }
}
