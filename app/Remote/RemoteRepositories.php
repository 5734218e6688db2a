<?php

declare(strict_types=1);

namespace App\Remote;

use App\Catalog\Catalog;
use App\Models\User;
use Brenvic\Core\Design\Design;
use Brenvic\Core\Design\DesignKind;

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
        $design = $this->catalog->design();
        foreach ($design->all(DesignKind::Repository) as $code => $content) {
            $groups = Design::codes($content, 'groups');
            if ($design->isRemote((string) $code) && ($groups === [] || array_intersect($groups, $user->groupNames()) !== [])) {
                $found[(string) $code] = new RemoteRepository((string) $code, (string) $content['name'], (string) $content['address']);
            }
        }

        return $found;
    }

    public function get(User $user, string $code): RemoteRepository
    {
        return $this->of($user)[$code] ?? abort(404);
    }
}
