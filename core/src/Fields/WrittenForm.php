<?php

declare(strict_types=1);

namespace Brenvic\Core\Fields;

/** How a person has values written. What is made for all, like titles, the index and deliveries, is written in the usual form. */
final readonly class WrittenForm
{
    public function __construct(public DateForm $dates = DateForm::Words, public NumberForm $numbers = NumberForm::Point)
    {
    }

    public function isUsual(): bool
    {
        return $this->dates === DateForm::Words && $this->numbers === NumberForm::Point;
    }

    public function key(): string
    {
        return "{$this->dates->value}/{$this->numbers->value}";
    }
}
