<?php

declare(strict_types=1);

namespace App\People;

use Illuminate\Session\FileSessionHandler;

/** Keeps sessions in files, and writes one only when something in it has changed; that it is in use is noted once a minute. */
final class SessionFiles extends FileSessionHandler
{
    private const NOTED = 60;

    /** @var array<string, string> what was read, by session */
    private array $read = [];

    public function read($sessionId): string
    {
        return $this->read[$sessionId] = (string) parent::read($sessionId);
    }

    public function write($sessionId, $data): bool
    {
        $path = "{$this->path}/{$sessionId}";
        if (($this->read[$sessionId] ?? '') !== $data || ! is_file($path)) {
            $this->read[$sessionId] = $data;

            return parent::write($sessionId, $data);
        }
        if ((int) @filemtime($path) < time() - self::NOTED) {
            @touch($path);
        }

        return true;
    }
}
