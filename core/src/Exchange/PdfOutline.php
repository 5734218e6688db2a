<?php

declare(strict_types=1);

namespace Brenvic\Core\Exchange;

/**
 * The bookmarks of a PDF (ISO 32000-1, 12.3.3) as objects in the JSON form of qpdf, version 2. Entries that share the
 * beginning of their paths stand below one another.
 */
final class PdfOutline
{
    /** @var array<string, mixed> */
    private array $objects = [];

    private function __construct(private int $last)
    {
    }

    /**
     * @param  list<array{path: list<string>, page: string}>  $entries  names from the outermost in, and the page object (`12 0 R`)
     * @param  int  $highest  the highest number of an object there is
     * @return array{objects: array<string, mixed>, root: string, highest: int} objects by name, the outline's own, and the highest number now
     */
    public static function of(array $entries, int $highest): array
    {
        $tree = new Bookmark('', '');
        foreach ($entries as $i => ['path' => $path, 'page' => $page]) {
            $node = $tree;
            foreach ($path as $depth => $name) {
                // Folders are one for all that lie in them; documents of one name stay several.
                $key = $depth === count($path) - 1 ? "{$i} {$name}" : "/{$name}";
                $node = $node->below[$key] ??= new Bookmark($name, $page);
            }
        }
        $outline = new self($highest);
        $root = $outline->next();
        $children = $outline->level(array_values($tree->below), $root);
        $outline->objects["obj:{$root}"] = ['value' => ['/Type' => '/Outlines', ...$children]];

        return ['objects' => $outline->objects, 'root' => $root, 'highest' => $outline->last];
    }

    /**
     * @param  list<Bookmark>  $bookmarks
     * @return array<string, mixed> what the parent says of them
     */
    private function level(array $bookmarks, string $parent): array
    {
        if ($bookmarks === []) {
            return [];
        }
        $ids = array_map(fn (): string => $this->next(), $bookmarks);
        foreach ($bookmarks as $i => $bookmark) {
            $below = $this->level(array_values($bookmark->below), $ids[$i]);
            // Closed, so that a long list is seen at its top level first.
            $below = $below === [] ? [] : [...$below, '/Count' => -count($bookmark->below)];
            $this->objects["obj:{$ids[$i]}"] = ['value' => [
                '/Title' => "u:{$bookmark->name}", '/Parent' => $parent, '/Dest' => [$bookmark->page, '/Fit'],
                ...$i > 0 ? ['/Prev' => $ids[$i - 1]] : [], ...isset($ids[$i + 1]) ? ['/Next' => $ids[$i + 1]] : [], ...$below,
            ]];
        }

        return ['/First' => $ids[0], '/Last' => end($ids), '/Count' => count($ids)];
    }

    private function next(): string
    {
        return (++$this->last).' 0 R';
    }
}
