<?php

declare(strict_types=1);

namespace App\Reports;

use Brenvic\Core\Reports\Span;

/** What a report is asked to be about. */
final readonly class Asked
{
    /**
     * @param  string|null  $library  code, to narrow it
     * @param  string|null  $type  code
     */
    public function __construct(public Span $span, public ?string $library = null, public ?string $type = null)
    {
    }
}
