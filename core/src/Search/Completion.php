<?php

declare(strict_types=1);

namespace Brenvic\Core\Search;

use Brenvic\Core\Fields\Cover;
use Brenvic\Core\Fields\FieldDefinition;
use Brenvic\Core\Index\DocumentSet;
use Brenvic\Core\Index\IndexReader;
use Brenvic\Core\Index\Tokenizer;
use Brenvic\Core\Query\Printer;
use Brenvic\Core\Query\SearchClause;
use Brenvic\Core\Search\Asking\Criterion;
use Brenvic\Core\Search\Asking\SearchSchema;

/** What the last word of a query line may be going to be: a field, or a value that documents in sight have, with how many. */
final readonly class Completion
{
    private const FIELDS = 4;

    private const VALUES = 8;

    /** Values counted at most; the others of a very common beginning are not worth the time. */
    private const COUNTED = 400;

    public function __construct(private IndexReader $reader, private SearchSchema $schema, private DocumentSet $sight)
    {
    }

    /**
     * @param  string  $typed  what stands in the query line
     * @return array{
     *     from: int,
     *     fields: list<FieldDefinition>,
     *     values: list<array{field: FieldDefinition, value: string, label: string, count: int, cql: string}>
     * } `from` is where what is completed begins, in bytes
     */
    public function of(string $typed): array
    {
        if (
            preg_match('/(?:^|[\s(])([a-z_]+)\s*(?:==?|<>|any|all)\s*("?)([^"]*)$/iu', $typed, $m, PREG_OFFSET_CAPTURE) === 1 &&
            isset($this->schema->fields[strtolower($m[1][0])])
        ) {
            $field = $this->schema->fields[strtolower($m[1][0])];

            return ['from' => $m[1][1], 'fields' => [], 'values' => $this->values([$field], $m[3][0])];
        }
        $from = max((int) strrpos(' '.$typed, ' '), 0);
        $word = ltrim(substr($typed, $from), '"(-');
        if (mb_strlen($word) < 2) {
            return ['from' => $from, 'fields' => [], 'values' => []];
        }
        $wanted = Tokenizer::fold($word);
        $fields = array_filter(
            $this->schema->fields,
            static fn (FieldDefinition $f): bool => str_starts_with(Tokenizer::fold($f->label), $wanted) ||
                str_starts_with($f->code, $wanted),
        );

        // All that was typed may be the beginning of a value of several words: “upper ba”.
        $values = $this->values($this->schema->fields, trim($typed));
        $begin = $values === [] ? $from : strlen($typed) - strlen(ltrim($typed));

        return [
            'from' => $begin,
            'fields' => array_slice(array_values($fields), 0, self::FIELDS),
            'values' => $values === [] ? $this->values($this->schema->fields, $word) : $values,
        ];
    }

    /**
     * @param  iterable<FieldDefinition>  $fields
     * @return list<array{field: FieldDefinition, value: string, label: string, count: int, cql: string}>
     */
    private function values(iterable $fields, string $beginning): array
    {
        $wanted = Tokenizer::fold(trim($beginning));
        $found = [];
        foreach ($fields as $field) {
            // What is sensitive is revealed one by one, on record, and not by what is typed.
            if (
                Cover::hides($field) ||
                $field->kind->isOrdered() ||
                ! $field->kind->hasWords() ||
                ! $field->kind->isSoughtWhole() ||
                in_array($field->code, ['text_state', 'file_name', 'ref'], true)
            ) {
                continue;
            }
            foreach ($this->reader->valueTerms($field->code) as $number => $value) {
                $label = $field->display($value);
                if (count($found) < self::COUNTED && self::begins(Tokenizer::fold($label), $wanted)) {
                    $count = $this->reader->value($field->code, $number)->countCommon($this->sight);
                    $count === 0 ||
                        ($found[] = [
                            'field' => $field,
                            'value' => $value,
                            'label' => $label,
                            'count' => $count,
                            'cql' => Printer::node(new SearchClause($field->code, '==', Criterion::escaped($value))),
                        ]);
                }
            }
        }
        usort($found, static fn (array $a, array $b): int => $b['count'] <=> $a['count'] ?: strcmp($a['label'], $b['label']));

        return array_slice($found, 0, self::VALUES);
    }

    /** Whether a text, or a word in it, begins with another. */
    private static function begins(string $text, string $with): bool
    {
        return str_starts_with($text, $with) || ($with !== '' && str_contains($text, ' '.$with));
    }
}
