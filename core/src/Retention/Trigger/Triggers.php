<?php

declare(strict_types=1);

namespace Brenvic\Core\Retention\Trigger;

use Brenvic\Core\Fields\FieldDefinition;

/** The events that periods are counted from, by what a design calls them; everything else is a field with a date. */
final class Triggers
{
    public const FILING = 'created';

    public const DOSSIER = 'dossier_closed';

    public const PROCEDURE = 'procedure_ended';

    public const SUPERSEDED = 'superseded';

    /** What is no field, so that no field may be called so. */
    public const EVENTS = [self::DOSSIER, self::PROCEDURE, self::SUPERSEDED];

    /**
     * @param  string|null  $of  the dossier kind, procedure or field that the event is of
     * @param  array<string, FieldDefinition>  $fields  of the design, by code
     * @param  array<string, string>  $procedures  their names by code
     */
    public static function named(string $name, ?string $of, array $fields, array $procedures): Trigger
    {
        return match ($name) {
            self::FILING => new FilingTrigger,
            self::DOSSIER => new DossierTrigger($of),
            self::PROCEDURE => new ProcedureTrigger($of, $of === null ? '' : $procedures[$of] ?? $of),
            self::SUPERSEDED => new SupersededTrigger((string) $of, $fields[(string) $of] ?? null),
            default => new FieldTrigger($name, $fields[$name] ?? null),
        };
    }
}
