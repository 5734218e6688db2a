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

    /** Takes away sessions that nobody is signed in with, a day after they were used; others with the time that sessions last. */
    public function clear(): void
    {
        foreach (glob("{$this->path}/*") ?: [] as $file) {
            $age = time() - (int) @filemtime($file);
            if ($age > $this->minutes * 60 || ($age > 86_400 && ! str_contains((string) @file_get_contents($file), Sessions::KEY))) {
                @unlink($file);
            }
        }
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
