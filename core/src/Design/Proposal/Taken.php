<?php

declare(strict_types=1);

namespace Brenvic\Core\Design\Proposal;

/** What somebody decided about the proposal of one column. */
final readonly class Taken
{
    /**
     * @param  bool  $isTaken  whether it becomes a field, or is the existing one
     * @param  string  $kind  one of the readings
     * @param  string|null  $existing  the code of the field of the design that it is
     * @param  int|null  $into  the place of the column whose field has its values too
     * @param  bool  $isTree  whether its values stand below those of the column that it refines, in one vocabulary
     * @param  bool  $addsTerms  whether values that the existing field does not know become terms of it
     */
    public function __construct(
        public bool $isTaken,
        public string $label,
        public string $kind,
        public ?string $existing,
        public ?int $into = null,
        public bool $isTree = false,
        public bool $addsTerms = false,
    ) {
    }

    /**
     * What the proposal itself says.
     *
     * @param  int|null  $typeColumn  the column that names the types is told by them
     */
    public static function proposed(ColumnProposal $column, ?int $typeColumn): self
    {
        return new self(
            ! $column->isLeftOut && $column->sameAs === null && $column->distinct > 0 && $column->place !== $typeColumn,
            $column->name,
            $column->kind(),
            $column->existing,
        );
    }
}
