<?php

declare(strict_types=1);

namespace App\Loans;

/** A place outside where people work on copies: what lending needs of it. */
interface TeamSpace
{
    /** Puts a copy there. */
    public function put(string $key, string $file, string $name): void;

    /** Where people outside find the copy. */
    public function address(string $key): string;

    /**
     * The copy as it is there now.
     *
     * @return array{path: string, name: string, changed_at: int}|null null when the space cannot be reached, or has it no more
     */
    public function copy(string $key): ?array;

    public function remove(string $key): void;
}
