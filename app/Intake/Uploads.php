<?php

declare(strict_types=1);

namespace App\Intake;

use App\Models\Library;
use App\Models\Upload;
use App\Models\User;
use App\Support\Refused;
use Illuminate\Support\Facades\Cache;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Str;
use RuntimeException;

/**
 * Files that come in pieces and are gone on with after a fault (draft-ietf-httpbis-resumable-upload). The length of what is on the disk
 * says how much has arrived; so whenever a request or this server dies, what was stored counts, and nothing else.
 */
final readonly class Uploads
{
    /** Bytes of a piece. */
    public const PIECE = 16 * 1024 * 1024;

    /** Those that somebody has begun and not ended. */
    private const MOST = 50;

    /** Days without a piece, after which it is given up. */
    private const DAYS = 7;

    /** Seconds that a piece may take to be stored. */
    private const AT_IT = 300;

    public function __construct(private Arrivals $arrivals)
    {
    }

    public function begin(User $user, Library $library, string $name, string $path, ?int $bytes): Upload
    {
        self::fits($bytes ?? 0);
        if (Upload::query()->where('user_id', $user->id)->whereNull('document_id')->count() >= self::MOST) {
            throw new Refused('You have begun '.self::MOST.' files already. Go on with one, or give one up.');
        }
        is_dir(Upload::folder()) || mkdir(Upload::folder(), 0o700, true);
        $upload = Upload::query()->create([
            'key' => Str::random(40),
            'user_id' => $user->id,
            'library_id' => $library->id,
            'name' => mb_substr(Arrivals::safeName($name), 0, 300),
            'path' => $path,
            'bytes' => $bytes,
            'touched_at' => now(),
        ]);
        file_put_contents($upload->file(), '') === 0 || throw new RuntimeException('Nothing can be stored.');

        return $upload;
    }

    /** Bytes that have arrived. */
    public static function offset(Upload $upload): int
    {
        clearstatcache(true, $upload->file());

        return $upload->document_id !== null ? (int) $upload->bytes : (int) @filesize($upload->file());
    }

    /**
     * Puts a piece behind what is there, and makes a document of it when it is the last.
     *
     * @param  int  $at  bytes that must have arrived before
     *
     * @throws WrongOffset when they have not
     * @throws Refused
     */
    public function put(User $user, Upload $upload, int $at, string $piece, bool $isLast): Upload
    {
        $lock = Cache::lock("upload/{$upload->id}", self::AT_IT);
        $lock->get() || throw new Refused('Another piece of it is being stored. Ask how much has arrived, and go on from there.');
        try {
            $upload->refresh();
            $there = self::offset($upload);
            if ($upload->document_id !== null || $there !== $at) {
                throw new WrongOffset($there, $at);
            }
            $end = $there + strlen($piece);
            self::fits($end);
            if ($upload->bytes !== null && ($end > $upload->bytes || ($isLast && $end !== $upload->bytes))) {
                throw new Refused("It was to have {$upload->bytes} bytes, and would have {$end}.");
            }
            if ($piece !== '' && @file_put_contents($upload->file(), $piece, FILE_APPEND) !== strlen($piece)) {
                throw new RuntimeException('The piece was not stored: '.(error_get_last()['message'] ?? ''));
            }
            $upload->update(['touched_at' => now()]);

            return $isLast || $end === $upload->bytes ? $this->finish($user, $upload, $end) : $upload;
        } finally {
            $lock->release();
        }
    }

    private function finish(User $user, Upload $upload, int $bytes): Upload
    {
        clearstatcache(true, $upload->file());
        DB::transaction(function () use ($user, $upload, $bytes): void {
            $document = $this->arrivals->receive($upload->file(), $upload->name, $upload->library, $user, $upload->path);
            $upload->update(['document_id' => $document->id, 'bytes' => $bytes]);
        });
        @unlink($upload->file());

        return $upload;
    }

    public static function giveUp(Upload $upload): void
    {
        $upload->delete();
        @unlink($upload->file());
    }

    /** Gives up what nobody goes on with, and forgets what was ended. */
    public static function clear(): void
    {
        foreach (Upload::query()->where('touched_at', '<', now()->subDays(self::DAYS))->get() as $upload) {
            self::giveUp($upload);
        }
        // Of people and libraries that are gone nothing is left but what has arrived.
        foreach (glob(Upload::folder().'/*') ?: [] as $file) {
            (int) @filemtime($file) < now()->subDays(self::DAYS)->getTimestamp() && @unlink($file);
        }
    }

    private static function fits(int $bytes): void
    {
        $most = (int) config('brenvic.limits.file_bytes');
        if ($bytes > $most) {
            throw new Refused('A file may have up to '.intdiv($most, 1024 * 1024).' MB.');
        }
    }
}
