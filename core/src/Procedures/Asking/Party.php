<?php

declare(strict_types=1);

namespace Brenvic\Core\Procedures\Asking;

/** One of those who are asked in a step, as the procedure names them. Each kind finds the people in its own way. */
abstract readonly class Party
{
    /** The kinds there are, by the name that a design has them under. */
    public const KINDS = [
        'group' => GroupParty::class,
        'person' => PersonParty::class,
        'field' => FieldParty::class,
        'dossier' => DossierParty::class,
        'manager' => ManagerParty::class,
    ];

    /** @param  string  $value  a group's name, a sign-in name, or the code of a field */
    final public function __construct(public string $value)
    {
    }

    /**
     * @param  array<string, mixed>  $content  kind and value
     * @return self|null null where there is no such kind
     */
    public static function of(array $content): ?self
    {
        $class = self::KINDS[is_string($content['kind'] ?? null) ? $content['kind'] : ''] ?? null;

        return $class === null ? null : new $class(is_string($content['value'] ?? null) ? $content['value'] : '');
    }

    /** Who that is for one case. */
    abstract public function find(Facts $facts): Audience;

    /** What is said when nobody is found. */
    abstract public function missing(): string;

    /** @return list<string> the groups that it names */
    public function groups(): array
    {
        return [];
    }

    /** @return list<string> the fields of documents that it reads */
    public function fields(): array
    {
        return [];
    }
}
