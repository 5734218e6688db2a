<?php

declare(strict_types=1);

namespace Brenvic\Core\Procedures\Asking;

/** What a procedure asks about the case that it decides on: the document, and the people around it. */
interface Facts
{
    /**
     * Whether the document matches a criterion.
     *
     * @param  string  $criterion  in CQL
     *
     * @throws CannotTell
     */
    public function holds(string $criterion): bool;

    public function hasMembers(string $group): bool;

    /** Somebody in use, by sign-in name. */
    public function person(string $signIn): ?int;

    /** @return list<int> those in use whom a field of the document names */
    public function inField(string $code): array;

    /** @return list<int> those in use whom a field of the document's dossiers names */
    public function inDossiers(string $code): array;

    /**
     * @param  list<int>  $people
     * @return list<int> their managers in use
     */
    public function managers(array $people): array;

    /** Who filed the document; null where nobody did. */
    public function filer(): ?int;

    public function isIn(int $person, Audience $audience): bool;

    /** @return list<int> those who are away and have this person stand in for them */
    public function standsInFor(int $person): array;

    /** The end of a working day, some of them after today, as 2026-03-01. */
    public function day(int $workingDays): string;
}
