<?php

declare(strict_types=1);

namespace App\Access;

/** What somebody wants to change of a filed document. */
enum Change
{
    /** Its type and its values. */
    case Values;

    /** The library it is in. */
    case Place;

    /** Its file, by a new version. */
    case File;

    /** Whether it is there at all: removing it from view, and destroying it. */
    case Presence;
}
