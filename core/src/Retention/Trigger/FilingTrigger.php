<?php

declare(strict_types=1);

namespace Brenvic\Core\Retention\Trigger;

use Brenvic\Core\Fields\PartialDate;
use Brenvic\Core\Retention\Facts\KeptDocument;

/** Its filing. */
final readonly class FilingTrigger implements Trigger
{
    public function of(KeptDocument $document): Begun
    {
        return $document->filed === null
            ? Begun::unknown('not known when it was filed')
            : Begun::on(PartialDate::parse($document->filed)->firstDay());
    }

    public function words(): string
    {
        return 'filing';
    }

    public function about(): ?About
    {
        return null;
    }

    public function fault(): ?string
    {
        return null;
    }
}
