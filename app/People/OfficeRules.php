<?php

declare(strict_types=1);

namespace App\People;

use App\History\Act;
use App\History\History;
use App\Models\User;
use App\Support\OfficeSetting;
use Illuminate\Support\Facades\DB;

/** What the office has set about signing in. */
final class OfficeRules
{
    private const NAME = 'sign_in';

    /**
     * @param  int  $idleMinutes  after which a session that nobody used has ended
     * @param  int  $hours  after which every session has ended
     * @param  int  $stayDays  the same for who wanted to stay signed in; 0 where nobody may
     * @param  bool  $secondFactor  whether everybody needs a second factor
     */
    public function __construct(
        public readonly int $idleMinutes = 720,
        public readonly int $hours = 72,
        public readonly int $stayDays = 30,
        public readonly bool $secondFactor = false,
    ) {
    }

    public static function now(): self
    {
        $kept = OfficeSetting::get(self::NAME);

        return is_array($kept)
            ? new self((int) $kept['idle_minutes'], (int) $kept['hours'], (int) $kept['stay_days'], (bool) $kept['second_factor'])
            : new self();
    }

    public function keep(User $by): void
    {
        DB::transaction(function () use ($by): void {
            $was = self::now()->toArray();
            OfficeSetting::put(self::NAME, $this->toArray());
            $changes = [];
            foreach ($this->toArray() as $what => $is) {
                if ($was[$what] !== $is) {
                    $changes[$what] = ['was' => $was[$what], 'is' => $is];
                }
            }
            $changes === [] || History::record(Act::SignInRules, $by, null, $changes);
        });
    }

    /** @return array{idle_minutes: int, hours: int, stay_days: int, second_factor: bool} */
    public function toArray(): array
    {
        return [
            'idle_minutes' => $this->idleMinutes,
            'hours' => $this->hours,
            'stay_days' => $this->stayDays,
            'second_factor' => $this->secondFactor,
        ];
    }
}
