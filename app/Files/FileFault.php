<?php

declare(strict_types=1);

namespace App\Files;

/** What can be wrong with a stored file. */
enum FileFault: string
{
    case Missing = 'missing';
    case Damaged = 'damaged';

    public function words(): string
    {
        return match ($this) {
            self::Missing => 'The file is not in its place any more. Its text and values are here; tell whoever runs Brenvic to bring the file back from a backup.',
            self::Damaged => 'The file was damaged since it was stored, so it is not given out. Tell whoever runs Brenvic to bring it back from a backup.',
        };
    }
}
