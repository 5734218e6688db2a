<?php

declare(strict_types=1);

namespace Brenvic\Core\Index;

/** An index that lives as long as the process: for trying things out and for tests. */
final class MemoryStore implements IndexStore
{
    /** @var array<int, int> */
    private array $stamps = [];

    /** @var array<string, array<int, string>> */
    private array $blobs = [];

    /** @var array<string, array<int, string>> */
    private array $terms = [];

    /** @var array<string, array<string, int>> */
    private array $numbers = [];

    /** @var array<int, string> */
    private array $records = [];

    /** @var array<string, array{array<int, int>, mixed}> name => the state it was made of, and what was made */
    private array $made = [];

    public function stamps(): array
    {
        return $this->stamps;
    }

    public function blob(string $key, int $segment): ?string
    {
        return $this->blobs[$key][$segment] ?? null;
    }

    public function blobs(string $key): array
    {
        return $this->blobs[$key] ?? [];
    }

    public function many(array $keys): array
    {
        return array_combine($keys, array_map($this->blobs(...), $keys));
    }

    /** @return list<string> */
    public function keys(): array
    {
        return array_map(strval(...), array_keys(array_filter($this->blobs)));
    }

    public function termNumbers(string $space, array $terms): array
    {
        return array_intersect_key($this->numbers[$space] ?? [], array_flip($terms));
    }

    public function addTerms(string $space, array $terms): array
    {
        $added = [];
        foreach ($terms as $term) {
            $number = count($this->terms[$space] ?? []) + 1;
            $this->terms[$space][$number] = $term;
            $this->numbers[$space][$term] = $added[$term] = $number;
        }

        return $added;
    }

    public function terms(string $space, string $prefix = ''): array
    {
        return array_filter($this->terms[$space] ?? [], static fn (string $term): bool => str_starts_with(Tokenizer::fold($term), $prefix));
    }

    public function termsFrom(string $space, string $term, int $most, bool $isBefore = false): array
    {
        $terms = array_filter(
            $this->terms[$space] ?? [],
            static fn (string $of): bool => ! str_starts_with($of, self::FORGOTTEN) && (strcmp($of, $term) < 0) === $isBefore,
        );
        sort($terms, SORT_STRING);

        return array_slice($isBefore ? array_reverse($terms) : $terms, 0, $most);
    }

    public function forgetTerms(string $space, array $terms): void
    {
        foreach ($terms as $term) {
            $number = $this->numbers[$space][$term] ?? null;
            if ($number !== null) {
                unset($this->numbers[$space][$term]);
                $this->terms[$space][$number] = self::FORGOTTEN.$number;
            }
        }
    }

    public function termsNumbered(string $space, array $numbers): array
    {
        return array_intersect_key($this->terms[$space] ?? [], array_flip($numbers));
    }

    public function termCount(string $space): int
    {
        return count($this->terms[$space] ?? []);
    }

    public function records(array $documents, array $holding = []): array
    {
        $records = array_intersect_key($this->records, array_flip($documents));

        return $holding === []
            ? $records
            : array_filter(
                $records,
                static fn (string $record): bool => array_filter(
                    $holding,
                    static fn (string $bytes): bool => str_contains($record, $bytes),
                ) !== [],
            );
    }

    public function remembered(string $name, callable $make, float $least = 0.0): mixed
    {
        if (($this->made[$name][0] ?? null) !== $this->stamps) {
            $this->made[$name] = [$this->stamps, $make()];
        }

        return $this->made[$name][1];
    }

    public function write(array $blobs, array $records): void
    {
        $touched = [];
        foreach ($blobs as $key => $segments) {
            foreach ($segments as $segment => $blob) {
                $touched[$segment] = true;
                if ($blob === null) {
                    unset($this->blobs[$key][$segment]);
                } else {
                    $this->blobs[$key][$segment] = $blob;
                }
            }
        }
        foreach ($records as $document => $record) {
            $touched[$document >> 16] = true;
            if ($record === null) {
                unset($this->records[$document]);
            } else {
                $this->records[$document] = $record;
            }
        }
        foreach ($touched as $segment => $_) {
            $this->stamps[$segment] = ($this->stamps[$segment] ?? 0) + 1;
        }
    }
}
