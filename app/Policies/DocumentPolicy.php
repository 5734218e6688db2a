<?php

declare(strict_types=1);

namespace App\Policies;

use App\Access\Change;
use App\Access\Changing;
use App\Access\Rights;
use App\Models\Document;
use App\Models\User;
use Illuminate\Auth\Access\Response;

/** Whoever may not see a document is told that there is none. */
final readonly class DocumentPolicy
{
    public function __construct(
        private Rights $rights,
        private Changing $changing,
    ) {
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

        $hindrance = $this->changing->ofPerson($user, [$document->id], Change::Values)[$document->id] ?? null;

        return $hindrance === null ? Response::allow() : Response::deny($hindrance->words);
    }
}
