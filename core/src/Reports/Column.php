<?php

declare(strict_types=1);

namespace Brenvic\Core\Reports;

/** A column of a report. */
final readonly class Column
{
    public function __construct(public string $name, public Measure $measure = Measure::Count)
    {
    }

    public static function text(string $name): self
    {
        return new self($name, Measure::Text);
    }
}
