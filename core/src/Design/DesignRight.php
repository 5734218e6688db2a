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
        $content = $this->design->part($kind, $code);
        $designers = Design::codes($content, 'designers');
        if ($designers !== []) {
            return array_intersect($designers, $this->groups) !== []
                ? []
                : ["the {$kind->one()} “".Design::nameOf($kind, $code, $content).'”'];
        }
        if ($content === null) {
            return [];
        }
        $keepers = [];
        foreach ($this->above($kind, $code, $content) as [$of, $name]) {
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

    /**
     * What a part belongs to, or what would change with it.
     *
     * @param  array<string, mixed>  $content
     * @return list<array{DesignKind, string}>
     */
    private function above(DesignKind $kind, string $code, array $content): array
    {
        $named = static fn (DesignKind $of, string $property, string $key = ''): array => array_map(
            static fn (string $name): array => [$of, $name],
            Design::codes($content, $property, $key),
        );
        $users = fn (DesignKind ...$of): array => array_values(
            array_map(
                static fn (array $user): array => [$user['kind'], $user['code']],
                array_filter($this->check->references($kind, $code), static fn (array $user): bool => in_array($user['kind'], $of, true)),
            ),
        );

        return match ($kind) {
            DesignKind::Repository => [],
            DesignKind::Library => [[DesignKind::Repository, is_string($content['repository'] ?? null) ? $content['repository'] : '']],
            DesignKind::Type => $users(DesignKind::Library),
            DesignKind::View => $users(DesignKind::Library, DesignKind::DossierKind),
            DesignKind::DossierKind => $named(DesignKind::Type, 'types'),
            DesignKind::Form => [...$named(DesignKind::Library, 'libraries'), ...$named(DesignKind::Type, 'types')],
            DesignKind::Field => $users(DesignKind::Type, DesignKind::DossierKind),
            DesignKind::Vocabulary => $users(DesignKind::Field),
            DesignKind::Table => [
                ...is_string($content['key'] ?? null) ? [[DesignKind::Field, $content['key']]] : [],
                ...$named(DesignKind::Field, 'fills'),
            ],
            // A rule may be about any document.
            DesignKind::Access => array_merge(
                [],
                ...array_map(
                    fn (DesignKind $of): array => array_map(
                        static fn (int|string $name): array => [$of, (string) $name],
                        array_keys($this->design->all($of)),
                    ),
                    [DesignKind::Repository, DesignKind::Library, DesignKind::Type],
                ),
            ),
        };
    }
}
