<?php

declare(strict_types=1);

namespace App\Retrieve;

use App\Models\Delivery;
use App\Support\Refused;

/** As what a delivery leaves: what is in it, what is chosen for it, and how its file is made. Each is a class of its own. */
abstract class DeliveryFormat
{
    /**
     * @param  string  $value  the code used in settings and the API
     * @param  string  $label  what people call it
     * @param  string  $what  a sentence on what is in it
     * @param  string  $ending  of its file
     */
    public function __construct(
        public readonly string $value,
        public readonly string $label,
        public readonly string $what,
        public readonly string $ending,
    ) {
    }

    /** Whether the files of the documents are in it, and not only what is said of them. */
    public function hasFiles(): bool
    {
        return true;
    }

    /** Whether the table of index values is in it. */
    public function hasTable(): bool
    {
        return false;
    }

    /** Whether the table is for a spreadsheet, which takes what begins with certain signs for formulas. */
    public function isForSpreadsheet(): bool
    {
        return false;
    }

    /** What the levels of a view make in it: folders or bookmarks; null for nothing. */
    public function levels(): ?string
    {
        return null;
    }

    /** Whether files have names in it. */
    public function hasNames(): bool
    {
        return $this->hasFiles();
    }

    /** Whether what the history says of the documents goes along, and their Dublin Core. */
    public function hasRecords(): bool
    {
        return false;
    }

    /** Whether it is addressed to somebody. */
    public function isSent(): bool
    {
        return false;
    }

    /** Whether it is opened in the window rather than kept as a file. */
    public function isShown(): bool
    {
        return false;
    }

    /**
     * Makes the file.
     *
     * @return string|null its path; null when the delivery was cancelled
     *
     * @throws Refused
     */
    abstract public function pack(Delivery $delivery, DeliveryFolder $folder, Packing $packing): ?string;

    /** What follows when the file is in its place. */
    public function done(Delivery $delivery): void
    {
    }
}
