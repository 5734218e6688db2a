<?php

declare(strict_types=1);

namespace Brenvic\Core\Query;

enum TokenKind
{
    case Word;
    case Quoted;
    case Comparitor;
    case Open;
    case Close;
    case Slash;
    case End;
}
