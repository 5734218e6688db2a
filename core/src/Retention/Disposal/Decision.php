<?php

declare(strict_types=1);

namespace Brenvic\Core\Retention\Disposal;

/** What is decided about one document that is due. */
enum Decision: string
{
    case Release = 'release';
    case Postpone = 'postpone';
    case Keep = 'keep';

    public function label(): string
    {
        return match ($this) {
            self::Release => 'Released',
            self::Postpone => 'Postponed',
            self::Keep => 'Kept',
        };
    }

    public function needsReason(): bool
    {
        return $this !== self::Release;
    }
}
