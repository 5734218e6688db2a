<?php

declare(strict_types=1);

namespace Brenvic\Core\Design;

use Brenvic\Core\Fields\InvalidDefinition;

/** A repository, here or elsewhere. */
final readonly class RepositoryPart extends Part
{
    /**
     * @param  string  $address  of the SRU server of one that is elsewhere; empty for one that is here
     * @param  list<string>  $groups  who may search one that is elsewhere; none means everybody
     * @param  list<string>  $designers
     */
    protected function __construct(
        string $code,
        string $name,
        public string $address,
        private array $groups,
        private array $designers,
    ) {
        parent::__construct($code, $name);
    }

    public static function of(string $code, array $content): static
    {
        return new self(
            $code,
            self::text($content, 'name'),
            self::text($content, 'address'),
            Design::codes($content, 'groups'),
            Design::codes($content, 'designers'),
        );
    }

    public static function kind(): DesignKind
    {
        return DesignKind::Repository;
    }

    public function isRemote(): bool
    {
        return $this->address !== '';
    }

    /** @param  list<string>  $groups  of a person */
    public function isSearchedBy(array $groups): bool
    {
        return $this->groups === [] || array_intersect($this->groups, $groups) !== [];
    }

    public function designers(): array
    {
        return $this->designers;
    }

    public function groups(): array
    {
        return [...$this->groups, ...$this->designers];
    }

    public function check(DesignCheck $check): void
    {
        if ($this->isRemote()) {
            $this->checkAddress();
            $libraries = array_filter(
                $check->references(DesignKind::Repository, $this->code),
                static fn (Part $part): bool => $part instanceof LibraryPart,
            );
            if ($libraries !== []) {
                throw new InvalidDefinition(
                    'address',
                    'What is in a remote repository stays there: move its libraries ('.
                        implode(', ', array_map(static fn (Part $library): string => $library->calledBy(), $libraries)).
                        ') to another one first.',
                );
            }
        }
        $check->groups($this->groups, 'groups');
        $check->designers($this->designers);
    }

    /** @throws InvalidDefinition */
    private function checkAddress(): void
    {
        $parts = parse_url($this->address);
        if (
            filter_var($this->address, FILTER_VALIDATE_URL) === false ||
            ! in_array(strtolower((string) ($parts['scheme'] ?? '')), ['http', 'https'], true) ||
            isset($parts['user']) ||
            isset($parts['fragment'])
        ) {
            throw new InvalidDefinition(
                'address',
                'The address of an SRU server begins with http:// or https://, and has no name or password in it.',
            );
        }
    }
}
