<?php

declare(strict_types=1);

namespace Brenvic\Core\Search\Words;

use Brenvic\Core\Index\Stream;

/** A condition on the words of one part of a document, in order (see Stream). */
interface StreamTest
{
    /** How far apart what is looked for stands at the nearest, 0 directly together; null when it is not there. */
    public function distance(Stream $stream): ?int;

    /**
     * Bytes of which every stream that passes holds some, so that others need not be read.
     *
     * @param  list<int>  $widths  of the streams there are
     * @return list<string> none when that cannot be said in a few
     */
    public function needles(array $widths): array;
}
