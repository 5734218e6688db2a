<?php

declare(strict_types=1);

namespace App\Procedures;

use Brenvic\Core\Procedures\Acts\Act;
use Brenvic\Core\Procedures\Acts\ReleaseVersion;

/** @implements Performs<ReleaseVersion> */
final readonly class ReleasesVersions implements Performs
{
    public function perform(Act $act, Doing $doing): string
    {
        $doing->document->update(['locked_by_case' => null]);

        return 'Lock released';
    }
}
