<?php

declare(strict_types=1);

namespace Brenvic\Core\Capture;

/**
 * Messages one behind the other in one file (mbox, RFC 4155): each begins with a line “From ” at the beginning of the file or
 * behind an empty line; in the text a `>` was put before lines that look like one.
 */
final class Mailbox
{
    public static function is(string $head): bool
    {
        return preg_match('/^From \S+ +.*\d{4}\s*\r?\n[A-Za-z][A-Za-z0-9-]*:/', $head) === 1;
    }

    /**
     * @param  resource  $stream
     * @param  int  $most  bytes of one message; what is longer is passed over
     * @return iterable<string|null> the messages; null for one that is too long
     */
    public static function messages($stream, int $most): iterable
    {
        $message = null;
        $isLong = false;
        $isEmptyBefore = true;
        while (($line = fgets($stream)) !== false) {
            if ($isEmptyBefore && str_starts_with($line, 'From ')) {
                if ($message !== null) {
                    yield $isLong ? null : $message;
                }
                $message = '';
                $isLong = false;
            } elseif ($message !== null) {
                $isLong = $isLong || strlen($message) + strlen($line) > $most;
                $message = $isLong ? '' : $message.(preg_match('/^>+From /', $line) === 1 ? substr($line, 1) : $line);
            }
            $isEmptyBefore = trim($line, "\r\n") === '';
        }
        if ($message !== null) {
            yield $isLong ? null : $message;
        }
    }
}
