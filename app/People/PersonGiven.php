<?php

declare(strict_types=1);

namespace App\People;

/** What an administrator says of a person. */
final readonly class PersonGiven
{
    /**
     * @param  string  $role  its code
     * @param  list<string>  $groups  names
     * @param  string|null  $mail  the address that codes are mailed to
     * @param  string  $knownBy  `brenvic`, or `directory` where that holds the password
     */
    public function __construct(
        public string $name,
        public string $role,
        public array $groups = [],
        public ?string $mail = null,
        public string $knownBy = 'brenvic',
    ) {
    }
}
