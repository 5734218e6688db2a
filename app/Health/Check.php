<?php

declare(strict_types=1);

namespace App\Health;

/** One thing that was looked at. */
final readonly class Check
{
    /**
     * @param  string  $name  `database`, `disk`, …
     * @param  bool  $isNeeded  whether nothing can be served without it
     * @param  string  $says  a sentence for those who administer
     */
    public function __construct(public string $name, public bool $isWell, public string $says, public bool $isNeeded = false)
    {
    }

    /** @return array{name: string, is_well: bool, says: string} */
    public function toArray(): array
    {
        return ['name' => $this->name, 'is_well' => $this->isWell, 'says' => $this->says];
    }
}
