<?php

declare(strict_types=1);

namespace Brenvic\Core\Search;

use Brenvic\Core\Fields\DateSpan;
use Brenvic\Core\Fields\FieldDefinition;
use Brenvic\Core\Fields\FieldKind;
use Brenvic\Core\Fields\InvalidValue;
use Brenvic\Core\Fields\PartialDate;
use Brenvic\Core\Index\BitSlices;
use Brenvic\Core\Index\DocumentSet;
use Brenvic\Core\Index\IndexReader;
use Brenvic\Core\Index\Keys;
use Brenvic\Core\Index\Part;
use Brenvic\Core\Index\Tokenizer;

/** Finds documents by the values of one field. */
final readonly class FieldSearch
{
    public function __construct(
        private IndexReader $reader,
        private SearchSchema $schema,
        private TextSearch $text,
    ) {
    }

    /** @throws SearchError */
    public function find(FieldDefinition $field, string $relation, string $term, ClauseModifiers $modifiers): DocumentSet
    {
        if ($field->kind->isOrdered()) {
            return $this->onLine($field, $relation, $term);
        }

        return match ($relation) {
            '==', 'exact' => $modifiers->whole === false ? $this->words($field, 'adj', $term, $modifiers) : $this->whole($field, $term, $modifiers),
            '=', 'scr' => match ($modifiers->whole) {
                true => $this->whole($field, $term, $modifiers),
                false => $this->words($field, 'adj', $term, $modifiers),
                null => $this->whole($field, $term, $modifiers)->or($this->words($field, 'adj', $term, $modifiers)),
            },
            'any', 'all', 'adj' => $this->words($field, $relation, $term, $modifiers),
            default => throw new SearchError("“{$relation}” does not apply to {$field->label}: its values have no order. Use =, ==, <>, any, all or adj."),
        };
    }

    /** The documents that have any value in a field. */
    public function filled(FieldDefinition $field): DocumentSet
    {
        return $field->kind->isOrdered()
            ? $this->reader->slices($field->code)->present
            : $this->reader->value($field->code, Keys::ANY);
    }

    private function words(FieldDefinition $field, string $relation, string $term, ClauseModifiers $modifiers): DocumentSet
    {
        return $field->kind->hasWords() ? $this->text->find([Part::ofField($field->code)], $relation, $term, $modifiers) : DocumentSet::none();
    }

    private function onLine(FieldDefinition $field, string $relation, string $term): DocumentSet
    {
        if ($relation === 'any' || $relation === 'all') {
            $sets = array_map(fn (string $value): DocumentSet => $this->onLine($field, '=', $value), preg_split('/\s+/', $term, -1, PREG_SPLIT_NO_EMPTY) ?: []);

            return $relation === 'any' ? DocumentSet::union($sets) : array_reduce($sets, static fn (?DocumentSet $all, DocumentSet $set): DocumentSet => $all?->and($set) ?? $set) ?? DocumentSet::none();
        }
        [$from, $to] = $this->reach($field, $relation, $term);
        if ($field->kind === FieldKind::DateRange) {
            return $this->stretches($field, $relation, $term);
        }
        $set = $from !== null && $to !== null && $from > $to ? DocumentSet::none() : DocumentSet::union(array_map(
            static fn (BitSlices $slices): DocumentSet => $slices->between($from, $to),
            $this->reader->allSlices($field->code),
        ));

        return $relation === 'encloses' && $field->kind === FieldKind::Date ? $set->or($this->enclosing($field, ...$this->range($field, $term))) : $set;
    }

    /**
     * The first and last ordinal that a criterion on a date or number lets through; null is open.
     *
     * @return array{int|null, int|null}
     *
     * @throws SearchError
     */
    public function reach(FieldDefinition $field, string $relation, string $term): array
    {
        [$low, $high] = $relation === 'within' || $relation === 'encloses' ? $this->range($field, $term) : $this->bounds($field, $term);

        return match ($relation) {
            '=', '==', 'exact', 'within', 'scr', '<>', 'any', 'all' => [$low, $high],
            '<' => [null, $low - 1],
            '<=' => [null, $high],
            '>' => [$high + 1, null],
            '>=' => [$low, null],
            'encloses' => $low === $high ? [$low, $high] : [1, 0],
            default => throw new SearchError("“{$relation}” does not apply to {$field->label}. Use =, <>, <, <=, >, >=, within or encloses."),
        };
    }

    /** The documents whose stretch of time shares a day with what is looked for; with `encloses`, has all of it. */
    private function stretches(FieldDefinition $field, string $relation, string $term): DocumentSet
    {
        if ($relation === 'encloses') {
            [$low, $high] = $this->range($field, $term);
            [$from, $to] = [$high, $low];
        } else {
            [$from, $to] = $this->reach($field, $relation, $term);
        }

        return $this->reader->slices($field->code)->between(null, $to)->and($this->reader->slices(Keys::end($field->code))->between($from, null));
    }

    /** The documents whose date is known only to a month or a year that holds all of some days. */
    private function enclosing(FieldDefinition $field, int $low, int $high): DocumentSet
    {
        $first = PartialDate::ofDay($low)->iso();
        $last = PartialDate::ofDay($high)->iso();
        $sets = [];
        foreach ([4, 7] as $length) {
            $number = substr($first, 0, $length) === substr($last, 0, $length) ? $this->reader->valueNumber(Keys::own($field->code), substr($first, 0, $length)) : null;
            $sets[] = $number === null ? DocumentSet::none() : $this->reader->value(Keys::own($field->code), $number);
        }

        return DocumentSet::union($sets);
    }

    /** @return array{int, int} the first and last ordinal of a range */
    private function range(FieldDefinition $field, string $term): array
    {
        try {
            if ($field->kind->isDate()) {
                $span = DateSpan::parseRange($term, $this->schema->calendar);

                return [$span->first, $span->last];
            }
        } catch (InvalidValue) {
            throw new SearchError("within takes a stretch of time for {$field->label}, or two dates with a space between them, like “2019-01 2019-06” or “last year”.");
        }
        $ends = preg_split('/\s+/', trim($term), -1, PREG_SPLIT_NO_EMPTY) ?: [];
        if (count($ends) !== 2) {
            throw new SearchError("within takes two values of {$field->label} with a space between them, like “0.5 1.5”.");
        }

        return [$this->bounds($field, $ends[0])[0], $this->bounds($field, $ends[1])[1]];
    }

    /** @return array{int, int} the first and last ordinal that a value stands for */
    private function bounds(FieldDefinition $field, string $term): array
    {
        try {
            if ($field->kind->isDate()) {
                $span = DateSpan::parse($term, $this->schema->calendar);

                return [$span->first, $span->last];
            }
            // What is looked for need not be allowed as a value: bounds of the field do not apply.
            $number = (new FieldDefinition($field->code, $field->label, FieldKind::Number, unit: $field->unit, system: true))->parse($term);
            $ordinal = FieldDefinition::numberOrdinal((float) $number);

            return [$ordinal, $ordinal];
        } catch (InvalidValue $fault) {
            throw new SearchError($fault->getMessage());
        }
    }

    /** The documents whose value is the term as a whole, case and accents aside; the term may be masked. */
    private function whole(FieldDefinition $field, string $term, ClauseModifiers $modifiers): DocumentSet
    {
        $space = $modifiers->only && $field->isTree() ? Keys::own($field->code) : $field->code;
        $masked = $modifiers->masked && strpbrk((string) preg_replace('/\\\\./su', '', $term), '*?') !== false;
        if (! $masked) {
            $number = $this->reader->valueNumber($space, $this->normal($field, Criterion::unescaped($term)));
            if ($number !== null) {
                return $this->reader->value($space, $number);
            }
        }
        $expression = self::valueExpression($term, $modifiers->masked);
        $set = DocumentSet::none();
        foreach ($this->reader->valueTerms($space) as $number => $value) {
            if (preg_match($expression, Tokenizer::fold($value)) === 1 || preg_match($expression, Tokenizer::fold($field->display($value))) === 1) {
                $set = $set->or($this->reader->value($space, $number));
            }
        }

        return $set;
    }

    private function normal(FieldDefinition $field, string $plain): string
    {
        try {
            return match ($field->kind) {
                FieldKind::Choice => $field->vocabulary?->resolve($plain) ?? $plain,
                FieldKind::YesNo => $field->parse($plain) ?? '',
                default => $plain,
            };
        } catch (InvalidValue $fault) {
            throw new SearchError($fault->getMessage());
        }
    }

    private static function valueExpression(string $term, bool $masked): string
    {
        $expression = '';
        preg_match_all('/\\\\.|./su', trim($term, '^'), $signs);
        foreach ($signs[0] as $sign) {
            $expression .= match (true) {
                $masked && $sign === '*' => '.*',
                $masked && $sign === '?' => '.',
                strlen($sign) > 1 && $sign[0] === '\\' => preg_quote(Tokenizer::fold(substr($sign, 1)), '/'),
                default => preg_quote(Tokenizer::fold($sign), '/'),
            };
        }

        return "/^{$expression}$/su";
    }
}
