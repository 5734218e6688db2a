<?php

declare(strict_types=1);

namespace Brenvic\Core\Search;

/** A condition on the words of one part of a document, in order (see ForwardRecord). */
interface StreamTest
{
    public function holds(string $stream): bool;
}
