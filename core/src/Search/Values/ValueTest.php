<?php

declare(strict_types=1);

namespace Brenvic\Core\Search\Values;

use Brenvic\Core\Fields\FieldDefinition;
use Brenvic\Core\Fields\InvalidValue;
use Brenvic\Core\Fields\WrittenForm;
use Brenvic\Core\Index\Tokenizer;
use Brenvic\Core\Query\SearchClause;
use Brenvic\Core\Search\Asking\ClauseModifiers;
use Brenvic\Core\Search\Asking\Criterion;
use Brenvic\Core\Search\Asking\SearchError;
use Brenvic\Core\Search\Asking\SearchFault;
use Brenvic\Core\Search\Asking\SearchSchema;

/** What a clause on a field asks of its values, and whether one value is it. */
final readonly class ValueTest
{
    public function __construct(private SearchSchema $schema)
    {
    }

    /**
     * Whether a value is, as a whole, what a clause asks for. Words within a value are another matter (HitFinder), and
     * what a clause leaves out is never what it asks for.
     *
     * @param  string  $normal  the normal form of the value
     *
     * @throws SearchError when the clause does not apply to the field
     */
    public function fits(FieldDefinition $field, SearchClause $clause, string $normal): bool
    {
        if ($clause->term === '' || $clause->relation === '<>') {
            return false;
        }
        if ($field->kind->isOrdered()) {
            $several = in_array($clause->relation, ['any', 'all'], true);
            foreach ($several ? (preg_split('/\s+/', $clause->term, -1, PREG_SPLIT_NO_EMPTY) ?: []) : [$clause->term] as $term) {
                if ($this->lies($field, $several ? '=' : $clause->relation, $term, $normal)) {
                    return true;
                }
            }

            return false;
        }
        $modifiers = ClauseModifiers::of($clause->modifiers);
        if (! in_array($clause->relation, ['=', '==', 'exact', 'scr'], true) || $modifiers->whole === false) {
            return false;
        }
        // A term of a tree is found by every term above it.
        $names = $field->isTree() && ! $modifiers->only ? $field->vocabulary?->lineage($normal) ?? [$normal] : [$normal];
        if (
            ! self::isMasked($clause->term, $modifiers) &&
            in_array($this->normal($field, Criterion::unescaped($clause->term)), $names, true)
        ) {
            return true;
        }
        $expression = self::expression($clause->term, $modifiers->masked);
        // What a value is found by is the same for everybody.
        $field = $field->written(new WrittenForm());
        foreach ($names as $name) {
            if (
                preg_match($expression, Tokenizer::fold($name)) === 1 ||
                preg_match($expression, Tokenizer::fold($field->display($name))) === 1
            ) {
                return true;
            }
        }

        return false;
    }

    /** Whether a date or number lies where a criterion lets it through. */
    private function lies(FieldDefinition $field, string $relation, string $term, string $normal): bool
    {
        [$first, $last] = [(int) $field->ordinal($normal), (int) $field->kind->lastOrdinal($field, $normal)];
        if ($relation === 'encloses') {
            [$low, $high] = $this->range($field, $term);

            return $first <= $low && $last >= $high;
        }
        [$from, $to] = $this->reach($field, $relation, $term);

        return $field->kind->isStretch()
            ? ($to === null || $first <= $to) && ($from === null || $last >= $from)
            : ($to === null || $first <= $to) && ($from === null || $first >= $from);
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
            '=', '==', 'exact', 'within', 'scr', '<>' => [$low, $high],
            '<' => [null, $low - 1],
            '<=' => [null, $high],
            '>' => [$high + 1, null],
            '>=' => [$low, null],
            'encloses' => $low === $high ? [$low, $high] : [1, 0],
            default => throw new SearchError(
                "“{$relation}” does not apply to {$field->label}. Use =, <>, <, <=, >, >=, within or encloses.",
                fault: SearchFault::RelationForIndex,
            ),
        };
    }

    /**
     * @return array{int, int} the first and last ordinal of a range
     *
     * @throws SearchError
     */
    public function range(FieldDefinition $field, string $term): array
    {
        try {
            return $field->kind->range($field, $term, $this->schema->calendar);
        } catch (InvalidValue $fault) {
            throw new SearchError($fault->getMessage(), fault: SearchFault::Term);
        }
    }

    /** @return array{int, int} the first and last ordinal that a value stands for */
    private function bounds(FieldDefinition $field, string $term): array
    {
        try {
            return $field->kind->span($field, $term, $this->schema->calendar);
        } catch (InvalidValue $fault) {
            throw new SearchError($fault->getMessage(), fault: SearchFault::Term);
        }
    }

    /** Whether a criterion names a term of a tree: then it asks for that term and what is below it, not for words. */
    public static function namesTerm(FieldDefinition $field, string $relation, string $term, ClauseModifiers $modifiers): bool
    {
        return $field->isTree() &&
            in_array($relation, ['=', 'scr'], true) &&
            $modifiers->whole === null &&
            ! self::isMasked($term, $modifiers) &&
            $field->vocabulary?->resolve(Criterion::unescaped($term)) !== null;
    }

    /** Whether a term has signs that stand for others. */
    public static function isMasked(string $term, ClauseModifiers $modifiers): bool
    {
        return $modifiers->masked && strpbrk((string) preg_replace('/\\\\./su', '', $term), '*?') !== false;
    }

    /**
     * The normal form of a value that is looked for as a whole.
     *
     * @throws SearchError
     */
    public function normal(FieldDefinition $field, string $plain): string
    {
        try {
            return $field->kind->sought($field, $plain);
        } catch (InvalidValue $fault) {
            throw new SearchError($fault->getMessage(), fault: SearchFault::Term);
        }
    }

    /** What matches the folded value, as a regular expression. */
    public static function expression(string $term, bool $masked): string
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
