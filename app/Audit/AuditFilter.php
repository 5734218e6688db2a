<?php

declare(strict_types=1);

namespace App\Audit;

/** What of the history is looked for; null for all. */
final readonly class AuditFilter
{
    /**
     * @param  string|null  $person  sign-in name
     * @param  string|null  $act  see History\Act
     * @param  string|null  $document  reference
     * @param  string|null  $library  code
     * @param  string|null  $from  a day, as the last
     */
    public function __construct(
        public ?string $person = null,
        public ?string $act = null,
        public ?string $document = null,
        public ?string $library = null,
        public ?string $from = null,
        public ?string $until = null,
    ) {
    }

    /** @return array<string, string> what is asked for, by name */
    public function asked(): array
    {
        return array_filter(get_object_vars($this), static fn (?string $of): bool => $of !== null && $of !== '');
    }
}
