<?php

declare(strict_types=1);

namespace App\Support;

use Throwable;

/** Tells a full disk (ENOSPC) from other faults, however it was noticed: by PHP, the database, an archive or a program. */
final class DiskFull
{
    public static function isWhy(?Throwable $fault): bool
    {
        for (; $fault !== null; $fault = $fault->getPrevious()) {
            if (
                preg_match(
                    '/errno=28\b|no space left|out of free disk space|database or disk is full|is the disk full/i',
                    $fault->getMessage(),
                ) === 1
            ) {
                return true;
            }
        }

        return false;
    }

    /** Does what reading leaves behind, such as what was read lately. On a full disk it is left undone, and reading goes on. */
    public static function orElseSkip(callable $act): void
    {
        try {
            $act();
        } catch (Throwable $fault) {
            self::isWhy($fault) || throw $fault;
            report($fault);
        }
    }
}
