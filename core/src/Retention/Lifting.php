<?php

declare(strict_types=1);

namespace Brenvic\Core\Retention;

use Brenvic\Core\Fields\FieldDefinition;
use Brenvic\Core\Retention\Facts\KeptDocument;

/** A value that lifts a rule for as long as a document has it: "while Result is disputed". */
final readonly class Lifting
{
    /** @param  list<string>  $values  normal forms, any of which does; none means any value */
    public function __construct(
        public string $code,
        private array $values,
        private ?FieldDefinition $field,
    ) {
    }

    public function holds(KeptDocument $document): bool
    {
        $has = $document->values[$this->code] ?? [];

        return $this->values === [] ? $has !== [] : array_intersect($has, $this->values) !== [];
    }

    public function words(): string
    {
        $label = $this->field->label ?? $this->code;
        $shown = array_map(fn (string $value): string => $this->field === null ? $value : $this->field->display($value), $this->values);

        return $shown === [] ? "{$label} is filled in" : "{$label} is ".implode(' or ', $shown);
    }

    public function fault(): ?string
    {
        return $this->field === null ? "A retention rule is lifted by “{$this->code}”, and there is no such field." : null;
    }
}
