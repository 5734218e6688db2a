<?php

declare(strict_types=1);

namespace Brenvic\Core\Design\Proposal;

use Brenvic\Core\Fields\FieldDefinition;
use Brenvic\Core\Fields\InvalidValue;

/** What each value of a key mostly has beside it, counted over all rows of a table. */
final class SharedRows
{
    /** Rows that a reference table has at most in a design. */
    public const MOST = 20_000;

    /** @var array<int|string, array<int, array<string, int>>> key => place => value => rows */
    private array $counts = [];

    /** @param  list<int>  $places  of what is shared */
    public function __construct(private readonly int $key, public readonly array $places)
    {
    }

    /** @param  array<int, list<string>>  $cells  values by place */
    public function add(array $cells): void
    {
        $this->count($cells[$this->key][0] ?? '', static fn (int $place): string => $cells[$place][0] ?? '');
    }

    /** @param  list<string>  $row  as the table has it */
    public function addCells(array $row): void
    {
        $this->count(trim($row[$this->key] ?? ''), static fn (int $place): string => trim($row[$place] ?? ''));
    }

    /** @param  callable(int): string  $at */
    private function count(string $key, callable $at): void
    {
        if ($key === '' || (! isset($this->counts[$key]) && count($this->counts) > self::MOST)) {
            return;
        }
        $this->counts[$key] ??= [];
        foreach ($this->places as $place) {
            $value = $at($place);
            if ($value !== '') {
                $this->counts[$key][$place][$value] = ($this->counts[$key][$place][$value] ?? 0) + 1;
            }
        }
    }

    /** The usual value of a place beside a key. */
    public function usual(string $key, int $place): string
    {
        $counts = $this->counts[$key][$place] ?? [];
        arsort($counts);

        return (string) array_key_first($counts);
    }

    /**
     * One row of a table for each key, with what it mostly has beside it and nothing else.
     *
     * @return list<list<string>>
     */
    public function usualRows(int $width): array
    {
        $rows = [];
        foreach (array_keys($this->counts) as $key) {
            $row = array_fill(0, $width, '');
            $row[$this->key] = (string) $key;
            foreach ($this->places as $place) {
                $row[$place] = $this->usual((string) $key, $place);
            }
            $rows[] = array_values($row);
        }

        return $rows;
    }

    /**
     * @param  non-empty-list<FieldDefinition>  $fields  of the key and of what is shared
     * @return list<list<string>>|null with the key and what is shared; null when they are too many
     */
    public function rows(array $fields): ?array
    {
        if (count($this->counts) > self::MOST) {
            return null;
        }
        $rows = [];
        foreach (array_keys($this->counts) as $key) {
            $key = (string) $key;
            $normal = self::normal($fields[0], $key);
            if ($normal === '') {
                continue;
            }
            $row = [$normal];
            foreach ($this->places as $i => $place) {
                $row[] = self::normal($fields[$i + 1], $this->usual($key, $place));
            }
            $rows[$normal] ??= $row;
        }
        ksort($rows, SORT_NATURAL);

        return array_values($rows);
    }

    private static function normal(FieldDefinition $field, string $text): string
    {
        try {
            return $field->parse($text) ?? '';
        } catch (InvalidValue) {
            // What does not fit is for a person.
            return '';
        }
    }
}
