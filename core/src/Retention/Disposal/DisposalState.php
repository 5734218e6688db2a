<?php

declare(strict_types=1);

namespace Brenvic\Core\Retention\Disposal;

/** How far a disposal has come. */
enum DisposalState: string
{
    case Preparing = 'preparing';
    case Review = 'review';
    case Approval = 'approval';
    /** What is handed over is put into a bag. */
    case Packing = 'packing';
    /** The archive has not said yet that it has it. */
    case Receipt = 'receipt';
    case Running = 'running';
    case Done = 'done';
    case Cancelled = 'cancelled';

    public function label(): string
    {
        return match ($this) {
            self::Preparing => 'Being prepared',
            self::Review => 'Under review',
            self::Approval => 'Waiting for approval',
            self::Packing => 'Being packed',
            self::Receipt => 'Waiting for the receipt',
            self::Running => 'Being carried out',
            self::Done => 'Carried out',
            self::Cancelled => 'Cancelled',
        };
    }

    /** Whether it can still be given up: nothing of it is done. */
    public function canBeCancelled(): bool
    {
        return in_array($this, [self::Preparing, self::Review, self::Approval, self::Packing, self::Receipt], true);
    }
}
