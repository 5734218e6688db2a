<?php

declare(strict_types=1);

namespace Brenvic\Core\Retention\Trigger;

use Brenvic\Core\Fields\PartialDate;
use Brenvic\Core\Retention\Facts\KeptDocument;

/** The closing of its dossier; of several, that of the last. */
final readonly class DossierTrigger implements Trigger
{
    /** @param  string|null  $kind  of dossiers; null for any */
    public function __construct(private ?string $kind)
    {
    }

    public function of(KeptDocument $document): Begun
    {
        $days = [];
        foreach ($document->dossiers as ['kind' => $kind, 'closed' => $closed]) {
            if ($this->kind !== null && $this->kind !== $kind) {
                continue;
            }
            if ($closed === null) {
                return Begun::toCome('its dossier is open');
            }
            $days[] = PartialDate::parse($closed)->firstDay();
        }

        return $days === [] ? Begun::unknown('in no dossier that could be closed') : Begun::on(max($days));
    }

    public function words(): string
    {
        return 'the closing of the dossier';
    }

    public function about(): ?About
    {
        return $this->kind === null ? null : new About(About::DOSSIER_KIND, $this->kind);
    }

    public function fault(): ?string
    {
        return null;
    }
}
