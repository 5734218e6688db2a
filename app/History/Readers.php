<?php

declare(strict_types=1);

namespace App\History;

use App\Models\User;
use App\Support\OfficeSetting;
use Illuminate\Support\Facades\DB;

/** What the office keeps of who reads, and for how long. */
final readonly class Readers
{
    private const NAME = 'readers';

    /**
     * @param  bool  $areRecorded  whether it is recorded that somebody opened a document
     * @param  int  $months  after which it is forgotten who it was; 0 for never
     */
    public function __construct(public bool $areRecorded = true, public int $months = 0)
    {
    }

    public static function now(): self
    {
        $kept = OfficeSetting::get(self::NAME);

        return is_array($kept) ? new self((bool) ($kept['record'] ?? true), (int) ($kept['months'] ?? 0)) : new self;
    }

    public function keep(User $by): void
    {
        DB::transaction(function () use ($by): void {
            $is = ['record' => $this->areRecorded, 'months' => $this->months];
            OfficeSetting::put(self::NAME, $is);
            History::record(Act::ReadersRule, $by, null, $is);
        });
    }

    /** Forgets who read what longer ago than the office keeps it. @return int how many entries */
    public static function forget(): int
    {
        $months = self::now()->months;
        if ($months === 0) {
            return 0;
        }
        $before = now()->utc()->subMonths($months)->format('Y-m-d\TH:i:s\Z');
        $last = (int) DB::table('history')->where('at', '<', $before)->max('id');

        return DB::table('history')
            ->where('act', Act::Viewed->value)
            ->where('id', '<=', $last)
            ->whereNotNull('user_id')
            ->whereNotNull('detail_sum')
            ->update(['user_id' => null, 'detail' => '']);
    }
}
