<?php

declare(strict_types=1);

namespace Brenvic\Core\Query;

/** `/name` or `/name comparitor value` behind a relation, a boolean or a sort key. Names are in small letters. */
final readonly class Modifier
{
    public function __construct(
        public string $name,
        public ?string $comparitor = null,
        public ?string $value = null,
    ) {
    }

    /** The name without the prefix of CQL's own context set, which it may bear. */
    public function plainName(): string
    {
        return Relations::plain($this->name);
    }
}
