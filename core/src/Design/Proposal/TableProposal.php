<?php

declare(strict_types=1);

namespace Brenvic\Core\Design\Proposal;

use Brenvic\Core\Classification\LikelyDoubles;
use Brenvic\Core\Design\Design;
use Brenvic\Core\Fields\FieldDefinition;
use Closure;

/** A design proposed from a table: its columns as fields with vocabularies, document types, a title, levels of a view. */
final readonly class TableProposal
{
    private const EXAMPLES = 6;

    /** Of so many rows in a column several values are told from one that has the sign in it. */
    private const SEPARATED = 0.05;

    /** So much of a column’s values must be known terms for it to be a field that is there already. */
    private const KNOWN = 0.8;

    /** Columns with fewer filled rows than this, or with more than the rest of it, tell no types. */
    private const TELLING = 0.05;

    /**
     * @param  list<ColumnProposal>  $columns
     * @param  list<Dependency>  $dependencies
     * @param  list<TypeProposal>  $types
     * @param  int|null  $typeColumn  the place of the column that names the type of each row
     * @param  list<int>  $title  places of columns that together tell rows apart
     * @param  list<int>  $levels  places of columns for the levels of a view, the outermost first
     * @param  array<string, int>  $faults  of the table or the folders => how often
     * @param  array<string, list<string>>  $examples  of them
     * @param  list<Gathering>  $gatherings  columns whose values gather rows
     * @param  list<FolderName>  $folderNames  of a folder tree: what the names of each level have in them
     * @param  list<list<string>>  $gathered  a row for each value that gathers, with what its rows mostly share
     */
    private function __construct(
        public int $rows,
        public array $columns,
        public array $dependencies,
        public array $types,
        public ?int $typeColumn,
        public array $title,
        public array $levels,
        public array $faults,
        public array $examples = [],
        public array $gatherings = [],
        public array $folderNames = [],
        public array $gathered = [],
    ) {
    }

    /**
     * @param  Design  $existing  fields that fit are preferred to new ones
     * @param  (Closure(): iterable<list<string>>)|null  $again  gives the rows once more, with the names of the columns first
     */
    public static function of(TableScan $scan, Design $existing, string $name = 'Document', ?Closure $again = null): self
    {
        $dependencies = (new Dependencies($scan->sample))->find();
        $decides = self::decides($dependencies);
        $columns = self::columns($scan, $existing, $decides);
        [$typeColumn, $types] = self::types($scan, $columns, $name);
        $gatherings = (new Gatherings($scan->sample, $columns, $decides))->find($typeColumn);

        return new self(
            $scan->rows,
            $columns,
            $dependencies,
            $types,
            $typeColumn,
            self::title($scan, $columns),
            self::levels($scan, $columns, $typeColumn),
            [...$scan->faults, ...self::namesAreValues($scan, $columns) ? ['line of names that look like values' => 1] : []],
            gatherings: $gatherings,
            gathered: self::gathered($scan, $gatherings, $again),
        );
    }

    /**
     * @param  list<Gathering>  $gatherings
     * @param  (Closure(): iterable<list<string>>)|null  $again
     * @return list<list<string>>
     */
    private static function gathered(TableScan $scan, array $gatherings, ?Closure $again): array
    {
        if ($gatherings === []) {
            return [];
        }
        $width = count($scan->columns);
        $shared = array_map(static fn (Gathering $g): SharedRows => new SharedRows($g->key, $g->shares), $gatherings);
        // A small table is its own sample; of a large one the rows are walked once more.
        $isWhole = $again === null || $scan->rows <= count($scan->sample);
        $isNames = ! $isWhole;
        foreach ($isWhole ? $scan->sample : $again() as $row) {
            if ($isNames) {
                $isNames = false;

                continue;
            }
            foreach ($shared as $of) {
                $of->addCells($row);
            }
        }

        return array_merge(...array_map(static fn (SharedRows $of): array => $of->usualRows($width), $shared));
    }

    /**
     * @param  list<Dependency>  $dependencies
     * @return array<int, array<int, Dependency>> of one column on another, by both
     */
    private static function decides(array $dependencies): array
    {
        $decides = [];
        foreach ($dependencies as $dependency) {
            if (count($dependency->from) === 1) {
                $decides[$dependency->from[0]][$dependency->to] = $dependency;
            }
        }

        return $decides;
    }

    /**
     * Whether the first line is a row like the others, so that the table has no names: all columns of dates, numbers and
     * identifiers begin with one.
     *
     * @param  list<ColumnProposal>  $columns
     */
    private static function namesAreValues(TableScan $scan, array $columns): bool
    {
        $telling = 0;
        foreach ($columns as $column) {
            if (! in_array($column->kind(), ['date', 'date_range', 'number', 'amount', 'identifier', 'yes_no'], true)) {
                continue;
            }
            $one = new ColumnCounts($column->name);
            $one->add($scan->names[$column->place] ?? '');
            $isAlike = $one->filled > 0 && ColumnJudge::of($one)[0]->kind === $column->kind();
            // One identifier alone is none; its letters and digits must be those of the column.
            if ($column->kind() === 'identifier') {
                $form = preg_replace(['/\pL/u', '/\d/'], ['A', '9'], $scan->names[$column->place] ?? '');
                $isAlike = $form === $column->readings[0]->pattern;
            }
            if (! $isAlike) {
                return false;
            }
            $telling++;
        }

        return $telling > 0;
    }

    /**
     * A design by which people find their way as in the folders they had: a field for each level, named by what its folders are,
     * and a view with these levels in their order.
     */
    public static function ofFolders(FolderTree $tree, Design $existing, string $name = 'Document'): self
    {
        $scan = TableScan::of($tree->rows());
        $found = self::of($scan, $existing, $name);
        $columns = [$found->columns[0]->called('File', $found->columns[0]->code, true)];
        $codes = $existing->fields();
        $labels = $levels = $required = [];
        $place = 1;
        foreach ($tree->names as $level => $parts) {
            foreach ($parts->columns() as $part) {
                $column = $found->columns[$place];
                $label = self::levelLabel($column, $part, $level + 1);
                $label .= isset($labels[$label]) ? ' of folder '.($level + 1) : '';
                $labels[$label] = true;
                $code = $column->existing ?? PartCode::of($label, $codes, 'level');
                $codes[$code] = true;
                $columns[] = $column = $column->called($label, $code, false);
                $required[$place] = $column->isRequired();
                // A number that is another word for the name stands there as its notation.
                if ($part === 'Name' || ($part === 'Number' && $column->sameAs === null)) {
                    $levels[] = $place;
                }
                $place++;
            }
        }

        return new self(
            $scan->rows,
            $columns,
            $found->dependencies,
            [new TypeProposal('', PartCode::of($name, [], 'document_type'), $name, $scan->rows, $required)],
            null,
            [],
            $levels,
            $tree->faults,
            $tree->examples,
            folderNames: $tree->names,
        );
    }

    /** What the folders of a level are, by their names. */
    private static function levelLabel(ColumnProposal $column, string $part, int $level): string
    {
        $isYears = $column->kind() === 'date' && array_filter($column->examples, static fn (string $v): bool => strlen($v) !== 4) === [];

        return match (true) {
            $part === 'Status' => 'Status',
            $isYears => 'Year',
            $column->kind() === 'date' => 'Date',
            $part === 'Number', $column->kind() === 'identifier' => 'Number',
            $column->kind() === 'person' => 'Person',
            default => "Folder {$level}",
        };
    }

    /**
     * @param  array<int, array<int, Dependency>>  $decides
     * @return list<ColumnProposal>
     */
    private static function columns(TableScan $scan, Design $existing, array $decides): array
    {
        $judged = $separators = $tokens = [];
        foreach ($scan->columns as $place => $counts) {
            $judged[$place] = ColumnJudge::of($counts);
            $separators[$place] = '';
            $tokens[$place] = $counts;
            if (in_array($judged[$place][0]->kind, ['text', 'choice', 'person'], true)) {
                [$separator, $apart] = self::separated($counts);
                if ($apart !== null) {
                    [$separators[$place], $tokens[$place], $judged[$place]] = [$separator, $apart, ColumnJudge::of($apart)];
                }
            }
        }
        $isChoice = static fn (int $place): bool => $judged[$place][0]->kind === 'choice';
        $columns = $codes = [];
        foreach ($scan->columns as $place => $counts) {
            $kind = $judged[$place][0]->kind;
            $same = self::sameAs($place, $scan, $decides, $judged);
            $field = self::existing($counts->name, $judged[$place][0], $tokens[$place], $existing);
            $code = $field->code ?? PartCode::of($counts->name, $codes + $existing->fields(), 'field');
            $codes[$code] = true;
            $dependsOn = $kind === 'choice' ? self::dependsOn($place, $scan, $decides, $isChoice) : null;
            $values = $kind === 'choice' ? self::values($tokens[$place], $judged[$place][0]) : [];
            [$terms, $isScheme] = $kind === 'choice' ? self::terms($place, $scan, $values, $decides, $dependsOn) : [[], false];
            [$says, $unknown] = $field === null ? [[], []] : self::known($field, $tokens[$place], $judged[$place][0]);
            $decided = [];
            foreach ($same === null ? $decides[$place] ?? [] : [] as $to => $dependency) {
                if (! isset($decides[$to][$place])) {
                    $but = $dependency->error > 0 ? ' but for '.self::percent($dependency->error) : '';
                    $decided[] = "“{$scan->columns[$to]->name}”{$but}";
                }
            }
            if ($decided !== []) {
                $says[] = 'decides '.implode(', ', $decided);
            }
            $columns[] = new ColumnProposal(
                $place,
                $counts->name,
                $code,
                $judged[$place],
                $counts->fillWithout($judged[$place][0]->nothing),
                $tokens[$place]->distinct(),
                array_map(strval(...), array_slice(array_keys($tokens[$place]->counted()), 0, self::EXAMPLES)),
                $separators[$place],
                Sensitive::why($counts),
                $terms,
                $isScheme,
                $dependsOn,
                $same,
                $field?->code,
                $says,
                $kind === 'choice' ? self::doubles($tokens[$place]) : [],
                unknown: $unknown,
            );
        }

        return $columns;
    }

    private static function percent(float $share): string
    {
        return max(0.1, round(100 * $share, 1)).'% of the rows';
    }

    /**
     * Several values in one cell: what a sign parts comes again more often than the cells do.
     *
     * @return array{string, ColumnCounts|null}
     */
    private static function separated(ColumnCounts $counts): array
    {
        if (! $counts->isExact() || $counts->filled < 10) {
            return ['', null];
        }
        foreach ([';', '|', "\n", ','] as $sign) {
            $with = 0;
            $apart = new ColumnCounts($counts->name);
            foreach ($counts->counted() as $value => $rows) {
                $parts = explode($sign, (string) $value);
                $with += count($parts) > 1 ? $rows : 0;
                foreach ($parts as $part) {
                    for ($i = 0; $i < $rows; $i++) {
                        $apart->add($part);
                    }
                }
            }
            $cells = count($counts->usual());
            $isOften = $with >= self::SEPARATED * $counts->filled;
            if ($isOften && count($apart->usual()) * 1.5 <= $cells && ColumnJudge::of($apart)[0]->kind === 'choice') {
                return [$sign, $apart];
            }
        }

        return ['', null];
    }

    /**
     * Two columns that decide each other say the same; the one with the longer values stays, as the label of the other.
     *
     * @param  array<int, array<int, Dependency>>  $decides
     * @param  array<int, non-empty-list<Reading>>  $judged
     */
    private static function sameAs(int $place, TableScan $scan, array $decides, array $judged): ?int
    {
        $length = static fn (int $of): float => array_sum(array_map(
            static fn (int|string $v): int => strlen((string) $v),
            array_keys($scan->columns[$of]->counted()),
        )) / max(1, $scan->columns[$of]->distinct());
        foreach ($decides[$place] ?? [] as $other => $dependency) {
            if (! isset($decides[$other][$place]) || $scan->columns[$other]->fill() < $scan->columns[$place]->fill() - 0.02) {
                continue;
            }
            // Numbers that happen to go together with something are numbers still.
            if ($judged[$place][0]->kind !== 'choice' || $judged[$other][0]->kind !== 'choice') {
                continue;
            }
            [$mine, $others] = [$length($place), $length($other)];
            if ($others > $mine || ($others === $mine && $other < $place)) {
                return $other;
            }
        }

        return null;
    }

    /**
     * @param  array<int, array<int, Dependency>>  $decides
     * @param  callable(int): bool  $isChoice
     */
    private static function dependsOn(int $place, TableScan $scan, array $decides, callable $isChoice): ?int
    {
        $size = static fn (int $of): int => count($scan->columns[$of]->usual());
        $best = null;
        foreach ($decides[$place] ?? [] as $other => $dependency) {
            if (! isset($decides[$other][$place]) && $isChoice($other) && $size($other) < $size($place)) {
                $best = $best === null || $size($other) > $size($best) ? $other : $best;
            }
        }

        return $best;
    }

    /**
     * @return list<string> those that are terms
     */
    private static function values(ColumnCounts $tokens, Reading $reading): array
    {
        $values = array_map(strval(...), array_keys($tokens->usual()));

        return array_values(array_filter($values, static fn (string $value): bool => ! $reading->leavesOut($value)));
    }

    /**
     * The values as terms of a vocabulary; codes that nest (`NAV.02.3`) as a tree with notations.
     *
     * @param  list<string>  $values
     * @param  array<int, array<int, Dependency>>  $decides
     * @return array{list<array<string, mixed>>, bool}
     */
    private static function terms(int $place, TableScan $scan, array $values, array $decides, ?int $dependsOn): array
    {
        $notations = [];
        foreach ($decides[$place] ?? [] as $other => $dependency) {
            if (isset($decides[$other][$place])) {
                $notations = self::usual($scan->sample, $place, $other);
            }
        }
        natcasesort($values);
        $values = array_values($values);
        $nested = CodeTree::of($values);
        if ($nested !== null) {
            return [$nested->terms($notations), true];
        }
        $under = $dependsOn === null ? [] : self::usual($scan->sample, $place, $dependsOn);
        $terms = [];
        $codes = [];
        foreach ($values as $value) {
            $code = PartCode::of($value, $codes, 'term');
            $codes[$code] = $value;
            $terms[] = [
                'code' => $code,
                'label' => $value,
                'parent' => null,
                'synonyms' => [],
                ...isset($notations[$value]) && $notations[$value] !== $value ? ['notation' => $notations[$value]] : [],
                // The values themselves; they become codes when the vocabulary they are in is known.
                ...isset($under[$value]) && $under[$value] !== '' ? ['under' => [$under[$value]]] : [],
            ];
        }

        return [$terms, false];
    }

    /**
     * The most frequent value of one column beside each of another.
     *
     * @param  array<int, list<string>>  $rows
     * @return array<int|string, string>
     */
    private static function usual(array $rows, int $of, int $other): array
    {
        $counts = [];
        foreach ($rows as $row) {
            $counts[$row[$of]][$row[$other]] = ($counts[$row[$of]][$row[$other]] ?? 0) + 1;
        }

        return array_map(static function (array $beside): string {
            arsort($beside);

            return (string) array_key_first($beside);
        }, $counts);
    }

    /** A field of the design that the column is: by its terms, or by its label and kind. */
    private static function existing(string $name, Reading $reading, ColumnCounts $tokens, Design $existing): ?FieldDefinition
    {
        $best = null;
        $most = self::KNOWN;
        foreach ($existing->fields() as $field) {
            if ($field->kind->value !== $reading->kind) {
                continue;
            }
            $isCalledSo = mb_strtolower($field->label) === mb_strtolower($name) || $field->code === mb_strtolower($name);
            if ($reading->kind !== 'choice') {
                if ($isCalledSo) {
                    return $field;
                }

                continue;
            }
            $known = $all = 0;
            foreach ($tokens->counted() as $value => $rows) {
                $all += $rows;
                $known += $field->vocabulary?->resolve((string) $value) === null ? 0 : $rows;
            }
            $share = $known / max(1, $all);
            if ($share > $most || ($isCalledSo && $share >= self::KNOWN)) {
                [$best, $most] = [$field, $share];
            }
        }

        return $best;
    }

    /** @return array{list<string>, list<string>} how much of a column the terms of an existing field know, and the values they do not */
    private static function known(FieldDefinition $field, ColumnCounts $tokens, Reading $reading): array
    {
        if ($field->vocabulary === null) {
            return [[], []];
        }
        $known = $all = 0;
        $new = [];
        foreach ($tokens->counted() as $value => $rows) {
            if ($reading->leavesOut((string) $value)) {
                continue;
            }
            $all += $rows;
            if ($field->vocabulary->resolve((string) $value) === null) {
                $new[] = (string) $value;
            } else {
                $known += $rows;
            }
        }
        $says = round(100 * $known / max(1, $all), 1)."% of its values are terms of {$field->label}";
        $count = count($new).(count($new) === 1 ? ' is' : ' are');

        return [[$new === [] ? $says : "{$says}; {$count} new: ".implode(', ', array_slice($new, 0, self::EXAMPLES))], $new];
    }

    /** @return list<array{string, string}> the rarer one first */
    private static function doubles(ColumnCounts $tokens): array
    {
        $counts = $tokens->counted();
        $terms = [];
        foreach (array_keys($counts) as $value) {
            $terms[] = ['code' => (string) $value, 'names' => [(string) $value]];
        }
        $doubles = [];
        foreach (LikelyDoubles::of($terms) as ['a' => $a, 'b' => $b]) {
            // Two that are both at home are two; a slip is rare.
            [$rare, $usual] = ($counts[$a] ?? 0) < ($counts[$b] ?? 0) ? [$a, $b] : [$b, $a];
            if (($counts[$rare] ?? 0) * 5 <= ($counts[$usual] ?? 0)) {
                $doubles[] = [$rare, $usual];
            }
        }

        return $doubles;
    }

    /**
     * The column whose value decides which others are filled, and the types it names; one type when there is none.
     *
     * @param  list<ColumnProposal>  $columns
     * @return array{int|null, list<TypeProposal>}
     */
    private static function types(TableScan $scan, array $columns, string $name): array
    {
        $telling = array_values(array_filter(
            $columns,
            static fn (ColumnProposal $c): bool => $c->fill > self::TELLING && $c->fill < 1 - self::TELLING,
        ));
        $best = null;
        $most = 1;
        foreach (count($telling) < 2 ? [] : $columns as $column) {
            if ($column->kind() !== 'choice' || $column->fill < 0.98 || $column->distinct > 60 || $column->separator !== '') {
                continue;
            }
            $told = self::told($scan, $column->place, $telling, $columns);
            // Of two that tell as much, the one with fewer values: the other is finer than need be.
            if ($told > $most || ($told === $most && $best !== null && $column->distinct < $best->distinct)) {
                [$best, $most] = [$column, $told];
            }
        }
        $codes = [];
        if ($best === null) {
            $required = [];
            foreach ($columns as $column) {
                $required[$column->place] = $column->isRequired();
            }

            return [null, [new TypeProposal('', PartCode::of($name, $codes, 'document_type'), $name, $scan->rows, $required)]];
        }
        $types = [];
        foreach (self::fills($scan, $best->place, $columns) as $value => [$rows, $filled]) {
            $value = (string) $value;
            $of = [];
            foreach ($columns as $column) {
                $share = $filled[$column->place] / $rows;
                if ($column->place !== $best->place && $share >= self::TELLING) {
                    $of[$column->place] = $share >= 0.995;
                }
            }
            $code = PartCode::of($value, $codes, 'document_type');
            $codes[$code] = true;
            $types[] = new TypeProposal($value, $code, $value, (int) round($rows * $scan->rows / max(1, count($scan->sample))), $of);
        }
        usort($types, static fn (TypeProposal $a, TypeProposal $b): int => $b->rows <=> $a->rows ?: strcmp($a->value, $b->value));

        return [$best->place, $types];
    }

    /**
     * How many columns a column’s value tells to be filled or not: nine in ten of what guessing would get wrong.
     *
     * @param  list<ColumnProposal>  $telling
     * @param  list<ColumnProposal>  $columns
     */
    private static function told(TableScan $scan, int $place, array $telling, array $columns): int
    {
        $told = 0;
        $groups = self::fills($scan, $place, $columns);
        foreach ($telling as $column) {
            $wrong = $filled = $all = 0;
            foreach ($groups as [$rows, $fills]) {
                $wrong += min($fills[$column->place], $rows - $fills[$column->place]);
                $filled += $fills[$column->place];
                $all += $rows;
            }
            $told += $column->place !== $place && $wrong <= 0.1 * min($filled, $all - $filled) ? 1 : 0;
        }

        return $told;
    }

    /**
     * @param  list<ColumnProposal>  $columns
     * @return array<int|string, array{int, list<int>}> value => rows, and in how many each column is filled
     */
    private static function fills(TableScan $scan, int $place, array $columns): array
    {
        $readings = array_map(static fn (ColumnProposal $c): Reading => $c->readings[0], $columns);
        $groups = [];
        foreach ($scan->sample as $row) {
            $value = $row[$place];
            if ($value === '') {
                continue;
            }
            $groups[$value] ??= [0, array_fill(0, count($row), 0)];
            $groups[$value][0]++;
            foreach ($row as $i => $cell) {
                if ($cell !== '' && ! $readings[$i]->leavesOut($cell)) {
                    $groups[$value][1][$i]++;
                }
            }
        }

        return $groups;
    }

    /**
     * The fewest columns, at most three, that together tell nearly all rows apart; those that read well first.
     *
     * @param  list<ColumnProposal>  $columns
     * @return list<int>
     */
    private static function title(TableScan $scan, array $columns): array
    {
        $may = array_values(array_filter(
            $columns,
            static fn (ColumnProposal $c): bool => $c->fill >= 0.9 &&
                $c->sameAs === null &&
                $c->sensitivity === '' &&
                ! in_array($c->kind(), ['web_address', 'yes_no', 'number', 'amount'], true) &&
                $scan->columns[$c->place]->longest <= 120,
        ));
        $title = [];
        $apart = 0.0;
        while (count($title) < 3 && $apart < 0.98) {
            $best = null;
            $most = $apart + 0.02;
            foreach ($may as $column) {
                if (! in_array($column->place, $title, true)) {
                    $with = self::apart($scan, [...$title, $column->place]);
                    if ($with > $most) {
                        [$best, $most] = [$column->place, $with];
                    }
                }
            }
            if ($best === null) {
                break;
            }
            $title[] = $best;
            $apart = $most;
        }

        return $title;
    }

    /** @param  list<int>  $places */
    private static function apart(TableScan $scan, array $places): float
    {
        $seen = [];
        foreach ($scan->sample as $row) {
            $seen[implode("\0", array_map(static fn (int $place): string => $row[$place], $places))] = true;
        }

        return count($seen) / max(1, count($scan->sample));
    }

    /**
     * The columns that divide the rows best: by the entropy of their values, among those of no more than sixty; dates by year.
     *
     * @param  list<ColumnProposal>  $columns
     * @return list<int>
     */
    private static function levels(TableScan $scan, array $columns, ?int $typeColumn): array
    {
        $entropies = [];
        foreach ($columns as $column) {
            if ($column->sameAs !== null || $column->fill < 0.9 || $column->sensitivity !== '' || $column->place === $typeColumn) {
                continue;
            }
            $counts = $scan->columns[$column->place]->usual();
            if ($column->kind() === 'date') {
                $years = [];
                $order = $column->readings[0]->order ?? DateOrder::DayFirst;
                foreach ($counts as $value => $rows) {
                    $year = substr(WrittenDate::read((string) $value, $order) ?? '', 0, 4);
                    $years[$year] = ($years[$year] ?? 0) + $rows;
                }
                $counts = $years;
            } elseif ($column->kind() !== 'choice') {
                continue;
            }
            if (count($counts) > 1 && count($counts) <= 60) {
                $entropies[$column->place] = self::entropy($counts);
            }
        }
        arsort($entropies);

        return array_slice(array_keys($entropies), 0, 3);
    }

    /** @param  array<int|string, int>  $counts */
    private static function entropy(array $counts): float
    {
        $all = max(1, array_sum($counts));
        $entropy = 0.0;
        foreach ($counts as $count) {
            $entropy -= $count / $all * log($count / $all, 2);
        }

        return $entropy;
    }
}
