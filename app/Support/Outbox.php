<?php

declare(strict_types=1);

namespace App\Support;

use Illuminate\Support\Facades\DB;

/** The mails that are to be sent, or that would be where no mail server is set (Retrieve\Posting). */
final class Outbox
{
    private const SUBJECT = 200;

    /**
     * @param  int  $by  whose outbox shows it
     * @param  string  $to  addresses, separated with commas
     * @param  int|null  $codeOf  the id of whose one-time code it has
     * @param  array{string, string}|null  $file  name and contents of a file that goes with it
     */
    public static function put(int $by, string $to, string $subject, string $text, ?int $codeOf = null, ?array $file = null): void
    {
        DB::table('outbox')->insert([
            'user_id' => $by,
            'to' => $to,
            'subject' => $subject,
            'text' => $text,
            'code_of' => $codeOf,
            'at' => now(),
            'file_name' => $file[0] ?? null,
            'file' => $file[1] ?? null,
        ]);
    }

    /** A subject made of other texts: one line, and not too long. */
    public static function line(string $text): string
    {
        return mb_substr((string) preg_replace('/\s+/u', ' ', $text), 0, self::SUBJECT);
    }
}
