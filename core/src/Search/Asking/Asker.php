<?php

declare(strict_types=1);

namespace Brenvic\Core\Search\Asking;

use Brenvic\Core\Query\Node;
use Brenvic\Core\Query\Printer;

/** Who asks: everything a search returns is made from the documents that this asker may see, and from no other. */
final readonly class Asker
{
    /**
     * @param  list<string>  $libraries  codes of the libraries the asker may see
     * @param  list<Node>  $withheld  what finds the documents in them that the asker may not see all the same
     * @param  SearchSchema|null  $rules  the fields those are written with, sensitive ones too; needed when there are any
     * @param  string  $design  changes whenever that schema means something else
     * @param  self|null  $and  somebody else who must be allowed to see a document too
     */
    public function __construct(
        public array $libraries,
        public array $withheld = [],
        public ?SearchSchema $rules = null,
        public string $design = '',
        public ?self $and = null,
    ) {
    }

    /** A name that all askers who may see the same share. */
    public function name(): string
    {
        $libraries = $this->libraries;
        sort($libraries);
        $withheld = array_map(Printer::node(...), $this->withheld);
        sort($withheld);

        return md5(implode("\n", [...$libraries, '', ...$withheld, $withheld === [] ? '' : $this->design, $this->and?->name() ?? '']));
    }
}
