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
     */
    private function __construct(
        public array $fields,
        private array $readings,
        private array $separators,
        private ?int $typeColumn,
        private array $types,
        private int $columns,
    ) {
    }

    public static function of(TableProposal $proposal, ProposedDesign $design): self
    {
        $readings = $separators = [];
        foreach ($proposal->columns as $column) {
            if (isset($design->fields[$column->place])) {
                $readings[$column->place] = $design->reading($column);
                if ($column->separator !== '') {
                    $separators[$column->place] = $column->separator;
                }
            }
        }

        return new self($design->fields, $readings, $separators, $proposal->typeColumn, $design->types, count($proposal->columns));
    }

    /**
     * What a row says of its document. What cannot be read as its column was is given as it stands, to be refused by its field.
     *
     * @param  list<string>  $row
     * @return array{type: string, values: array<string, list<string>>} code of the type, empty when the row names none that was accepted
     */
    public function values(array $row): array
    {
        $row = array_pad(array_slice($row, 0, $this->columns), $this->columns, '');
        $type = $this->types[$this->typeColumn === null ? '' : trim($row[$this->typeColumn] ?? '')] ?? '';
        $values = [];
        foreach ($this->fields as $place => $code) {
            $cell = trim($row[$place] ?? '');
            if ($cell === '') {
                continue;
            }
            $sign = $this->separators[$place] ?? '';
            foreach ($sign === '' ? [$cell] : explode($sign, $cell) as $part) {
                $value = self::normal(trim($part), $this->readings[$place]);
                if ($value !== '') {
                    $values[$code][] = $value;
                }
            }
        }

        return ['type' => $type, 'values' => $values];
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
