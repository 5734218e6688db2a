<?php

declare(strict_types=1);

namespace Brenvic\Core\Classification;

/** One statement of RDF. Blank nodes are named `_:…`. */
final readonly class Triple
{
    /**
     * @param  bool  $isText  whether the object is a literal
     * @param  string  $language  BCP 47 tag of a literal; empty for none
     * @param  string  $datatype  address of the datatype of a literal; empty for a plain string
     */
    public function __construct(
        public string $subject,
        public string $predicate,
        public string $object,
        public bool $isText = false,
        public string $language = '',
        public string $datatype = '',
    ) {
    }
}
