<?php

declare(strict_types=1);

namespace Brenvic\Core\Design;

use Brenvic\Core\Fields\InvalidDefinition;

/** A reference table: for each value of one field, values of others. */
final readonly class TablePart extends Part
{
    /**
     * @param  string  $key  code of the field that is looked up
     * @param  list<string>  $fills  codes of the fields that are filled
     * @param  bool  $isOutside  whether the rows stand in another database
     * @param  list<list<string>>  $rows  each with the key and what it fills
     * @param  string  $connection  the name of the other database in the configuration
     * @param  string  $outside  the table there
     * @param  list<string>  $columns  its columns, for the key and for what is filled
     */
    protected function __construct(
        string $code,
        string $name,
        public string $key,
        public array $fills,
        public bool $isOutside,
        public array $rows,
        public string $connection,
        public string $outside,
        public array $columns,
    ) {
        parent::__construct($code, $name);
    }

    public static function of(string $code, array $content): static
    {
        /** @var list<list<string>> $rows */
        $rows = array_values(array_filter(is_array($content['rows'] ?? null) ? $content['rows'] : [], is_array(...)));

        return new self(
            $code,
            self::text($content, 'name'),
            self::text($content, 'key'),
            Design::codes($content, 'fills'),
            ($content['source'] ?? 'rows') === 'outside',
            $rows,
            self::text($content, 'connection'),
            self::text($content, 'outside'),
            Design::codes($content, 'columns'),
        );
    }

    public static function kind(): DesignKind
    {
        return DesignKind::Table;
    }

    public function refersTo(): array
    {
        return self::each(DesignKind::Field, [$this->key, ...$this->fills]);
    }

    public function belongsTo(DesignCheck $check): array
    {
        return $this->refersTo();
    }

    public function check(DesignCheck $check): void
    {
        $check->fields([$this->key], 'key');
        $check->fields($this->fills, 'fills');
        if (in_array($this->key, $this->fills, true)) {
            throw new InvalidDefinition('fills', 'The key cannot be one of the fields that it fills.');
        }
        $width = count($this->fills) + 1;
        foreach ($this->rows as $i => $row) {
            if (count($row) !== $width) {
                throw new InvalidDefinition('rows', 'Row '.($i + 1).' has '.count($row)." cells; the table has {$width} columns.");
            }
        }
        if ($this->isOutside && count($this->columns) !== $width) {
            throw new InvalidDefinition('columns', 'Name a column of the outside table for the key and for each field that is filled.');
        }
    }
}
