<?php

declare(strict_types=1);

namespace Brenvic\Core\Design\Proposal;

/** One way to read a column: as which kind of field, and how much of it that holds for. */
final readonly class Reading
{
    /**
     * @param  string  $kind  of field, see FieldKinds
     * @param  float  $share  of the filled rows that can be read so, 0 to 1
     * @param  array<int|string, int>  $misfits  values that cannot, the most frequent first => rows
     * @param  list<string>  $says  what was found out and how it was decided, in sentences without a stop
     * @param  string  $unit  of numbers, or the currency of amounts
     * @param  string  $pattern  of identifiers, as fields have it
     * @param  DateOrder|null  $order  of days and months in numbers
     * @param  string  $decimalSign  `.` or `,`
     * @param  list<string>  $nothing  what stands for no value
     */
    public function __construct(
        public string $kind,
        public float $share,
        public array $misfits = [],
        public array $says = [],
        public string $unit = '',
        public string $pattern = '',
        public ?DateOrder $order = null,
        public string $decimalSign = '.',
        public array $nothing = [],
    ) {
    }

    /** Whether a cell has a sign for no value. */
    public function leavesOut(string $text): bool
    {
        return in_array($text, $this->nothing, true);
    }

    /** @param  list<string>  $nothing */
    public function without(array $nothing, string $more): self
    {
        return new self(
            $this->kind,
            $this->share,
            $this->misfits,
            [...$this->says, $more],
            $this->unit,
            $this->pattern,
            $this->order,
            $this->decimalSign,
            $nothing,
        );
    }
}
