<?php

declare(strict_types=1);

namespace App\Health;

/** One thing that was looked at. */
final readonly class Check
{
    /**
     * @param  string  $name  `database`, `disk`, …
     * @param  string  $says  a sentence for those who administer
     * @param  bool  $isNeeded  whether nothing can be served without it
     * @param  bool  $isWorker  whether it is somebody in the background, who needs a moment to begin
     */
    public function __construct(public string $name, public bool $isWell, public string $says, public bool $isNeeded = false, public bool $isWorker = false)
    {
    }

    /** @return array{name: string, is_well: bool, says: string} */
    public function toArray(): array
    {
        return ['name' => $this->name, 'is_well' => $this->isWell, 'says' => $this->says];
    }
}
