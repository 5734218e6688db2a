<?php

declare(strict_types=1);

namespace Brenvic\Core\Redaction;

use Brenvic\Core\Pages\Box;
use Brenvic\Core\Pages\Hit;

/** What is to be removed from one page: a place in its text, or areas of it. */
final readonly class Mark
{
    /** @param  list<Box>  $areas */
    public function __construct(
        public ?Hit $hit,
        public array $areas = [],
        public string $reason = '',
    ) {
    }
}
