<?php

declare(strict_types=1);

namespace App\Versions;

use App\Models\MadeHow;
use Brenvic\Core\Versions\PageMap;

/** How a version came to be. */
final readonly class NewVersion
{
    /**
     * @param  array<string, mixed>  $through  whose hands outside it went through, for the history
     * @param  PageMap|null  $pages  how its pages come from those of the version before, where that is known
     */
    public function __construct(
        public MadeHow $how,
        public string $note,
        public array $through = [],
        public ?PageMap $pages = null,
    ) {
    }
}
