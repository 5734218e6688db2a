<?php

declare(strict_types=1);

namespace Brenvic\Core\Design\Proposal;

/** What becomes of rows that a value gathers. */
enum GatheredAs: string
{
    case Dossiers = 'dossiers';
    case Table = 'table';
    case Nothing = 'nothing';
}
