<?php

declare(strict_types=1);

namespace App\Remote;

use App\Catalog\Catalog;
use App\Models\User;
use Brenvic\Core\Design\Design;
use Brenvic\Core\Design\RepositoryPart;

/** The repositories elsewhere that a person may search, as the design says. */
final readonly class RemoteRepositories
{
    public function __construct(private Catalog $catalog)
    {
    }

    /** @return array<string, RemoteRepository> by code, in the order of the design */
    public function of(User $user): array
    {
        $found = [];
        $groups = $user->groupNames();
        foreach ($this->catalog->design()->parts(RepositoryPart::class) as $code => $part) {
            if ($part->isRemote() && $part->isSearchedBy($groups)) {
                $found[(string) $code] = new RemoteRepository($part->code, $part->name, $part->address);
            }
        }

        return $found;
    }

    public function get(User $user, string $code): RemoteRepository
    {
        return $this->of($user)[$code] ?? abort(404);
    }
}
