<?php

declare(strict_types=1);

namespace Brenvic\Core\Versions;

enum DiffKind: string
{
    case Same = 'same';
    case TakenOut = 'taken_out';
    case PutIn = 'put_in';
}
