<?php

declare(strict_types=1);

namespace App\Procedures;

use App\Models\CheckOut;
use App\Support\Refused;
use Brenvic\Core\Procedures\Acts\Act;
use Brenvic\Core\Procedures\Acts\LockVersion;

/** @implements Performs<LockVersion> */
final readonly class LocksVersions implements Performs
{
    public function perform(Act $act, Doing $doing): string
    {
        $out = CheckOut::query()->with('user')->where('document_id', $doing->document->id)->first();
        if ($out !== null) {
            throw new Refused("{$out->user->name} has checked the document out, so it cannot be locked.");
        }
        $doing->document->update(['locked_by_case' => $doing->case->id]);

        return "Version {$doing->document->version} locked";
    }
}
