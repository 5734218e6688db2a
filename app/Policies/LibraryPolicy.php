<?php

declare(strict_types=1);

namespace App\Policies;

use App\Models\Library;
use App\Models\User;
use Illuminate\Auth\Access\Response;

final class LibraryPolicy
{
    public function file(User $user, Library $library): Response
    {
        $rights = $user->libraryRights();
        if (! isset($rights[$library->id])) {
            return Response::denyAsNotFound();
        }

        return $user->role->mayFile() && $rights[$library->id] ? Response::allow() : Response::deny();
    }
}
