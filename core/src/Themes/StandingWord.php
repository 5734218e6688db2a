<?php

declare(strict_types=1);

namespace Brenvic\Core\Themes;

use Brenvic\Core\Facets\StandingOut;

/** A word that is more frequent in a result than in all that one may see. */
final readonly class StandingWord
{
    /** @param  int  $count  documents of the result in whose text it stands */
    public function __construct(public string $word, public int $count, public StandingOut $standingOut)
    {
    }
}
