<?php

declare(strict_types=1);

namespace Brenvic\Core\Query;

/** Tells what can stand before a relation: the names of what a person may search. */
interface IndexNames
{
    public function isIndex(string $name): bool;
}
