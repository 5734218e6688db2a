<?php

declare(strict_types=1);

namespace App\Webhooks;

use App\History\Act;

/** What programs may be told of. */
enum Happening: string
{
    case Filed = 'filed';
    case Changed = 'changed';
    case Removed = 'removed';
    case Decided = 'decided';
    case Delivered = 'delivered';

    public function label(): string
    {
        return match ($this) {
            self::Filed => 'A document is filed',
            self::Changed => 'A document is changed',
            self::Removed => 'A document is removed or destroyed',
            self::Decided => 'A decision in a procedure',
            self::Delivered => 'A document is delivered',
        };
    }

    /** @return list<Act> */
    public function acts(): array
    {
        return match ($this) {
            self::Filed => [Act::Filed, Act::Restored],
            self::Changed => [Act::Changed, Act::NewVersion, Act::Moved, Act::Renamed, Act::ChangedOutside],
            self::Removed => [Act::Removed, Act::Destroyed, Act::Unfiled],
            self::Decided => [Act::Decided],
            self::Delivered => [Act::Delivered],
        };
    }

    /** Whether only those learn of it who may read the history of the document. */
    public function isHistory(): bool
    {
        return $this === self::Decided || $this === self::Delivered;
    }

    public static function of(string $act): ?self
    {
        foreach (self::cases() as $kind) {
            if (in_array(Act::tryFrom($act), $kind->acts(), true)) {
                return $kind;
            }
        }

        return null;
    }
}
