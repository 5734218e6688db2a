<?php

declare(strict_types=1);

namespace Bench;

use Brenvic\Core\Index\IndexStore;
use Brenvic\Core\Search\Searcher;

/**
 * A store that remembers what a line of a search found for one answer only: the second page of an answer profits from the
 * first, as it does in use, and asking the same again and again does not.
 */
final class AnswerStore implements IndexStore
{
    /** @var array<string, mixed> */
    private array $lines = [];

    public function __construct(private readonly IndexStore $store)
    {
    }

    public function nextAnswer(): void
    {
        $this->lines = [];
    }

    public function remembered(string $name, callable $make, float $least = 0.0): mixed
    {
        return str_starts_with($name, Searcher::LINE) ? $this->lines[$name] ??= $make() : $this->store->remembered($name, $make, $least);
    }

    public function stamps(): array
    {
        return $this->store->stamps();
    }

    public function blob(string $key, int $segment): ?string
    {
        return $this->store->blob($key, $segment);
    }

    public function blobs(string $key): array
    {
        return $this->store->blobs($key);
    }

    public function many(array $keys): array
    {
        return $this->store->many($keys);
    }

    public function termNumbers(string $space, array $terms): array
    {
        return $this->store->termNumbers($space, $terms);
    }

    public function addTerms(string $space, array $terms): array
    {
        return $this->store->addTerms($space, $terms);
    }

    public function forgetTerms(string $space, array $terms): void
    {
        $this->store->forgetTerms($space, $terms);
    }

    public function terms(string $space, string $prefix = ''): array
    {
        return $this->store->terms($space, $prefix);
    }

    public function termsFrom(string $space, string $term, int $most, bool $isBefore = false): array
    {
        return $this->store->termsFrom($space, $term, $most, $isBefore);
    }

    public function termsNumbered(string $space, array $numbers): array
    {
        return $this->store->termsNumbered($space, $numbers);
    }

    public function termCount(string $space): int
    {
        return $this->store->termCount($space);
    }

    public function records(array $documents, array $holding = []): array
    {
        return $this->store->records($documents, $holding);
    }

    public function write(array $blobs, array $records): void
    {
        $this->store->write($blobs, $records);
    }
}
