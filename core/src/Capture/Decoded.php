<?php

declare(strict_types=1);

namespace Brenvic\Core\Capture;

/** A text brought to UTF-8. */
final readonly class Decoded
{
    /**
     * @param  string  $encoding  what it was in, by its name in the IANA registry
     * @param  bool  $isSure  whether the file says so or can be nothing else
     */
    public function __construct(public string $text, public string $encoding, public bool $isSure)
    {
    }

    /** What people are told when it is only a guess; empty otherwise. */
    public function note(): string
    {
        return $this->isSure
            ? ''
            : "The file does not say how its letters are encoded. It was read as {$this->encoding}; if words look wrong, that is why.";
    }
}
