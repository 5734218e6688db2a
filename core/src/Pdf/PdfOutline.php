<?php

declare(strict_types=1);

namespace Brenvic\Core\Pdf;

/**
 * The bookmarks of a PDF (ISO 32000-1, 12.3.3). Entries that share the beginning of their paths stand below one another.
 * Each is written as soon as what follows it is known, so that only the folders, and the last entry of each, are held.
 */
final class PdfOutline
{
    private readonly Bookmark $root;

    public function __construct(private readonly PdfJoin $pdf)
    {
        $this->root = new Bookmark($pdf->reserve(), '', 0, null, null, true);
    }

    /**
     * @param  non-empty-list<string>  $path  names from the outermost in; the last is the entry's own
     * @param  int  $page  the object of the page it leads to
     */
    public function add(array $path, int $page): void
    {
        $name = array_pop($path);
        $folder = $this->root;
        foreach ($path as $within) {
            // Folders are one for all that lie in them; documents of one name stay several.
            $folder = $folder->folders[$within] ??= $this->put($folder, $within, $page, true);
        }
        $this->put($folder, $name, $page, false);
    }

    /**
     * Writes what is left.
     *
     * @return int the outline's own object
     */
    public function end(): int
    {
        $this->shut($this->root);

        return $this->root->object;
    }

    private function put(Bookmark $folder, string $name, int $page, bool $isFolder): Bookmark
    {
        $made = new Bookmark($this->pdf->reserve(), $name, $page, $folder, $folder->last?->object, $isFolder);
        $before = $folder->last;
        if ($before !== null) {
            $before->next = $made->object;
            $before->isFolder || $this->write($before);
        }
        $folder->first ??= $made->object;
        $folder->last = $made;
        $folder->count++;

        return $made;
    }

    private function shut(Bookmark $folder): void
    {
        array_map($this->shut(...), $folder->folders);
        $folder->last === null || $folder->last->isFolder || $this->write($folder->last);
        $this->write($folder);
    }

    private function write(Bookmark $of): void
    {
        $this->pdf->put(
            $of->object,
            '<< '.
                ($of->parent === null
                    ? '/Type /Outlines'
                    : '/Title '.PdfJoin::text($of->name)." /Parent {$of->parent->object} 0 R /Dest [ {$of->page} 0 R /Fit ]").
                ($of->previous === null ? '' : " /Prev {$of->previous} 0 R").
                ($of->next === null ? '' : " /Next {$of->next} 0 R").
                // Closed, so that a long list is seen at its top level first.
                ($of->last === null
                    ? ''
                    : " /First {$of->first} 0 R /Last {$of->last->object} 0 R /Count ".
                        ($of->parent === null ? $of->count : -$of->count)).
                ' >>',
        );
    }
}
