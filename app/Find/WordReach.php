<?php

declare(strict_types=1);

namespace App\Find;

use App\Models\User;
use Brenvic\Core\Search\Asking\Reach;
use Illuminate\Support\Facades\DB;

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
        $kept = $this->office ?? DB::table('office_settings')->where('name', self::NAME)->value('value');

        return $this->office = $kept instanceof Reach ? $kept : Reach::tryFrom((string) json_decode((string) $kept)) ?? self::USUAL;
    }

    public function setForOffice(Reach $reach): void
    {
        DB::table('office_settings')->upsert(['name' => self::NAME, 'value' => json_encode($reach->value)], ['name'], ['value']);
        $this->office = $reach;
    }
}
