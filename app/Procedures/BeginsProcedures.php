<?php

declare(strict_types=1);

namespace App\Procedures;

use App\Catalog\Catalog;
use App\Support\Refused;
use Brenvic\Core\Design\ProcedurePart;
use Brenvic\Core\Procedures\Acts\Act;
use Brenvic\Core\Procedures\Acts\BeginProcedure;

/** @implements Performs<BeginProcedure> */
final readonly class BeginsProcedures implements Performs
{
    public function __construct(private Catalog $catalog, private Cases $cases)
    {
    }

    public function perform(Act $act, Doing $doing): string
    {
        $part = $this->catalog->design()->one(ProcedurePart::class, $act->procedure)
            ?? throw new Refused("There is no procedure “{$act->procedure}” any more.");
        $this->cases->begin($part, $doing->document, null);

        return "Began “{$part->name}”";
    }
}
