<?php

declare(strict_types=1);

namespace Brenvic\Core\Design;

/** What documents and dossiers have, as it is stored: what a change of the design is tried on. */
interface StoredValues
{
    /**
     * The different values of a field, without those that a version brought back takes away.
     *
     * @return array<int|string, int> normal form => documents that have it
     */
    public function distinct(string $field): array;

    /** How many documents have more than one value in a field, and would still. */
    public function several(string $field): int;

    /** What the version that is brought back does to the values of a field; nothing when none is. */
    public function returned(string $field): Returned;

    /**
     * The documents of a type, with the values that titles are made of.
     *
     * @param  list<string>  $fields  codes
     * @return iterable<array{title: string, otherwise: string, values: array<string, list<string>>}> `otherwise` is the title when the pattern makes none
     */
    public function titled(string $type, array $fields): iterable;

    /** How many dossiers of a kind there are; with a field, how many have no value in it. */
    public function dossiers(string $kind, ?string $without = null): int;

    /** How many documents without a value of their own stand in dossiers of a kind that have one. */
    public function heirs(string $kind, string $field): int;
}
