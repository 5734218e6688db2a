<?php

declare(strict_types=1);

namespace App\Support;

use Illuminate\Database\SQLiteConnection;
use PDO;
use Throwable;

/**
 * Transactions here are for writing, so each takes SQLite's write lock at once. One that begins by reading and writes
 * later would fail with “database is locked”, whatever the busy timeout, when another process wrote in between.
 */
final class LockingConnection extends SQLiteConnection
{
    protected function executeBeginTransactionStatement(): void
    {
        $pdo = $this->getPdo();
        $pdo->beginTransaction();
        try {
            $pdo->exec('PRAGMA user_version = 1');
        } catch (Throwable $fault) {
            // What was begun is ended, or the connection would refuse every transaction from here on.
            self::abandon($pdo);

            throw $fault;
        }
    }

    /** Ends a transaction of which nothing is to be kept. SQLite may have ended it by itself, as on a full disk. */
    public static function abandon(PDO $pdo): void
    {
        try {
            $pdo->inTransaction() && $pdo->rollBack();
        } catch (Throwable) {
            // There is none any more.
        }
    }
}
