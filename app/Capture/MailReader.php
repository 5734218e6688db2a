<?php

declare(strict_types=1);

namespace App\Capture;

use Brenvic\Core\Capture\Mailbox;
use Brenvic\Core\Capture\MarkupText;
use Brenvic\Core\Capture\PlainPages;
use Brenvic\Core\Capture\UnreadableFile;
use ZBateson\MailMimeParser\Header\HeaderConsts;
use ZBateson\MailMimeParser\IMessage;
use ZBateson\MailMimeParser\MailMimeParser;

/** Reads mail (RFC 5322, MIME): the headers people read, the body, and what is attached. */
final class MailReader
{
    private const HEADERS = [HeaderConsts::FROM, HeaderConsts::TO, HeaderConsts::CC, HeaderConsts::DATE, HeaderConsts::SUBJECT];

    /** @throws UnreadableFile */
    public function read(string $path): Extracted
    {
        $stream = fopen($path, 'rb');
        if ($stream === false) {
            throw new UnreadableFile('damaged', 'The mail cannot be opened.');
        }
        try {
            $message = (new MailMimeParser())->parse($stream, true);
            $text = '';
            foreach (self::HEADERS as $name) {
                $value = $message->getHeader($name)?->getRawValue();
                if ($value !== null) {
                    $text .= $name.': '.trim((string) iconv_mime_decode($value, ICONV_MIME_DECODE_CONTINUE_ON_ERROR, 'UTF-8'))."\n";
                }
            }
            $body = $message->getTextContent();
            if ($body === null || trim($body) === '') {
                $body = MarkupText::ofHtml((string) $message->getHtmlContent());
            }
            $attachments = [];
            $parts = $message->getAllAttachmentParts();
            foreach (array_slice($parts, 0, (int) config('brenvic.limits.attachments')) as $i => $part) {
                $contents = (string) $part->getContent();
                if (strlen($contents) <= config('brenvic.limits.file_bytes')) {
                    $attachments[] = new Attachment($part->getFilename() ?? 'attachment-'.($i + 1), $contents);
                }
            }

            $left = count($parts) - count($attachments);
            $note =
                $left === 0
                    ? ''
                    : count($attachments).
                        ' of '.
                        number_format(count($parts), 0, '.', "\u{202F}").
                        ' attachments were brought in: the message has more, or larger ones, than is read. They are in the file of the message.';

            return new Extracted(
                PlainPages::of(mb_scrub("{$text}\n".trim($body))),
                $attachments,
                exchange: self::exchange($message),
                title: self::subject($message),
                left: $note,
            );
        } finally {
            fclose($stream);
        }
    }

    private static function subject(IMessage $message): string
    {
        $raw = (string) $message->getHeader(HeaderConsts::SUBJECT)?->getRawValue();
        // Letters beyond ASCII may stand there as they are (RFC 6532), beside encoded words.
        $raw = mb_check_encoding($raw, 'UTF-8') ? $raw : mb_convert_encoding($raw, 'UTF-8', 'Windows-1252');
        $subject = (string) preg_replace_callback(
            '/[\x00-\x7F]+/',
            static fn (array $plain): string => str_contains($plain[0], '=?')
                ? (string) iconv_mime_decode($plain[0], ICONV_MIME_DECODE_CONTINUE_ON_ERROR, 'UTF-8')
                : $plain[0],
            $raw,
        );

        return trim((string) preg_replace('/\s+/u', ' ', mb_scrub($subject)));
    }

    /**
     * A file of many messages: each becomes a document of its own, attached to it.
     *
     * @throws UnreadableFile
     */
    public function readMailbox(string $path): Extracted
    {
        $stream = fopen($path, 'rb');
        if ($stream === false) {
            throw new UnreadableFile('damaged', 'The mailbox cannot be opened.');
        }
        $limits = config('brenvic.limits');
        $messages = $subjects = [];
        $left = 0;
        foreach (Mailbox::messages($stream, (int) $limits['file_bytes']) as $contents) {
            if ($contents === null || count($messages) >= $limits['mailbox']) {
                $left++;

                continue;
            }
            $subject = self::subject((new MailMimeParser())->parse($contents, false));
            $subjects[] = $subject === '' ? 'Without a subject' : $subject;
            $messages[] = new Attachment(
                mb_strcut($subject === '' ? 'message-'.(count($messages) + 1) : str_replace('/', '-', $subject), 0, 120).'.eml',
                $contents,
            );
        }
        fclose($stream);

        return new Extracted(
            PlainPages::of(implode("\n", $subjects)),
            $messages,
            left: $left === 0 ? '' : "{$left} messages of the mailbox were not brought in: it has more, or longer ones, than is read.",
        );
    }

    /** The first mail that this one refers to began the exchange (RFC 5322, 3.6.4); without one it is the first itself. */
    private static function exchange(IMessage $message): ?string
    {
        foreach ([HeaderConsts::REFERENCES, HeaderConsts::IN_REPLY_TO, HeaderConsts::MESSAGE_ID] as $name) {
            if (preg_match('/<([^<>]+)>/', (string) $message->getHeader($name)?->getRawValue(), $id) === 1) {
                return substr(hash('sha256', trim($id[1])), 0, 32);
            }
        }

        return null;
    }
}
