<?php

declare(strict_types=1);

namespace Brenvic\Core\Copies;

use Brenvic\Core\Index\Bits;
use Brenvic\Core\Index\DocumentSet;
use WeakMap;

/**
 * Counts near copies once. A document of a set is left out if a later one of the same set is of its family, that is, has one of its
 * `TextPrint::families` in common. Whether it is depends on these two alone, so that what somebody may not see changes nothing.
 */
final class Once
{
    /** @var WeakMap<DocumentSet, DocumentSet> what was left of sets */
    private WeakMap $left;

    /**
     * @param  list<int>  $families  the documents of one family after the other, ascending, 0 behind each
     * @param  string  $name  another one when the families are others
     * @param  DocumentSet|null  $apart  documents that are told apart from all others
     */
    public function __construct(private readonly array $families, public readonly string $name, private readonly ?DocumentSet $apart = null)
    {
        $this->left = new WeakMap();
    }

    /** The documents of a set without those that a later one stands for. */
    public function of(DocumentSet $set): DocumentSet
    {
        return $this->left[$set] ??= $this->without($set);
    }

    private function without(DocumentSet $set): DocumentSet
    {
        $left = [];
        foreach ($this->met($set) as $family) {
            array_pop($family);
            foreach ($family as $document) {
                $left[] = $document;
            }
        }

        return $left === [] ? $set : $set->minus(DocumentSet::of($left));
    }

    /**
     * @param  list<int>  $documents  of those that `of` left in
     * @return array<int, int> for how many others of the set each stands, where it does
     */
    public function behind(array $documents, DocumentSet $set): array
    {
        $asked = array_flip($documents);
        $behind = [];
        foreach ($this->met($set) as $family) {
            $last = array_pop($family);
            if (isset($asked[$last])) {
                $behind[$last] = ($behind[$last] ?? []) + array_flip($family);
            }
        }

        return array_map(count(...), $behind);
    }

    /** @return list<int> the others of a set that one of it stands for, ascending */
    public function copies(int $document, DocumentSet $set): array
    {
        $copies = [];
        foreach ($this->met($set) as $family) {
            if (array_pop($family) === $document) {
                $copies += array_flip($family);
            }
        }
        ksort($copies);

        return array_keys($copies);
    }

    /** @return list<non-empty-list<int>> what of each family is in a set, where that is more than one */
    private function met(DocumentSet $set): array
    {
        $segments = ($this->apart === null ? $set : $set->minus($this->apart))->segments;
        $met = $family = [];
        foreach ($this->families as $document) {
            if ($document === 0) {
                if (count($family) > 1) {
                    $met[] = $family;
                }
                $family = [];
            } elseif (isset($segments[$document >> 16]) && Bits::has($segments[$document >> 16], $document & 0xFFFF)) {
                $family[] = $document;
            }
        }

        return $met;
    }
}
