<?php

declare(strict_types=1);

namespace Brenvic\Core\Reports;

/** How a table is drawn: one or several of its columns against another. */
final readonly class Plot
{
    /** Bars that lie, each with its name in front: for things that have names. */
    public const BARS = 'bars';

    /** Columns that stand side by side: for times. */
    public const COLUMNS = 'columns';

    /**
     * @param  int  $along  number of the column that names the bars, from 0
     * @param  list<int>  $of  numbers of the columns that are drawn, each in a row of its own
     */
    public function __construct(public string $kind, public int $along, public array $of)
    {
    }
}
