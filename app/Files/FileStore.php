<?php

declare(strict_types=1);

namespace App\Files;

use App\Alarms\Alarms;
use App\Models\CheckOut;
use App\Models\Document;
use App\Models\Rendition;
use App\Models\StoredFile;
use App\Models\Version;
use App\Support\Refused;
use Illuminate\Support\Facades\DB;
use RuntimeException;

/**
 * Files by content: each is stored once, under its SHA-256. Names never become paths. A file is complete on disk
 * before the row that names it is written.
 */
final class FileStore
{
    /** Seconds that a file which was found whole is taken to be so. */
    private const TRUSTED = 600;

    /**
     * Takes in a copy of a file.
     *
     * @return array{string, int} SHA-256 in hex, and bytes
     */
    public function take(string $source): array
    {
        $sha256 = @hash_file('sha256', $source);
        $bytes = @filesize($source);
        if ($sha256 === false || $bytes === false) {
            throw new RuntimeException('The file cannot be read.');
        }
        $target = $this->path($sha256);
        if (! is_file($target)) {
            $this->write($target, static fn (string $temporary): bool => @copy($source, $temporary));
        }

        return $this->named($sha256, $bytes);
    }

    /** @return array{string, int} */
    public function takeContents(string $contents): array
    {
        $sha256 = hash('sha256', $contents);
        $target = $this->path($sha256);
        if (! is_file($target)) {
            $this->write($target, static fn (string $temporary): bool => @file_put_contents($temporary, $contents) === strlen($contents));
        }

        return $this->named($sha256, strlen($contents));
    }

    public function path(string $sha256): string
    {
        if (preg_match('/^[0-9a-f]{64}$/', $sha256) !== 1) {
            throw new RuntimeException('Not the name of a stored file.');
        }

        return config('brenvic.data')."/files/{$sha256[0]}{$sha256[1]}/{$sha256}";
    }

    /**
     * Where a stored file is, held against its SHA-256: what leaves, and what new files are made of. That it is whole is
     * remembered for some minutes, so that a document that is read page by page is not hashed each time.
     *
     * @throws Refused when it is gone or is not what was stored
     */
    public function whole(string $sha256): string
    {
        $path = $this->path($sha256);
        clearstatcache(true, $path);
        $state = @stat($path);
        $isShared = function_exists('apcu_enabled') && apcu_enabled();
        $key = "bf{$sha256}";
        $mark = $state === false ? '' : "{$path}/{$state['size']}/{$state['mtime']}/{$state['ctime']}/{$state['ino']}";
        if ($mark !== '' && $isShared && apcu_fetch($key) === $mark) {
            return $path;
        }
        $fault = $this->fault($sha256);
        if ($fault !== null) {
            Alarms::raise('file', "Stored file {$sha256} is {$fault->value}. A backup may have it: brenvic:restore --document brings it back.");
            throw new Refused($fault->words());
        }
        $isShared && apcu_store($key, $mark, self::TRUSTED);

        return $path;
    }

    /** What is wrong with a stored file; null when it is what was stored. */
    public function fault(string $sha256): ?FileFault
    {
        $found = @hash_file('sha256', $this->path($sha256));

        return match ($found) {
            $sha256 => null,
            false => FileFault::Missing,
            default => FileFault::Damaged,
        };
    }

    /** Where the PDF stands that a picture was made into to be seen (App\Files\Drawing); it goes when the file goes. */
    public function drawing(string $sha256): string
    {
        return $this->path($sha256).'.drawn.pdf';
    }

    /** Puts a PDF where `drawing` says, whole or not at all. */
    public function takeDrawing(string $sha256, string $source): void
    {
        $this->write($this->drawing($sha256), static fn (string $temporary): bool => @copy($source, $temporary));
    }

    /** Where the first page of a file is in small; it goes when the file goes. */
    public function thumb(string $sha256): string
    {
        return $this->path($sha256).'.thumb.jpg';
    }

    public function takeThumb(string $sha256, string $source): void
    {
        $this->write($this->thumb($sha256), static fn (string $temporary): bool => @copy($source, $temporary));
    }

    public function head(string $sha256): string
    {
        return (string) file_get_contents($this->path($sha256), length: 4096);
    }

    /** @param  callable(string): bool  $fill */
    private function write(string $target, callable $fill): void
    {
        $folder = dirname($target);
        if (! is_dir($folder) && ! @mkdir($folder, 0770, true) && ! is_dir($folder)) {
            throw new RuntimeException('The folder for files cannot be made.');
        }
        $temporary = $target.'.'.bin2hex(random_bytes(6)).'.part';
        if (! $fill($temporary) || ! @rename($temporary, $target)) {
            @unlink($temporary);
            throw new RuntimeException('The file could not be stored: is the disk full?');
        }
    }

    /** Takes a file away for good, unless a document, a version, a copy put by or a rendition has it. */
    public function remove(string $sha256): void
    {
        DB::transaction(function () use ($sha256): void {
            $isUsed =
                Document::withTrashed()->where('sha256', $sha256)->exists() ||
                Version::query()->where('sha256', $sha256)->exists() ||
                CheckOut::query()->where('sha256', $sha256)->exists() ||
                Rendition::query()->where('sha256', $sha256)->exists() ||
                DB::table('scan_pages')->where('sha256', $sha256)->exists();
            if (! $isUsed) {
                StoredFile::query()->whereKey($sha256)->delete();
                DB::table('page_signs')->where('sha256', $sha256)->delete();
                @unlink($this->path($sha256));
                @unlink($this->drawing($sha256));
                @unlink($this->thumb($sha256));
            }
        });
    }

    /** @return array{string, int} */
    private function named(string $sha256, int $bytes): array
    {
        StoredFile::query()->insertOrIgnore(['sha256' => $sha256, 'bytes' => $bytes, 'created_at' => now()]);

        return [$sha256, $bytes];
    }
}
