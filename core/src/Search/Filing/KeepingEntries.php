<?php

declare(strict_types=1);

namespace Brenvic\Core\Search\Filing;

use Brenvic\Core\Retention\Keeping;

/** What a document puts into the index of how long it is kept. */
final class KeepingEntries
{
    public const FIELDS = ['retention', 'retention_due', 'retention_action', 'retention_rule'];

    /** @return array{values: array<string, list<string>>, ordinals: array<string, list<int>>} by field code */
    public static function of(Keeping $keeping): array
    {
        $values = ['retention' => [$keeping->state->value]];
        if ($keeping->rule !== null) {
            $values['retention_rule'] = [$keeping->rule->code];
            $values['retention_action'] = [$keeping->rule->action->value];
        }
        $due = $keeping->dueOn()?->iso();
        if ($due === null) {
            return ['values' => $values, 'ordinals' => []];
        }

        // Dates are counted by year and month, as those of other fields are.
        return [
            'values' => [...$values, 'retention_due' => [substr($due, 0, 4), substr($due, 0, 7)]],
            'ordinals' => ['retention_due' => [(int) $keeping->due]],
        ];
    }
}
