<?php

declare(strict_types=1);

namespace Brenvic\Core\Design;

/**
 * Which parts of a design somebody who designs may change. Repositories, libraries and types may name the groups that
 * design them (`designers`); what names none goes by what it belongs to: a library by its repository, a type by the
 * libraries that file it, and everything else by all that would change with it. What belongs to nothing is for everybody
 * who designs.
 */
final readonly class DesignRight
{
    private DesignCheck $check;

    /** @param  list<string>  $groups  of the person */
    public function __construct(private Design $design, private array $groups)
    {
        $this->check = new DesignCheck($design, []);
    }

    /** @return list<string> the parts, as people call them, whose designers keep a part to themselves; none when it may be changed */
    public function keepers(DesignKind $kind, string $code): array
    {
        $part = $this->design->one($kind->part(), $code);
        if ($part === null) {
            return [];
        }
        $designers = $part->designers();
        if ($designers !== []) {
            return array_intersect($designers, $this->groups) !== [] ? [] : ["the {$kind->one()} “{$part->calledBy()}”"];
        }
        $keepers = [];
        foreach ($part->belongsTo($this->check) as [$of, $name]) {
            array_push($keepers, ...$this->keepers($of, $name));
        }

        return array_values(array_unique($keepers));
    }

    /** @return list<string> all that is kept from the person */
    public function kept(): array
    {
        $keepers = [];
        foreach ([DesignKind::Repository, DesignKind::Library, DesignKind::Type] as $kind) {
            foreach (array_keys($this->design->all($kind)) as $code) {
                array_push($keepers, ...$this->keepers($kind, (string) $code));
            }
        }

        return array_values(array_unique($keepers));
    }
}
