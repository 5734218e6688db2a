<?php

declare(strict_types=1);

namespace App\Jobs;

/**
 * The queues, the most urgent first: what a person waits for, what a person started, bulk, and what nobody misses yet. One
 * worker takes all of them in this order, the others leave the last two alone, so that they never hold everything up.
 */
enum Urgency: string
{
    case Awaited = 'awaited';
    case Started = 'started';
    case Bulk = 'bulk';
    case Idle = 'idle';

    /** By how many documents something takes in. */
    public static function of(int $documents): self
    {
        return match (true) {
            $documents <= 50 => self::Awaited,
            $documents <= 1_000 => self::Started,
            default => self::Bulk,
        };
    }
}
