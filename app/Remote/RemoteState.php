<?php

declare(strict_types=1);

namespace App\Remote;

/** How asking a repository elsewhere went. */
enum RemoteState: string
{
    case Found = 'found';

    /** It took too long. */
    case Slow = 'slow';

    /** It did not answer, or not as it should. */
    case Unreachable = 'unreachable';

    /** It does not take the question. */
    case Refused = 'refused';

    /** It is still answering others; worth asking again in a moment. */
    case Busy = 'busy';
}
