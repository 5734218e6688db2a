<?php

declare(strict_types=1);

namespace Brenvic\Core\Search;

use Brenvic\Core\Fields\FieldDefinition;
use Brenvic\Core\Fields\Nearest;
use Brenvic\Core\Index\Part;
use Brenvic\Core\Query\SearchClause;

/** What can be searched: the parts of documents that hold words, and the fields. */
final readonly class SearchSchema
{
    /** @var array<string, FieldDefinition> by code */
    public array $fields;

    /**
     * @param  iterable<FieldDefinition>  $fields  those the asker may search
     * @param  list<Part>  $everywhere  where words are looked for when the query names no place
     */
    public function __construct(
        iterable $fields,
        public array $everywhere = [Part::Names, Part::Values, Part::Text, Part::Comments, Part::Paths],
    ) {
        $byCode = [];
        foreach ($fields as $field) {
            $byCode[$field->code] = $field;
        }
        $this->fields = $byCode;
    }

    /**
     * The parts that an index name stands for, or null when it is the name of a field.
     *
     * @return list<Part>|null
     *
     * @throws SearchError
     */
    public function parts(string $index): ?array
    {
        if ($index === SearchClause::ANYWHERE || $index === 'cql.anywhere' || $index === 'anywhere') {
            return $this->everywhere;
        }
        $part = Part::named($index);
        if ($part !== null) {
            return [$part];
        }
        if (! isset($this->fields[$index])) {
            $this->field($index);
        }

        return null;
    }

    /** @throws SearchError */
    public function field(string $index): FieldDefinition
    {
        if (isset($this->fields[$index])) {
            return $this->fields[$index];
        }
        $near = $this->nearest($index);
        throw new SearchError(
            "There is no field “{$index}”.".($near === null ? '' : " The nearest name is “{$near}”."),
            $near,
        );
    }

    private function nearest(string $index): ?string
    {
        $names = array_keys($this->fields);
        foreach (Part::cases() as $part) {
            $names[] = $part->indexName();
        }
        $near = Nearest::of($index, $names);
        if ($near !== null) {
            return $near;
        }
        $labels = [];
        foreach ($this->fields as $field) {
            $labels[$field->label] = $field->code;
        }
        $label = Nearest::of(str_replace('_', ' ', $index), array_keys($labels));

        return $label === null ? null : $labels[$label];
    }
}
