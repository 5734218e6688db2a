<?php

declare(strict_types=1);

namespace Brenvic\Core\Design\Proposal;

/** How the rows of a table, or the folders of files, become index values: by the proposal as it was accepted. */
final readonly class Mapping
{
    /**
     * @param  array<int, string>  $fields  place of the column => code of the field
     * @param  array<int, Reading>  $readings  place => how its cells are read
     * @param  array<int, string>  $separators  place => the sign that parts several values
     * @param  array<string, string>  $types  value in the type column => code of the document type; under '' the type of all
     * @param  array<int, array<string, string>>  $treeCodes  place of a column in a tree => its value => the code of its term
     * @param  list<int>  $trees  places of those that have a field there
     * @param  array<int, int>  $refines  place of such a column => the place of what it refines, which stands in for it
     * @param  list<DossierRows>  $dossiers  what the rows are gathered into
     * @param  list<FolderName>  $folderNames  of a folder tree
     */
    private function __construct(
        public array $fields,
        private array $readings,
        private array $separators,
        private ?int $typeColumn,
        private array $types,
        private int $columns,
        private array $treeCodes = [],
        private array $trees = [],
        private array $refines = [],
        public array $dossiers = [],
        private array $folderNames = [],
    ) {
    }

    public static function of(TableProposal $proposal, ProposedDesign $design): self
    {
        $readings = $separators = $refines = $dossiers = [];
        foreach ($proposal->columns as $column) {
            if (isset($design->treeCodes[$column->place]) && $column->dependsOn !== null) {
                $refines[$column->place] = $column->dependsOn;
            }
            if (isset($design->fields[$column->place]) || isset($design->treeCodes[$column->place])) {
                $readings[$column->place] = $design->reading($column);
            }
            if ($column->separator !== '') {
                $separators[$column->place] = $column->separator;
            }
        }
        foreach ($proposal->gatherings as $gathering) {
            $kind = $design->dossierKinds[$gathering->key] ?? null;
            if ($kind !== null) {
                $dossiers[] = new DossierRows($kind, $design->fields[$gathering->key], array_values($design->shared($gathering)));
            }
        }

        return new self(
            $design->fields,
            $readings,
            $separators,
            $proposal->typeColumn,
            $design->types,
            count($proposal->columns),
            $design->treeCodes,
            $design->trees,
            $refines,
            $dossiers,
            $proposal->folderNames,
        );
    }

    /**
     * What a row says of its document. What cannot be read as its column was is given as it stands, to be refused by its field.
     *
     * @param  list<string>  $row
     * @return array{type: string, values: array<string, list<string>>} code of the type, empty when the row names none that was accepted
     */
    public function values(array $row): array
    {
        $type = $this->types[$this->typeColumn === null ? '' : trim($row[$this->typeColumn] ?? '')] ?? '';
        $values = [];
        foreach ($this->cells($row) as $place => $cells) {
            $code = $this->fields[$place];
            $values[$code] = array_values(array_unique([...$values[$code] ?? [], ...$cells]));
        }

        return ['type' => $type, 'values' => $values];
    }

    /**
     * How many folders lie above those that say something: the files of a tree are given from anywhere above it.
     *
     * @param  list<list<string>>  $folders  of each file, the outermost first
     */
    public function above(array $folders): int
    {
        return max(0, min(count(FolderTree::common($folders)), FolderTree::usualDepth($folders) - count($this->folderNames)));
    }

    /**
     * What the folders that a file lies in say of it.
     *
     * @param  list<string>  $folders  the outermost first
     * @return array{type: string, values: array<string, list<string>>}
     */
    public function valuesOfPath(array $folders, string $file): array
    {
        return $this->values(FolderTree::row($this->folderNames, $folders, $file));
    }

    /**
     * @param  list<string>  $row
     * @return array<int, list<string>> as they are read, by the place of the column; those that say nothing are left out
     */
    public function cells(array $row): array
    {
        $row = array_pad(array_slice($row, 0, $this->columns), $this->columns, '');
        $cells = [];
        foreach (array_keys($this->fields) as $place) {
            $values = in_array($place, $this->trees, true) ? $this->inTree($row, $place) : $this->parts($row, $place);
            if ($values !== []) {
                $cells[$place] = $values;
            }
        }

        return $cells;
    }

    /**
     * @param  list<string>  $row
     * @return list<string>
     */
    private function parts(array $row, int $place): array
    {
        $cell = trim($row[$place] ?? '');
        $sign = $this->separators[$place] ?? '';
        $values = [];
        foreach ($sign === '' ? [$cell] : explode($sign, $cell) as $part) {
            $value = self::normal(trim($part), $this->readings[$place]);
            if ($value !== '') {
                $values[] = $value;
            }
        }

        return $values;
    }

    /**
     * The term of a cell; where it is empty, that of the column it refines.
     *
     * @param  list<string>  $row
     * @return list<string>
     */
    private function inTree(array $row, int $place): array
    {
        for ($at = $place; isset($this->treeCodes[$at]); $at = $this->refines[$at] ?? -1) {
            $values = $this->parts($row, $at);
            if ($values !== []) {
                return array_map(fn (string $value): string => $this->treeCodes[$at][$value] ?? $value, $values);
            }
        }

        return [];
    }

    private static function normal(string $text, Reading $reading): string
    {
        $order = $reading->order ?? DateOrder::DayFirst;
        if ($reading->leavesOut($text)) {
            return '';
        }

        return match ($reading->kind) {
            'date' => WrittenDate::read($text, $order) ?? $text,
            'date_range' => WrittenDate::readRange($text, $order) ?? WrittenDate::read($text, $order) ?? $text,
            'number', 'amount' => self::number($text, $reading) ?? $text,
            'yes_no' => ColumnJudge::isYes($text) === null ? $text : (ColumnJudge::isYes($text) ? 'yes' : 'no'),
            default => $text,
        };
    }

    private static function number(string $text, Reading $reading): ?string
    {
        $part = WrittenNumber::parts($text);
        if ($part === null || $reading->decimalSign === '') {
            return null;
        }
        $plain = WrittenNumber::plain($part['digits'], $reading->decimalSign);

        return $plain !== null && $part['negative'] && trim($plain, '0.') !== '' ? "-{$plain}" : $plain;
    }
}
