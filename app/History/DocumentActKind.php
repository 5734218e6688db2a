<?php

declare(strict_types=1);

namespace App\History;

/** What was done to whole documents together. */
enum DocumentActKind: string
{
    case Copy = 'copy';
    case Move = 'move';
    case Sheets = 'sheets';
    case Remove = 'remove';
    case Bring = 'bring';
    case File = 'file';

    /** Whether it changed what documents say, not where they are. */
    public function isOfValues(): bool
    {
        return $this === self::Sheets || $this === self::Bring;
    }

    /** Why documents that it made are gone once it is undone. */
    public function undone(): string
    {
        return $this === self::Bring ? 'Bringing it in was undone.' : 'The copying was undone.';
    }
}
