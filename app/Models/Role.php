<?php

declare(strict_types=1);

namespace App\Models;

/** What a person does here. What they may see is decided by their groups. */
enum Role: string
{
    case Librarian = 'librarian';
    case Clerk = 'clerk';
    case Reader = 'reader';
    case Manager = 'manager';
    case Administrator = 'administrator';

    public function label(): string
    {
        return match ($this) {
            self::Librarian => 'Records librarian',
            self::Clerk => 'Intake clerk',
            self::Reader => 'Reader',
            self::Manager => 'Records manager',
            self::Administrator => 'Administrator',
        };
    }

    /** Making people, and saying what they may do. */
    public function mayAdminister(): bool
    {
        return $this === self::Administrator;
    }

    public function mayDesign(): bool
    {
        return $this === self::Librarian;
    }

    public function maySeeSensitive(): bool
    {
        return $this !== self::Reader && $this !== self::Administrator;
    }

    /** Legal holds are for those who answer for them. */
    public function mayHold(): bool
    {
        return $this === self::Librarian || $this === self::Manager;
    }

    /** Taking filed documents out of sight, which can be taken back. */
    public function mayRemove(): bool
    {
        return $this === self::Librarian || $this === self::Manager;
    }

    /** Destroying what was removed: another person's decision than removing it may be. */
    public function mayDestroy(): bool
    {
        return $this === self::Manager;
    }

    /** Removing parts of documents for those who may see the redacted copy only. */
    public function mayRedact(): bool
    {
        return $this === self::Librarian || $this === self::Manager;
    }

    public function mayFile(): bool
    {
        return $this === self::Librarian || $this === self::Clerk;
    }
}
