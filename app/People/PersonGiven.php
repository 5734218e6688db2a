<?php

declare(strict_types=1);

namespace App\People;

use App\Models\Role;

/** What an administrator says of a person. */
final readonly class PersonGiven
{
    /**
     * @param  list<string>  $groups  names
     * @param  string|null  $mail  the address that codes are mailed to
     */
    public function __construct(
        public string $name,
        public Role $role,
        public array $groups = [],
        public ?string $mail = null,
    ) {
    }
}
