<?php

declare(strict_types=1);

namespace App\Intake\Sources;

use ZBateson\MailMimeParser\Header\HeaderConsts;
use ZBateson\MailMimeParser\MailMimeParser;

/** What is known of mails before they are read: by what they are named, and what rules are held against. */
final class MailNames
{
    /** Parts of a mail whose names are read; one has few. */
    private const PARTS = 200;

    /**
     * The parts of a mail that rules are held against.
     *
     * @return array{from: list<string>, to: list<string>, subject: list<string>, attachment: list<string>}
     */
    public static function parts(string $file): array
    {
        $stream = fopen($file, 'rb');
        if ($stream === false) {
            return ['from' => [], 'to' => [], 'subject' => [], 'attachment' => []];
        }
        $message = (new MailMimeParser())->parse($stream, true);
        $header = static function (string $name) use ($message): array {
            $text = self::decoded(trim((string) $message->getHeader($name)?->getRawValue()));

            return $text === '' ? [] : [$text];
        };
        $attachments = array_slice($message->getAllAttachmentParts(), 0, self::PARTS);

        return [
            'from' => $header(HeaderConsts::FROM),
            'to' => [...$header(HeaderConsts::TO), ...$header(HeaderConsts::CC)],
            'subject' => $header(HeaderConsts::SUBJECT),
            'attachment' => array_values(array_filter(array_map(static fn ($part): string => (string) $part->getFilename(), $attachments))),
        ];
    }

    private const LONGEST = 120;

    /** The subject in the head of a mail, decoded (RFC 2047). */
    public static function subjectOf(string $head): string
    {
        $head = (preg_split('/\r?\n\r?\n/', $head, 2) ?: [''])[0];
        $isThere = preg_match('/^Subject:[ \t]*(.*(?:\r?\n[ \t].*)*)/mi', $head, $m) === 1;

        return self::decoded($isThere ? (string) preg_replace('/\r?\n[ \t]+/', ' ', $m[1]) : '');
    }

    public static function decoded(string $subject): string
    {
        $decoded = '';
        foreach (imap_mime_header_decode($subject) ?: [] as $part) {
            $from = $part->charset === 'default' ? 'UTF-8' : $part->charset;
            $decoded .= @mb_convert_encoding($part->text, 'UTF-8', $from) ?: $part->text;
        }

        return $decoded;
    }

    /** A subject as the name of a file. */
    public static function file(string $subject): string
    {
        $name = trim((string) preg_replace('/[\/\\\\\s]+/u', ' ', mb_scrub($subject)));

        return (mb_substr($name, 0, self::LONGEST) ?: 'Mail without a subject').'.eml';
    }
}
