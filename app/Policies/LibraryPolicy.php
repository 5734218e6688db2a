<?php

declare(strict_types=1);

namespace App\Policies;

use App\Models\Library;
use App\Models\Right;
use App\Models\User;
use Illuminate\Auth\Access\Response;

final class LibraryPolicy
{
    public function file(User $user, Library $library): Response
    {
        return self::for($user, $library, Right::File);
    }

    public function change(User $user, Library $library): Response
    {
        return self::for($user, $library, Right::Change);
    }

    public function fill(User $user, Library $library): Response
    {
        return self::for($user, $library, $user->may(Right::File) ? Right::File : Right::Change);
    }

    private static function for(User $user, Library $library, Right $right): Response
    {
        $rights = $user->libraryRights();
        if (! isset($rights[$library->id])) {
            return Response::denyAsNotFound();
        }

        return $user->may($right) && $rights[$library->id] ? Response::allow() : Response::deny();
    }
}
