<?php

declare(strict_types=1);

namespace Bench;

/** Another engine that answers the same questions about the same collection. */
interface Peer
{
    public function name(): string;

    /** @return int the total, after all facets and the first 50 by date and by relevance were fetched */
    public function ask(Question $question): int;
}
