<?php

declare(strict_types=1);

namespace Brenvic\Core\Retention\Trigger;

/** When a period began: on a day, or not yet, or nobody knows. */
final readonly class Begun
{
    private function __construct(
        public ?int $day,
        public bool $isToCome,
        public string $why,
    ) {
    }

    /** @param  int  $day  as PartialDate counts them */
    public static function on(int $day): self
    {
        return new self($day, false, '');
    }

    public static function toCome(string $why): self
    {
        return new self(null, true, $why);
    }

    public static function unknown(string $why): self
    {
        return new self(null, false, $why);
    }
}
