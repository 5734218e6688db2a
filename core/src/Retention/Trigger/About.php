<?php

declare(strict_types=1);

namespace Brenvic\Core\Retention\Trigger;

/** A part of the design that a rule counts from. */
final readonly class About
{
    public const FIELD = 'field';

    public const DOSSIER_KIND = 'dossier_kind';

    public const PROCEDURE = 'procedure';

    public function __construct(public string $kind, public string $code)
    {
    }
}
