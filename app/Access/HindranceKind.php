<?php

declare(strict_types=1);

namespace App\Access;

/** What keeps somebody from changing a document; the first that holds is told. */
enum HindranceKind: string
{
    /** Their role, or their right in its library. */
    case Right = 'right';

    /** An access rule of the design. */
    case Rule = 'rule';

    case Hold = 'hold';

    case CheckedOut = 'checked_out';

    /** A procedure has locked it. */
    case Procedure = 'procedure';

    case Template = 'template';

    /** Nothing of it is left to be changed. */
    case Destroyed = 'destroyed';

    /** Whether it is about the person, and not about what the document stands in at the moment. */
    public function isOfPerson(): bool
    {
        return $this === self::Right || $this === self::Rule;
    }
}
