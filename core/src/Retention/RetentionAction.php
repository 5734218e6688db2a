<?php

declare(strict_types=1);

namespace Brenvic\Core\Retention;

/** What is done with a document when its time is over. */
enum RetentionAction: string
{
    case Review = 'review';
    case Destroy = 'destroy';
    case HandOver = 'hand_over';
    case Keep = 'keep';

    public function label(): string
    {
        return match ($this) {
            self::Review => 'Review',
            self::Destroy => 'Destroy',
            self::HandOver => 'Hand over to an archive',
            self::Keep => 'Keep permanently',
        };
    }
}
