<?php

declare(strict_types=1);

namespace Brenvic\Core\Exchange\Sru\Serving;

/** The versions of SRU that are served: 1.1 and 1.2 (Library of Congress) and 2.0 (OASIS searchRetrieve, parts 3, 6 and 7). */
enum Version: string
{
    case V11 = '1.1';
    case V12 = '1.2';
    case V20 = '2.0';

    /** The namespace of its responses. */
    public function space(Operation $operation): string
    {
        return match (true) {
            $this !== self::V20 => 'http://www.loc.gov/zing/srw/',
            $operation === Operation::Scan => 'http://docs.oasis-open.org/ns/search-ws/scan',
            default => 'http://docs.oasis-open.org/ns/search-ws/sruResponse',
        };
    }

    public function diagnosticSpace(): string
    {
        return $this === self::V20 ? 'http://docs.oasis-open.org/ns/search-ws/diagnostic' : 'http://www.loc.gov/zing/srw/diagnostic/';
    }

    /** What the element is called that says how records stand in the answer. */
    public function packing(): string
    {
        return $this === self::V20 ? 'recordXMLEscaping' : 'recordPacking';
    }
}
