<?php

declare(strict_types=1);

namespace Brenvic\Core\Design;

use Brenvic\Core\Fields\InvalidDefinition;

/** A library: where documents stand, who enters it, and what is filed there. */
final readonly class LibraryPart extends Part
{
    /**
     * @param  list<string>  $types  codes of the types that are filed there
     * @param  string|null  $view  that it opens with
     * @param  array<bool>  $members  groups that enter it => whether they change what is there
     * @param  list<string>  $designers
     */
    protected function __construct(
        string $code,
        string $name,
        public string $note,
        public string $repository,
        public array $types,
        public ?string $view,
        public array $members,
        private array $designers,
    ) {
        parent::__construct($code, $name);
    }

    public static function of(string $code, array $content): static
    {
        $members = [];
        foreach (Design::entries($content, 'groups') as $member) {
            if (is_string($member['group'] ?? null)) {
                $members[$member['group']] = ($member['change'] ?? false) === true;
            }
        }

        return new self(
            $code,
            self::text($content, 'name'),
            self::text($content, 'note'),
            self::text($content, 'repository'),
            Design::codes($content, 'types'),
            self::code($content, 'view'),
            $members,
            Design::codes($content, 'designers'),
        );
    }

    public static function kind(): DesignKind
    {
        return DesignKind::Library;
    }

    /** @return list<string> */
    public function memberGroups(): array
    {
        return array_map(strval(...), array_keys($this->members));
    }

    public function designers(): array
    {
        return $this->designers;
    }

    public function groups(): array
    {
        return [...$this->memberGroups(), ...$this->designers];
    }

    public function refersTo(): array
    {
        return [
            ...self::each(DesignKind::Type, $this->types),
            [DesignKind::Repository, $this->repository],
            ...self::each(DesignKind::View, array_filter([$this->view])),
        ];
    }

    public function belongsTo(DesignCheck $check): array
    {
        return [[DesignKind::Repository, $this->repository]];
    }

    /** The repository it is in. */
    public static function touchedBy(DesignChange $change, Design $new): Touched
    {
        $isMoved =
            $change->before !== null &&
            $change->after !== null &&
            self::of($change->code, $change->before)->repository !== self::of($change->code, $change->after)->repository;

        return new Touched(libraries: $isMoved ? [$change->code] : []);
    }

    public function check(DesignCheck $check): void
    {
        $repository = $check->design->one(RepositoryPart::class, $this->repository);
        if ($repository === null) {
            throw new InvalidDefinition('repository', "There is no repository “{$this->repository}”.");
        }
        if ($repository->isRemote()) {
            throw new InvalidDefinition('repository', "“{$this->repository}” is a remote repository: it has no libraries here.");
        }
        $check->parts(DesignKind::Type, $this->types, 'types');
        $check->parts(DesignKind::View, array_filter([$this->view]), 'view');
        $check->groups($this->memberGroups(), 'groups');
        $check->designers($this->designers);
    }
}
