<?php

declare(strict_types=1);

namespace App\Support;

use Illuminate\Database\SQLiteConnection;

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
        $pdo->exec('PRAGMA user_version = 1');
    }
}
