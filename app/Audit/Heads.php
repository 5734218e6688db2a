<?php

declare(strict_types=1);

namespace App\Audit;

use App\Models\Right;
use App\Models\User;
use App\Support\OfficeSetting;
use App\Support\Outbox;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\File;

/**
 * The head of the chain, given out once a day as a file and by mail. Whoever rewrites the past would have to rewrite what others
 * have of it.
 */
final class Heads
{
    private const GIVEN = 'history_head_given';

    private const MAIL = 'history_head_mail';

    public static function folder(): string
    {
        return config('brenvic.data').'/history-heads';
    }

    /** @return list<string> to whom it is mailed */
    public static function mailedTo(): array
    {
        return array_values(array_filter((array) OfficeSetting::get(self::MAIL), is_string(...)));
    }

    /** @param  list<string>  $addresses */
    public static function mailTo(array $addresses): void
    {
        OfficeSetting::put(self::MAIL, $addresses);
    }

    /** Once a day. @return bool whether it was given out now */
    public static function give(): bool
    {
        $today = now()->utc()->toDateString();
        $last = DB::table('history')->orderByDesc('id')->first(['id', 'hash', 'at']);
        if ($last === null || OfficeSetting::get(self::GIVEN) === $today) {
            return false;
        }
        $text = "entry {$last->id}\nhash {$last->hash}\nat {$last->at}\ngiven {$today}\n";
        File::ensureDirectoryExists(self::folder(), 0700);
        File::put(self::folder()."/{$today}.part", $text);
        rename(self::folder()."/{$today}.part", self::folder()."/{$today}.txt");
        DB::transaction(static function () use ($today, $text): void {
            OfficeSetting::put(self::GIVEN, $today);
            $from = User::query()->whereNull('out_of_use_at')->get()->first(static fn (User $of): bool => $of->may(Right::Oversee));
            if (self::mailedTo() !== [] && $from !== null) {
                Outbox::put($from->id, implode(', ', self::mailedTo()), "Head of the history, {$today}", $text);
            }
        });

        return true;
    }
}
