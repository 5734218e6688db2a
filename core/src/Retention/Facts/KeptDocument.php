<?php

declare(strict_types=1);

namespace Brenvic\Core\Retention\Facts;

/** What decides how long one document is kept, as whoever keeps the documents knows it. Days are written as 2026-03-01. */
final readonly class KeptDocument
{
    /**
     * @param  string|null  $type  code
     * @param  array<string, list<string>>  $values  normal forms by field code, those handed down by dossiers too
     * @param  list<array{kind: string, closed: string|null}>  $dossiers  that it is in; `closed` is null while one is open
     * @param  array<string, list<string|null>>  $procedures  by code, the days on which its cases ended; null for one that goes on
     * @param  array<string, string>  $superseded  by the code of the field that names it: the day on which the newest that does was filed
     * @param  string|null  $restarted  the day from which its period was begun anew
     * @param  string|null  $postponed  the day to which it was put off
     * @param  string|null  $exempt  why it does not fall due at all
     */
    public function __construct(
        public ?string $type = null,
        public array $values = [],
        public ?string $filed = null,
        public array $dossiers = [],
        public array $procedures = [],
        public array $superseded = [],
        public ?string $restarted = null,
        public ?string $postponed = null,
        public ?string $exempt = null,
        public bool $isDestroyed = false,
    ) {
    }
}
