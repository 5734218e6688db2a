<?php

declare(strict_types=1);

namespace Brenvic\Core\Design\Proposal;

use Brenvic\Core\Fields\PartialDate;

/**
 * Finds the columns whose values gather rows. A column that is shared belongs to the key with the fewest values that decides it.
 * Rows of one dossier belong to one time: where a date is there, the keys whose rows lie close together make dossiers, the others
 * a reference table.
 */
final readonly class Gatherings
{
    private const FEWEST_VALUES = 5;

    /** Rows that a dossier has at least and a handful at most, on average. */
    private const EACH = [2.0, 60.0];

    /** Where no date tells, a key that gathers more than this on average is no dossier. */
    private const HANDFUL = 12.0;

    /** Dates of a dossier spread over less than this share of what as many rows taken at random spread over. */
    private const CLOSE = 0.5;

    /** So much of the rows must have the key. */
    private const FILLED = 0.5;

    /**
     * @param  array<int, list<string>>  $rows  a sample, all of one length
     * @param  list<ColumnProposal>  $columns
     * @param  array<int, array<int, Dependency>>  $decides  place => place of what it decides
     */
    public function __construct(private array $rows, private array $columns, private array $decides)
    {
    }

    /** @return list<Gathering> those with the most rows to a value last */
    public function find(?int $typeColumn): array
    {
        $keys = [];
        foreach ($this->columns as $column) {
            if ($this->mayGather($column, $typeColumn)) {
                $keys[$column->place] = $column->distinct;
            }
        }
        asort($keys);
        $shares = [];
        $told = [];
        foreach (array_keys($keys) as $key) {
            foreach (array_keys($this->decides[$key] ?? []) as $to) {
                $other = $this->columns[$to];
                $isTold = isset($told[$to]) || isset($this->decides[$to][$key]);
                if (! $isTold && $to !== $typeColumn && $other->sameAs === null && ! $other->isLeftOut && $other->distinct > 1) {
                    $shares[$key][] = $to;
                    $told[$to] = true;
                }
            }
        }
        $found = array_map(fn (int $key): Gathering => $this->gathering($key, $shares[$key]), array_keys($shares));
        usort($found, static fn (Gathering $a, Gathering $b): int => $a->each <=> $b->each);

        return $found;
    }

    private function mayGather(ColumnProposal $column, ?int $typeColumn): bool
    {
        return $column->place !== $typeColumn &&
            in_array($column->kind(), ['identifier', 'text', 'choice', 'number'], true) &&
            $column->separator === '' &&
            $column->sameAs === null &&
            $column->fill >= self::FILLED &&
            $column->distinct >= self::FEWEST_VALUES &&
            // A number that decides others is a number of something, and whole.
            ($column->kind() !== 'number' || ($column->readings[0]->unit === '' && count($this->decides[$column->place] ?? []) > 1));
    }

    /** @param  list<int>  $shares */
    private function gathering(int $key, array $shares): Gathering
    {
        sort($shares);
        $groups = [];
        foreach ($this->rows as $i => $row) {
            if ($row[$key] !== '' && ! $this->columns[$key]->readings[0]->leavesOut($row[$key])) {
                $groups[$row[$key]][] = $i;
            }
        }
        $values = count($groups);
        $each = array_sum(array_map(count(...), $groups)) / max(1, $values);
        $says = [];
        $close = $this->closeness($groups);
        $isHandful = $each >= self::EACH[0] && $each <= self::EACH[1];
        if ($close !== null) {
            $says[] = $close < self::CLOSE
                ? 'the rows of a value lie close together in time'
                : 'the rows of a value are spread over all the time';
            $isDossier = $isHandful && $close < self::CLOSE;
        } else {
            $isDossier = $isHandful && $each <= self::HANDFUL;
        }

        $as = match (true) {
            $isDossier => GatheredAs::Dossiers,
            // A list that depends on another says as much.
            $shares === [$this->columns[$key]->dependsOn] => GatheredAs::Nothing,
            default => GatheredAs::Table,
        };

        return new Gathering($key, $shares, $values, $each, $as, $says);
    }

    /**
     * How much less the dates in a group spread than those of rows taken in turn from the whole table: the middle of all groups.
     *
     * @param  array<int|string, list<int>>  $groups  places of rows
     * @return float|null null when no column has dates for most rows
     */
    private function closeness(array $groups): ?float
    {
        $middles = [];
        foreach ($this->columns as $column) {
            if ($column->kind() !== 'date' || $column->fill < self::FILLED) {
                continue;
            }
            $days = $this->days($column);
            $shares = [];
            foreach ($groups as $rows) {
                $own = array_values(array_intersect_key($days, array_flip($rows)));
                if (count($own) > 1) {
                    $shares[] = [max($own) - min($own), count($own)];
                }
            }
            if (count($shares) < self::FEWEST_VALUES || $days === []) {
                continue;
            }
            $range = max(1, max($days) - min($days));
            // n points taken at random from a line span (n − 1) / (n + 1) of it.
            $ratios = array_map(static fn (array $s): float => $s[0] / $range / (($s[1] - 1) / ($s[1] + 1)), $shares);
            sort($ratios);
            $middles[] = $ratios[intdiv(count($ratios), 2)];
        }

        return $middles === [] ? null : min($middles);
    }

    /** @return array<int, int> row => day, as a number */
    private function days(ColumnProposal $column): array
    {
        $order = $column->readings[0]->order ?? DateOrder::DayFirst;
        $days = [];
        foreach ($this->rows as $i => $row) {
            $date = WrittenDate::read($row[$column->place], $order);
            if ($date !== null) {
                $days[$i] = PartialDate::parse($date)->firstDay();
            }
        }

        return $days;
    }
}
