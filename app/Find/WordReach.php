<?php

declare(strict_types=1);

namespace App\Find;

use App\Models\User;
use App\Support\OfficeSetting;
use Brenvic\Core\Search\Asking\Reach;

/** How far plain words reach when a search does not say: as the person likes it, or as the office has it. */
final class WordReach
{
    private const NAME = 'reach';

    /** What an office begins with. */
    private const USUAL = Reach::SameStem;

    private ?Reach $office = null;

    public function of(User $user): Reach
    {
        return Reach::tryFrom((string) ($user->preferences[self::NAME] ?? '')) ?? $this->ofOffice();
    }

    public function ofOffice(): Reach
    {
        return $this->office ??= Reach::tryFrom((string) OfficeSetting::get(self::NAME)) ?? self::USUAL;
    }

    public function setForOffice(Reach $reach): void
    {
        OfficeSetting::put(self::NAME, $reach->value);
        $this->office = $reach;
    }
}
