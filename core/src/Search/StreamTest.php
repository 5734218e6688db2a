<?php

declare(strict_types=1);

namespace Brenvic\Core\Search;

/** A condition on the words of one part of a document, in order (see ForwardRecord and Breaks). */
interface StreamTest
{
    /** How far apart what is looked for stands at the nearest, 0 directly together; null when it is not there. */
    public function distance(string $words, string $breaks): ?int;
}
