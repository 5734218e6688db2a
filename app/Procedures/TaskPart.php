<?php

declare(strict_types=1);

namespace App\Procedures;

/** The parts in which a person sees tasks. */
enum TaskPart: string
{
    /** Those that they took or were given, and questions to them. */
    case Mine = 'mine';

    /** Those that anybody of their groups may take. */
    case Groups = 'groups';

    /** What they began, decided before or look after, and others have. */
    case Others = 'others';
}
