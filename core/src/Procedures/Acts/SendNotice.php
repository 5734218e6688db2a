<?php

declare(strict_types=1);

namespace Brenvic\Core\Procedures\Acts;

use Brenvic\Core\Procedures\Asking\Party;
use Brenvic\Core\Procedures\Shape\Detail;

/** Tells people of the office something. */
final readonly class SendNotice extends Act
{
    /** @param  string  $text  with values of fields as {code} */
    public function __construct(public ?Party $to, public string $text)
    {
    }

    public static function read(array $content): self
    {
        /** @var array<string, mixed> $to */
        $to = is_array($content['to'] ?? null) ? $content['to'] : [];

        return new self(Party::of($to), Detail::text($content, 'text'));
    }

    public function fault(): ?string
    {
        return match (true) {
            $this->to === null => 'Say who is told.',
            trim($this->text) === '' => 'Say what they are told.',
            default => null,
        };
    }

    public function groups(): array
    {
        return $this->to?->groups() ?? [];
    }

    public function fields(): array
    {
        return $this->to?->fields() ?? [];
    }
}
