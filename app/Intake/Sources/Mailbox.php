<?php

declare(strict_types=1);

namespace App\Intake\Sources;

use App\Support\Refused;
use Brenvic\Core\Design\SourcePart;
use IMAP\Connection;

/**
 * A mailbox on an IMAP server (RFC 3501). Each mail comes in whole, with its attachments, and is then moved to a folder beside the
 * inbox, or deleted: what is in the inbox is what has not come in. A mail is known again by the number that the server never
 * gives twice (UIDVALIDITY and UID), so that one whose move was cut off does not come in a second time.
 */
final class Mailbox implements SourceOf
{
    public const DONE = 'Brenvic done';

    public const REFUSED = 'Brenvic refused';

    /** Seconds. A server that says nothing must not hold the other sources up. */
    private const PATIENCE = 8;

    /** Mails taken in one look. */
    private const AT_ONCE = 20;

    /** Seconds between two looks: to sign in every second would be a burden on the server. */
    private const EVERY = 5;

    private int $looked = 0;

    public function __construct(private readonly SourcePart $source)
    {
    }

    public function make(): void
    {
        // Its folders are made when there is something to put into them.
    }

    public function look(ArrivingFile $arriving): int
    {
        if (time() - $this->looked < self::EVERY) {
            return 0;
        }
        $this->looked = time();
        [$server, $inbox, $user, $password] = $this->place();
        $mailbox = $this->open("{$server}{$inbox}", $user, $password);
        try {
            return $this->takeAll($mailbox, $server, $inbox, $arriving);
        } finally {
            imap_close($mailbox, CL_EXPUNGE);
            // What is not asked for would be written into the log at the end.
            imap_errors();
            imap_alerts();
        }
    }

    private function takeAll(Connection $mailbox, string $server, string $inbox, ArrivingFile $arriving): int
    {
        $status = imap_status($mailbox, "{$server}{$inbox}", SA_UIDVALIDITY);
        $all = imap_search($mailbox, 'UNDELETED', SE_UID) ?: [];
        sort($all);
        $count = 0;
        foreach (array_slice($all, 0, self::AT_ONCE) as $uid) {
            $token = ($status->uidvalidity ?? 0)."-{$uid}";
            $isSafe = $isNew = false;
            try {
                $isNew = $this->bring($mailbox, (int) $uid, $token, $arriving);
                $isSafe = true;
                $count += $isNew ? 1 : 0;
            } catch (Refused) {
                // Why is for who reads the mail there: it keeps its place, apart from what came in.
            }
            // To move is to copy and then to remove: what was killed between the two is only removed.
            $isRemoved = $isSafe && ($this->source->isRemoved || (! $isNew && $this->isPutAway($mailbox, (int) $uid)));
            $isRemoved ? imap_delete($mailbox, (string) $uid, FT_UID) : $this->putAway($mailbox, $server, (int) $uid, $isSafe);
        }

        return $count;
    }

    /** @throws Refused when the mail cannot come in */
    private function bring(Connection $mailbox, int $uid, string $token, ArrivingFile $arriving): bool
    {
        $about = (imap_fetch_overview($mailbox, (string) $uid, FT_UID) ?: [])[0] ?? throw new Refused('The mail is gone.');
        if (($about->size ?? 0) > (int) config('brenvic.limits.file_bytes')) {
            throw new Refused('The mail is larger than the limit.');
        }
        $file = (string) tempnam(sys_get_temp_dir(), 'mail');
        try {
            if (! imap_savebody($mailbox, $file, $uid, '', FT_UID | FT_PEEK)) {
                throw new Refused('The mail cannot be read.');
            }

            $name = MailNames::file(MailNames::decoded((string) ($about->subject ?? '')));
            $parts = $this->source->rules === [] ? [] : MailNames::parts($file);

            return $arriving->bring($this->source, $token, $file, $name, [], $parts) !== null;
        } finally {
            @unlink($file);
        }
    }

    /** Whether a mail lies in the folder for what came in already. */
    private function isPutAway(Connection $mailbox, int $uid): bool
    {
        $mark = static fn (object $about): array => [$about->udate ?? 0, $about->size ?? 0, $about->message_id ?? '', $about->subject ?? ''];
        $about = (imap_fetch_overview($mailbox, (string) $uid, FT_UID) ?: [])[0] ?? null;
        [$server, , $user, $password] = $this->place();
        $done = $about === null ? false : @imap_open($server.self::DONE, $user, $password, OP_READONLY, 1);
        if ($about === null || $done === false) {
            return false;
        }
        try {
            // A copy keeps the day on which the mail arrived, by the clock of the server.
            $day = static fn (int $days): string => gmdate('j-M-Y', (int) ($about->udate ?? 0) + $days * 86_400);
            $found = imap_search($done, "SINCE \"{$day(-1)}\" BEFORE \"{$day(2)}\"", SE_UID) ?: [];
            $found = $found === [] ? [] : (imap_fetch_overview($done, implode(',', $found), FT_UID) ?: []);

            return in_array($mark($about), array_map($mark, $found), true);
        } finally {
            imap_close($done);
        }
    }

    /** Out of the inbox, to the folder for what came in or could not. */
    private function putAway(Connection $mailbox, string $server, int $uid, bool $isSafe): void
    {
        $into = $isSafe ? self::DONE : self::REFUSED;
        for ($try = 0; $try < 2; $try++) {
            if (@imap_mail_move($mailbox, (string) $uid, $into, CP_UID)) {
                return;
            }
            // The first time its folder is not there yet.
            @imap_createmailbox($mailbox, "{$server}{$into}");
        }
        throw new Refused("The mail server does not let mails be moved to the folder “{$into}”.");
    }

    /**
     * Where it is and who signs in, from the settings of the server: passwords are no part of a design.
     *
     * @return array{string, string, string, string} server as the library has it, inbox, user, password
     */
    private function place(): array
    {
        $address = config("brenvic.mailboxes.{$this->source->mailbox}");
        $parts = is_string($address) ? parse_url($address) : false;
        if ($parts === false || ! isset($parts['host'], $parts['user'])) {
            throw new Refused("The server’s settings name no mailbox “{$this->source->mailbox}” (BRENVIC_MAILBOXES).");
        }
        $isSecure = ($parts['scheme'] ?? '') === 'imaps';
        $port = $parts['port'] ?? ($isSecure ? 993 : 143);
        $how = $isSecure ? '/ssl' : '/notls';

        return [
            "{{$parts['host']}:{$port}/imap{$how}/norsh}",
            rawurldecode(trim($parts['path'] ?? '', '/')) ?: 'INBOX',
            rawurldecode($parts['user']),
            rawurldecode($parts['pass'] ?? ''),
        ];
    }

    private function open(string $place, string $user, string $password): Connection
    {
        foreach ([IMAP_OPENTIMEOUT, IMAP_READTIMEOUT, IMAP_WRITETIMEOUT, IMAP_CLOSETIMEOUT] as $what) {
            imap_timeout($what, self::PATIENCE);
        }
        $mailbox = @imap_open($place, $user, $password, 0, 1);
        $why = imap_errors() ?: [];
        imap_alerts();
        if ($mailbox === false) {
            $isRefused = preg_match('/auth|login|password|credential/i', implode(' ', $why)) === 1;
            throw new Refused(
                $isRefused
                    ? "The mail server does not let “{$user}” sign in to the mailbox “{$this->source->mailbox}”."
                    : "The mail server of the mailbox “{$this->source->mailbox}” does not answer.",
            );
        }

        return $mailbox;
    }
}
