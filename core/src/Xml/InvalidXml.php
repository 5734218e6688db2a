<?php

declare(strict_types=1);

namespace Brenvic\Core\Xml;

use RuntimeException;

/** Text that is not XML, or XML that declares what it may not. */
final class InvalidXml extends RuntimeException
{
    /** @param  bool  $declares  whether it is XML with a document type of its own */
    public function __construct(public readonly bool $declares)
    {
        parent::__construct($declares ? 'The XML declares a document type.' : 'The text is not XML.');
    }
}
