<?php

declare(strict_types=1);

namespace Brenvic\Core\Design;

/**
 * What a publication did to one value of a document or dossier: it wrote it in another form or field, put it aside for
 * another value (`newField` and `newValue` name that, `newPosition` is null), or made it (`field` is null).
 */
final readonly class ValueChange
{
    public function __construct(
        public ?string $field,
        public ?int $position,
        public ?string $value,
        public ?string $newField = null,
        public ?int $newPosition = null,
        public ?string $newValue = null,
    ) {
    }

    /** What this change did, the other way round. */
    public function inverse(): self
    {
        return $this->newPosition === null
            ? new self(null, null, null, $this->field, $this->position, $this->value)
            : new self($this->newField, $this->newPosition, $this->newValue, $this->field, $this->position, $this->value);
    }
}
