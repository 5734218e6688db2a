<?php

declare(strict_types=1);

namespace Brenvic\Core\Design;

/**
 * Which documents a change of the design touches, as far as titles and the index are made of it: those that have a value in
 * some fields, and those of some types, in dossiers of some kinds, or in some libraries. It names what
 * `Search\DocumentEntries` reads of each kind of part.
 */
final readonly class Touched
{
    /**
     * @param  list<string>  $fields  codes, as all of these
     * @param  list<string>  $types
     * @param  list<string>  $dossierKinds
     * @param  list<string>  $libraries
     */
    private function __construct(public array $fields, public array $types, public array $dossierKinds, public array $libraries)
    {
    }

    /** @param  list<DesignChange>  $changes */
    public static function by(array $changes, Design $new): self
    {
        $touched = ['fields' => [], 'types' => [], 'kinds' => [], 'libraries' => []];
        foreach ($changes as $change) {
            $codes = match ($change->kind) {
                // How a value is written, counted and found; and titles.
                DesignKind::Field => ['fields' => [$change->code]],
                DesignKind::Vocabulary => ['fields' => self::choosingFrom($new, $change->code)],
                // Its name, and the pattern of its titles.
                DesignKind::Type => ['types' => [$change->code]],
                // What it hands down.
                DesignKind::DossierKind => ['kinds' => [$change->code]],
                // The repository it is in.
                DesignKind::Library => self::isMoved($change) ? ['libraries' => [$change->code]] : [],
                // A repository is named in the index by its code, which stays. The others say how documents are looked at.
                DesignKind::Repository, DesignKind::Table, DesignKind::View, DesignKind::Form, DesignKind::Access => [],
            };
            foreach ($codes as $what => $of) {
                array_push($touched[$what], ...$of);
            }
        }

        return new self($touched['fields'], $touched['types'], $touched['kinds'], $touched['libraries']);
    }

    private static function isMoved(DesignChange $change): bool
    {
        return $change->before !== null &&
            $change->after !== null &&
            ($change->before['repository'] ?? null) !== ($change->after['repository'] ?? null);
    }

    /** @return list<string> */
    private static function choosingFrom(Design $design, string $vocabulary): array
    {
        $fields = array_filter(
            $design->all(DesignKind::Field),
            static fn (array $field): bool => ($field['vocabulary'] ?? null) === $vocabulary,
        );

        return array_map(strval(...), array_keys($fields));
    }
}
