<?php

declare(strict_types=1);

namespace Brenvic\Core\Search;

/** Who asks: everything a search returns is made from the documents of these libraries alone. */
final readonly class Asker
{
    /** @param  list<string>  $libraries codes of the libraries the asker may see */
    public function __construct(public array $libraries)
    {
    }

    /** A name that all askers who may see the same share. */
    public function name(): string
    {
        $libraries = $this->libraries;
        sort($libraries);

        return md5(implode("\n", $libraries));
    }
}
