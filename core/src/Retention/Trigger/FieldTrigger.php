<?php

declare(strict_types=1);

namespace Brenvic\Core\Retention\Trigger;

use Brenvic\Core\Fields\FieldDefinition;
use Brenvic\Core\Fields\InvalidValue;
use Brenvic\Core\Retention\Facts\KeptDocument;

/** A date in a field. Of several the latest counts, and of a year or a stretch its last day: nothing falls due too early. */
final readonly class FieldTrigger implements Trigger
{
    public function __construct(private string $code, private ?FieldDefinition $field)
    {
    }

    public function of(KeptDocument $document): Begun
    {
        $field = $this->field;
        if ($field === null) {
            return Begun::unknown("without {$this->code}");
        }
        $days = [];
        foreach ($document->values[$this->code] ?? [] as $normal) {
            try {
                $days[] = $field->kind->lastOrdinal($field, $normal);
            } catch (InvalidValue) {
                // What cannot be read as a date is none.
            }
        }
        $days = array_filter($days, is_int(...));

        return $days === [] ? Begun::unknown("without {$field->label}") : Begun::on(max($days));
    }

    public function words(): string
    {
        return $this->field->label ?? $this->code;
    }

    public function about(): About
    {
        return new About(About::FIELD, $this->code);
    }

    public function fault(): ?string
    {
        return match (true) {
            $this->field === null => "A retention rule counts from “{$this->code}”, and there is no such field.",
            ! $this->field->kind->isDate() && ! $this->field->kind->isStretch() => "A retention rule counts from {$this->field->label}, which is not a date.",
            default => null,
        };
    }
}
