<?php

declare(strict_types=1);

namespace Brenvic\Core\Pages;

/** What is laid over a page. */
enum AnnotationKind: string
{
    case Highlight = 'highlight';
    case Note = 'note';
    case Stamp = 'stamp';
    case Pen = 'pen';
}
