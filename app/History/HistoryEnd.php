<?php

declare(strict_types=1);

namespace App\History;

use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\File;
use RuntimeException;

/**
 * Where the chain of the history ends, noted in a file beside the database: a chain whose last entries were taken off holds
 * in itself. The note is written when the entries are; after a crash in between it is one act behind, never ahead.
 */
final class HistoryEnd
{
    private static int $latest = 0;

    /** Notes an entry once it is there to stay. Of the entries of one transaction only the last is written. */
    public static function note(int $id, string $hash): void
    {
        self::$latest = $id;
        DB::afterCommit(static function () use ($id, $hash): void {
            if ($id === self::$latest) {
                self::write($id, $hash);
            }
        });
    }

    /** @return array{int, string}|null the last entry that was noted, and its hash; null when none was */
    public static function read(): ?array
    {
        $text = is_file(self::path()) ? (string) file_get_contents(self::path()) : '';

        return preg_match('/^(\d+) ([0-9a-f]{64})$/', trim($text), $m) === 1 ? [(int) $m[1], $m[2]] : null;
    }

    public static function write(int $id, string $hash): void
    {
        File::ensureDirectoryExists(dirname(self::path()), 0700);
        $lock = fopen(self::path().'.lock', 'c') ?: throw new RuntimeException('The end of the history cannot be noted.');
        flock($lock, LOCK_EX);
        try {
            // Of two that were written at once the later entry stays.
            if ($id > (self::read()[0] ?? 0)) {
                file_put_contents(self::path().'.part', "{$id} {$hash}\n");
                rename(self::path().'.part', self::path());
            }
        } finally {
            fclose($lock);
        }
    }

    private static function path(): string
    {
        return config('brenvic.data').'/history.end';
    }
}
