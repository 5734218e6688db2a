<?php

declare(strict_types=1);

namespace Brenvic\Core\Pdf;

/** A bookmark that is not written yet: a folder to which more may come, or the last document of one. */
final class Bookmark
{
    /** @var array<string, Bookmark> the folders in it, by name */
    public array $folders = [];

    public ?int $first = null;

    public ?Bookmark $last = null;

    public ?int $next = null;

    public int $count = 0;

    /**
     * @param  int  $object  its number
     * @param  int  $page  the object of the page it leads to
     */
    public function __construct(
        public readonly int $object,
        public readonly string $name,
        public readonly int $page,
        public readonly ?Bookmark $parent,
        public readonly ?int $previous,
        public readonly bool $isFolder,
    ) {
    }
}
