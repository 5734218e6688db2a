<?php

declare(strict_types=1);

namespace Brenvic\Core\Design;

/** The values of one document or dossier when the changes of some publications are undone, where nobody has changed them since. */
final class Restoration
{
    /** @var list<ValueChange> what was done to come there, in order */
    public array $steps = [];

    /** @param  array<string, array<int, string>>  $cells  field => position => value */
    private function __construct(public array $cells)
    {
    }

    /**
     * @param  array<string, array<int, string>>  $cells  field => position => value, as they are
     * @param  iterable<ValueChange>  $changes  the latest first
     */
    public static function of(array $cells, iterable $changes): self
    {
        $made = new self($cells);
        foreach ($changes as $change) {
            $made->undo($change);
        }

        return $made;
    }

    /** @return list<string> codes of the fields whose values are other than before */
    public function fields(): array
    {
        $fields = [];
        foreach ($this->steps as $step) {
            $fields += array_fill_keys(array_filter([$step->field, $step->newField], is_string(...)), true);
        }

        return array_map(strval(...), array_keys($fields));
    }

    private function undo(ValueChange $change): void
    {
        if (! $this->stands($change) || ! $this->hasRoom($change)) {
            return;
        }
        if ($change->newField !== null && $change->newPosition !== null) {
            unset($this->cells[$change->newField][$change->newPosition]);
        }
        if ($change->field !== null) {
            $this->cells[$change->field][(int) $change->position] = (string) $change->value;
        }
        $this->steps[] = $change->inverse();
    }

    /** Whether what the change made is still as it left it. */
    private function stands(ValueChange $change): bool
    {
        if ($change->newField === null) {
            return true;
        }
        $there = $this->cells[$change->newField] ?? [];

        return $change->newPosition === null
            ? in_array($change->newValue, $there, true)
            : ($there[$change->newPosition] ?? null) === $change->newValue;
    }

    /** Whether the value can stand where it was. */
    private function hasRoom(ValueChange $change): bool
    {
        if ($change->field === null) {
            return true;
        }
        $there = $this->cells[$change->field] ?? [];
        if ($change->newField === $change->field && $change->newPosition !== null) {
            unset($there[$change->newPosition]);
        }

        return ! isset($there[(int) $change->position]) && ! in_array($change->value, $there, true);
    }
}
