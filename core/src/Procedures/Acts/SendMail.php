<?php

declare(strict_types=1);

namespace Brenvic\Core\Procedures\Acts;

use Brenvic\Core\Procedures\Shape\Detail;

/** Writes to somebody outside. */
final readonly class SendMail extends Act
{
    /** The address that the mail came from by which the document arrived. */
    public const SENDER = 'sender';

    /**
     * @param  string  $to  an address, `sender`, or a field that has an address, as {code}
     * @param  string  $text  with values of fields as {code}, as the subject
     */
    public function __construct(public string $to, public string $subject, public string $text)
    {
    }

    public static function read(array $content): self
    {
        return new self(Detail::text($content, 'address'), Detail::text($content, 'subject'), Detail::text($content, 'text'));
    }

    public function fault(): ?string
    {
        return match (true) {
            trim($this->to) === '' => 'Say whom the mail goes to.',
            trim($this->subject) === '' => 'Give the mail a subject.',
            trim($this->text) === '' => 'Say what the mail says.',
            default => null,
        };
    }
}
