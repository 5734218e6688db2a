<?php

declare(strict_types=1);

namespace Brenvic\Core\Design;

/** An access rule: who may do something with the documents that a criterion finds. */
final readonly class AccessRule extends Part
{
    /**
     * @param  string  $criterion  CQL
     * @param  list<string>  $acts  see, file, change, original
     * @param  list<string>  $groups  those who may; from all others the acts are withheld
     */
    protected function __construct(
        string $code,
        string $name,
        public string $criterion,
        public array $acts,
        private array $groups,
    ) {
        parent::__construct($code, $name);
    }

    public static function of(string $code, array $content): static
    {
        return new self(
            $code,
            self::text($content, 'name'),
            self::text($content, 'criterion'),
            Design::codes($content, 'acts'),
            Design::codes($content, 'groups'),
        );
    }

    public static function kind(): DesignKind
    {
        return DesignKind::Access;
    }

    public function groups(): array
    {
        return $this->groups;
    }

    /** @param  list<string>  $groups  of a person */
    public function withholds(string $act, array $groups): bool
    {
        return in_array($act, $this->acts, true) && array_intersect($this->groups, $groups) === [];
    }

    /** It may be about any document. */
    public function belongsTo(DesignCheck $check): array
    {
        $all = [];
        foreach ([DesignKind::Repository, DesignKind::Library, DesignKind::Type] as $kind) {
            array_push($all, ...self::each($kind, array_map(strval(...), array_keys($check->design->all($kind)))));
        }

        return $all;
    }

    public function check(DesignCheck $check): void
    {
        $check->groups($this->groups, 'groups');
        $check->criterion($this->criterion);
    }
}
