<?php

declare(strict_types=1);

namespace Brenvic\Core\Design;

/**
 * Which documents changes of the design touch, as far as titles and the index are made of it: those that have a value in
 * some fields, and those of some types, in dossiers of some kinds, or in some libraries. Each kind of part says what
 * `Search\Filing\DocumentEntries` reads of it; what says nothing decides only how documents are looked at.
 */
final readonly class Touched
{
    /**
     * @param  list<string>  $fields  codes, as all of these
     * @param  list<string>  $types
     * @param  list<string>  $dossierKinds
     * @param  list<string>  $libraries
     */
    public function __construct(
        public array $fields = [],
        public array $types = [],
        public array $dossierKinds = [],
        public array $libraries = [],
    ) {
    }

    /**
     * Whether nothing but retention rules differs: texts, titles and values stay as they are in the index.
     *
     * @param  list<DesignChange>  $changes
     */
    public static function isOnlyRetention(array $changes): bool
    {
        foreach ($changes as $change) {
            if ($change->before === null || $change->after === null || ! Design::same(self::bare($change->before), self::bare($change->after))) {
                return false;
            }
        }

        return $changes !== [];
    }

    /**
     * @param  array<string, mixed>  $content
     * @return array<string, mixed> without retention rules
     */
    private static function bare(array $content): array
    {
        $content['retention'] = null;
        $content['terms'] = array_map(
            static fn (array $term): array => [...$term, 'retention' => null],
            Design::entries($content, 'terms'),
        );

        return $content;
    }

    /** @param  list<DesignChange>  $changes */
    public static function by(array $changes, Design $new): self
    {
        $all = array_map(static fn (DesignChange $change): self => $change->kind->part()::touchedBy($change, $new), $changes);

        return new self(
            array_merge([], ...array_map(static fn (self $of): array => $of->fields, $all)),
            array_merge([], ...array_map(static fn (self $of): array => $of->types, $all)),
            array_merge([], ...array_map(static fn (self $of): array => $of->dossierKinds, $all)),
            array_merge([], ...array_map(static fn (self $of): array => $of->libraries, $all)),
        );
    }
}
