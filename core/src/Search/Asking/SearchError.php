<?php

declare(strict_types=1);

namespace Brenvic\Core\Search\Asking;

use RuntimeException;

/** A query that can be read and yet cannot be answered. The message says which part, and what to write instead. */
final class SearchError extends RuntimeException
{
    public function __construct(
        string $message,
        public readonly ?string $suggestion = null,
        public readonly SearchFault $fault = SearchFault::Other,
    ) {
        parent::__construct($message);
    }
}
