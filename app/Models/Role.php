<?php

declare(strict_types=1);

namespace App\Models;

/** Rights that go together, under a name that the office gives them. */
final readonly class Role
{
    /**
     * @param  string  $code  lower-case letters, digits and _
     * @param  list<Right>  $rights
     */
    public function __construct(public string $code, public string $name, public array $rights)
    {
    }

    public function has(Right $right): bool
    {
        return in_array($right, $this->rights, true);
    }

    /** @return array{code: string, name: string, rights: list<string>} */
    public function toArray(): array
    {
        return ['code' => $this->code, 'name' => $this->name, 'rights' => array_column($this->rights, 'value')];
    }
}
