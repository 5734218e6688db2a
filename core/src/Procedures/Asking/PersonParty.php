<?php

declare(strict_types=1);

namespace Brenvic\Core\Procedures\Asking;

/** A person by sign-in name. */
final readonly class PersonParty extends Party
{
    public function find(Facts $facts): Audience
    {
        $person = $facts->person($this->value);

        return new Audience([], $person === null ? [] : [$person]);
    }

    public function missing(): string
    {
        return "there is nobody with the sign-in name “{$this->value}”";
    }
}
