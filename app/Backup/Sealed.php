<?php

declare(strict_types=1);

namespace App\Backup;

use RuntimeException;

/**
 * Files of a backup: as they are, or encrypted with XChaCha20-Poly1305 in pieces (libsodium's secretstream), so that one that was cut
 * off or changed is told from a whole one. A file is there whole or not at all.
 */
final readonly class Sealed
{
    private const PIECE = 1 << 20;

    private const SEAL = 'BRVSEAL1';

    /** @param  string|null  $key  32 bytes */
    public function __construct(private ?string $key)
    {
        if ($key !== null && strlen($key) !== SODIUM_CRYPTO_SECRETSTREAM_XCHACHA20POLY1305_KEYBYTES) {
            throw new RuntimeException('The key of backups has 32 bytes, written in base64.');
        }
    }

    /**
     * Writes what a file holds to another.
     *
     * @return string SHA-256 of the contents, in hex
     */
    public function seal(string $source, string $target): string
    {
        $in = @fopen($source, 'rb') ?: throw new RuntimeException("{$source} cannot be read.");
        $temporary = $target.'.part'.getmypid();
        $out = @fopen($temporary, 'xb') ?: throw new RuntimeException("{$temporary} cannot be written.");
        try {
            chmod($temporary, 0600);
            $hash = hash_init('sha256');
            $state = null;
            if ($this->key !== null) {
                [$state, $header] = sodium_crypto_secretstream_xchacha20poly1305_init_push($this->key);
                self::put($out, self::SEAL.$header);
            }
            do {
                $piece = (string) stream_get_contents($in, self::PIECE);
                hash_update($hash, $piece);
                $isLast = feof($in);
                if ($state !== null) {
                    $tag = $isLast
                        ? SODIUM_CRYPTO_SECRETSTREAM_XCHACHA20POLY1305_TAG_FINAL
                        : SODIUM_CRYPTO_SECRETSTREAM_XCHACHA20POLY1305_TAG_MESSAGE;
                    $piece = sodium_crypto_secretstream_xchacha20poly1305_push($state, $piece, '', $tag);
                }
                self::put($out, $piece);
            } while (! $isLast);
            if (! fflush($out) || ! fsync($out) || ! fclose($out) || ! rename($temporary, $target)) {
                throw new RuntimeException("{$target} cannot be written.");
            }

            return hash_final($hash);
        } finally {
            fclose($in);
            is_resource($out) && fclose($out);
            @unlink($temporary);
        }
    }

    /**
     * Writes back what was sealed.
     *
     * @return string SHA-256 of the contents, in hex
     *
     * @throws RuntimeException where it is damaged, or the key is another one
     */
    public function open(string $sealed, string $target): string
    {
        $out = @fopen($target, 'xb') ?: throw new RuntimeException("{$target} cannot be written.");
        $hash = hash_init('sha256');
        try {
            foreach ($this->pieces($sealed) as $piece) {
                hash_update($hash, $piece);
                self::put($out, $piece);
            }
        } catch (RuntimeException $fault) {
            @unlink($target);

            throw $fault;
        } finally {
            fclose($out);
        }

        return hash_final($hash);
    }

    /** SHA-256 of what is in a sealed file, in hex. */
    public function hash(string $sealed): string
    {
        $hash = hash_init('sha256');
        foreach ($this->pieces($sealed) as $piece) {
            hash_update($hash, $piece);
        }

        return hash_final($hash);
    }

    public function text(string $sealed): string
    {
        return implode('', [...$this->pieces($sealed)]);
    }

    /** The name under which contents are kept: with a key it does not tell their hash. */
    public function name(string $sha256): string
    {
        return $this->key === null ? $sha256 : hash_hmac('sha256', $sha256, $this->key);
    }

    /** @return \Generator<int, string> */
    private function pieces(string $sealed): \Generator
    {
        $in = @fopen($sealed, 'rb') ?: throw new RuntimeException('A file of the backup is missing.');
        try {
            $head = (string) fread($in, strlen(self::SEAL));
            if ($head !== self::SEAL) {
                if ($this->key !== null) {
                    throw new RuntimeException('This backup is not encrypted, or a file of it is damaged.');
                }
                rewind($in);
                while (! feof($in)) {
                    yield (string) stream_get_contents($in, self::PIECE);
                }

                return;
            }
            if ($this->key === null) {
                throw new RuntimeException('This backup is encrypted. Set BRENVIC_BACKUP_KEY to its key.');
            }
            $header = (string) fread($in, SODIUM_CRYPTO_SECRETSTREAM_XCHACHA20POLY1305_HEADERBYTES);
            $isWhole = strlen($header) === SODIUM_CRYPTO_SECRETSTREAM_XCHACHA20POLY1305_HEADERBYTES;
            $state = $isWhole ? sodium_crypto_secretstream_xchacha20poly1305_init_pull($header, $this->key) : '';
            $tag = null;
            while ($isWhole && ! feof($in)) {
                $piece = (string) stream_get_contents($in, self::PIECE + SODIUM_CRYPTO_SECRETSTREAM_XCHACHA20POLY1305_ABYTES);
                $plain = $tag === SODIUM_CRYPTO_SECRETSTREAM_XCHACHA20POLY1305_TAG_FINAL && $piece === ''
                    ? ['', $tag]
                    : sodium_crypto_secretstream_xchacha20poly1305_pull($state, $piece);
                if ($plain === false) {
                    throw new RuntimeException('A file of the backup is damaged, or the key is another one.');
                }
                [$text, $tag] = $plain;
                yield $text;
            }
            if ($tag !== SODIUM_CRYPTO_SECRETSTREAM_XCHACHA20POLY1305_TAG_FINAL) {
                throw new RuntimeException('A file of the backup is cut off.');
            }
        } finally {
            fclose($in);
        }
    }

    /** @param  resource  $out */
    private static function put($out, string $text): void
    {
        if (@fwrite($out, $text) !== strlen($text)) {
            throw new RuntimeException('The disk of the backup is full.');
        }
    }
}
