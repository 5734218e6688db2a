<?php

declare(strict_types=1);

namespace Brenvic\Core\Retention\Trigger;

use Brenvic\Core\Retention\Facts\KeptDocument;

/** What begins the period of a rule. */
interface Trigger
{
    /** When it came for a document. */
    public function of(KeptDocument $document): Begun;

    /** Read behind "7 years after". */
    public function words(): string;

    /** What it is about, of which a design says whether there is such a thing; null for nothing. */
    public function about(): ?About;

    /** Why it can never come, as the design is; null when it can. */
    public function fault(): ?string;
}
