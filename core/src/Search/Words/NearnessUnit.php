<?php

declare(strict_types=1);

namespace Brenvic\Core\Search\Words;

/** What `prox` counts in. */
enum NearnessUnit: string
{
    case Word = 'word';
    case Sentence = 'sentence';
    case Paragraph = 'paragraph';
}
