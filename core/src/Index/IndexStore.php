<?php

declare(strict_types=1);

namespace Brenvic\Core\Index;

/**
 * Where the index is kept. The store knows nothing of what it keeps: blobs by key and segment, dictionaries of terms
 * by space, one record a document. Everything read between two calls of `stamps` belongs to one state of the index.
 */
interface IndexStore
{
    /** What stands, with its number, in the place of a term that was forgotten. No text has this sign in it. */
    public const FORGOTTEN = "\x7f";

    /**
     * The segments there are, each with a stamp that changes with its content.
     *
     * @return array<int, int> segment => stamp
     */
    public function stamps(): array;

    public function blob(string $key, int $segment): ?string;

    /**
     * All segments of one key.
     *
     * @return array<int, string> segment => blob
     */
    public function blobs(string $key): array;

    /**
     * All segments of some keys.
     *
     * @param  list<string>  $keys
     * @return array<string, array<int, string>> each key, also one that has none => segment => blob
     */
    public function many(array $keys): array;

    /**
     * The numbers of terms that are known.
     *
     * @param  list<string>  $terms
     * @return array<string, int> term => number (from 1, dense within the space)
     */
    public function termNumbers(string $space, array $terms): array;

    /**
     * Numbers terms that are new.
     *
     * @param  list<string>  $terms  none of them known
     * @return array<string, int>
     */
    public function addTerms(string $space, array $terms): array;

    /**
     * The terms of a space, those that begin with `$prefix` once folded, in no particular order.
     *
     * @return array<int, string> number => term
     */
    public function terms(string $space, string $prefix = ''): array;

    /**
     * The terms of a space from one on, in their order; or those before one, the nearest first.
     *
     * @return list<string>
     */
    public function termsFrom(string $space, string $term, int $most, bool $isBefore = false): array;

    /**
     * The terms that have some numbers.
     *
     * @param  list<int>  $numbers
     * @return array<int, string> number => term, for those that there are
     */
    public function termsNumbered(string $space, array $numbers): array;

    /** How many terms a space has. */
    public function termCount(string $space): int;

    /**
     * Makes terms unknown. Their numbers are not given to others, so that nothing that was kept of them can mean another.
     *
     * @param  list<string>  $terms
     */
    public function forgetTerms(string $space, array $terms): void;

    /**
     * @param  list<int>  $documents
     * @param  list<string>  $holding  only records that hold any of these bytes; none for all
     * @return array<int, string> document => encoded ForwardRecord, for those that have one
     */
    public function records(array $documents, array $holding = []): array;

    /**
     * What was made of the index in its present state, made once if it can be kept.
     *
     * @template T
     *
     * @param  callable(): T  $make
     * @param  float  $least  milliseconds that it takes to make if it is worth being kept
     * @return T
     */
    public function remembered(string $name, callable $make, float $least = 0.0): mixed;

    /**
     * Writes a batch whole or not at all, and gives the touched segments new stamps.
     *
     * @param  array<string, array<int, string|null>>  $blobs  key => segment => blob, null to delete
     * @param  array<int, string|null>  $records  document => encoded record, null to delete
     */
    public function write(array $blobs, array $records): void;
}
