<?php

declare(strict_types=1);

namespace Brenvic\Core\Search;

use Brenvic\Core\Fields\FieldDefinition;
use Brenvic\Core\Fields\FieldKind;
use Brenvic\Core\Fields\InvalidValue;
use Brenvic\Core\Fields\PartialDate;
use Brenvic\Core\Index\DocumentSet;
use Brenvic\Core\Index\IndexReader;
use Brenvic\Core\Index\Part;
use Brenvic\Core\Index\Tokenizer;
use Brenvic\Core\Query\BooleanNode;
use Brenvic\Core\Query\BooleanOperator;
use Brenvic\Core\Query\Node;
use Brenvic\Core\Query\PrefixNode;
use Brenvic\Core\Query\SearchClause;

/** Turns a tree into the set of documents that fit, within the documents the asker may see. */
final class Evaluator
{
    /** A mask that fits more words than this is refused: it says too little. */
    private const MOST_WORDS = 20_000;

    private const MOST_SUGGESTIONS = 5;

    /** @var list<RankedTerm> the words met so far that were wanted */
    public array $ranked = [];

    /** @var list<Variants> what the words met so far were widened to, or may have meant */
    public array $variants = [];

    private bool $wanted = true;

    private Widening $widening;

    /** @var list<string> */
    private array $parts = [];

    public function __construct(
        private readonly IndexReader $reader,
        private readonly SearchSchema $schema,
        private readonly DocumentSet $visible,
    ) {
    }

    /** @throws SearchError */
    public function evaluate(Node $node, bool $negated = false): DocumentSet
    {
        $this->wanted = ! $negated;

        return $this->node($node)->and($this->visible);
    }

    private function node(Node $node): DocumentSet
    {
        return match (true) {
            $node instanceof SearchClause => $this->clause($node),
            $node instanceof BooleanNode => $this->joined($node),
            $node instanceof PrefixNode => $this->node($node->inner),
            default => throw new \LogicException('Unknown node '.$node::class),
        };
    }

    private function joined(BooleanNode $node): DocumentSet
    {
        if ($node->operator === BooleanOperator::Prox) {
            return $this->near($node);
        }
        $left = $this->node($node->left);
        if ($node->operator === BooleanOperator::Not) {
            $wanted = $this->wanted;
            $this->wanted = false;
            $right = $this->node($node->right);
            $this->wanted = $wanted;

            return $left->minus($right);
        }
        $right = $this->node($node->right);

        return $node->operator === BooleanOperator::And ? $left->and($right) : $left->or($right);
    }

    private function clause(SearchClause $clause): DocumentSet
    {
        if ($clause->index === SearchClause::EVERYTHING) {
            return $this->visible;
        }
        $parts = $this->schema->parts($clause->index);
        if ($parts !== null) {
            return $this->inText($clause, array_map(static fn (Part $part): string => $part->value, $parts));
        }
        $field = $this->schema->field($clause->index);
        if ($clause->term === '') {
            $empty = $this->visible->minus($this->filled($field));

            return $clause->relation === '<>' ? $this->visible->minus($empty) : $empty;
        }
        if ($clause->relation === '<>') {
            return $this->visible->minus($this->clause(new SearchClause($clause->index, '=', $clause->term, $clause->modifiers)));
        }

        return $field->kind->isOrdered() ? $this->onLine($field, $clause) : $this->inField($field, $clause);
    }

    /** @param  list<string>  $parts */
    private function inText(SearchClause $clause, array $parts): DocumentSet
    {
        $patterns = WordPattern::ofTerm($clause->term);
        if ($patterns === []) {
            return DocumentSet::none();
        }
        $this->widening = Widening::ofModifiers($clause->modifiers);
        $this->parts = $parts;

        return match ($clause->relation) {
            '=', '==', 'exact', 'adj', 'scr' => $this->phrase($parts, $patterns),
            'all' => $this->allOf($parts, $patterns),
            'any' => DocumentSet::union(array_map(fn (WordPattern $pattern): DocumentSet => $this->words($parts, $pattern), $patterns)),
            '<>' => $this->visible->minus($this->phrase($parts, $patterns)),
            default => throw new SearchError("“{$clause->relation}” compares values and {$clause->index} holds words. Use =, any, all or adj."),
        };
    }

    /**
     * @param  list<string>  $parts
     * @param  list<WordPattern>  $patterns
     */
    private function allOf(array $parts, array $patterns): DocumentSet
    {
        $set = $this->visible;
        foreach ($patterns as $pattern) {
            $set = $set->and($this->words($parts, $pattern));
        }

        return $set;
    }

    /** @param  list<string>  $parts */
    private function words(array $parts, WordPattern $pattern): DocumentSet
    {
        $numbers = $this->numbers($pattern);
        if ($this->wanted && $numbers !== []) {
            $this->ranked[] = new RankedTerm($parts, $numbers);
        }

        return DocumentSet::union(array_map(fn (int $word): DocumentSet => $this->reader->word($parts, $word), $numbers));
    }

    /** @return list<int> the dictionary words that fit a pattern */
    private function numbers(WordPattern $pattern): array
    {
        if (! $pattern->masked) {
            return $this->widened($pattern->text);
        }
        $fitting = preg_grep($pattern->expression(), $this->reader->wordsBeginningWith($pattern->prefix()));
        if ($fitting !== false && count($fitting) > self::MOST_WORDS) {
            throw new SearchError("“{$pattern->text}” fits more than ".self::MOST_WORDS.' different words. Write more of the word.');
        }

        return $fitting === false ? [] : array_keys($fitting);
    }

    /**
     * A word with all it was widened to. Only words of documents that the asker may see count, are named or suggested.
     *
     * @return list<int>
     */
    private function widened(string $word): array
    {
        $own = array_values($this->reader->wordNumbers([$word]));
        if (! $this->widening->reaches()) {
            if ($this->wanted && ($own === [] || $this->seen($own[0]) === 0)) {
                $this->suggest($word);
            }

            return $own;
        }
        $words = [];
        $numbers = [];
        foreach ($this->widening->variants($word, $this->reader->wordsBeginningWith('')) as $number => $variant) {
            $count = $this->seen($number);
            if ($count > 0) {
                $on = ! in_array($variant, $this->widening->without, true);
                $words[] = ['word' => $variant, 'count' => $count, 'on' => $on];
                if ($on) {
                    $numbers[] = $number;
                }
            }
        }
        usort($words, static fn (array $a, array $b): int => $b['count'] <=> $a['count'] ?: strcmp($a['word'], $b['word']));
        $this->variants[] = new Variants($word, $words, false);

        return $numbers;
    }

    private function suggest(string $word): void
    {
        $near = [];
        foreach (Widening::guess($word)->variants($word, $this->reader->wordsBeginningWith('')) as $number => $other) {
            $count = $this->seen($number);
            if ($count > 0) {
                $near[] = ['word' => $other, 'count' => $count, 'on' => false, 'far' => levenshtein($word, $other)];
            }
        }
        usort($near, static fn (array $a, array $b): int => [$a['far'], -$a['count'], $a['word']] <=> [$b['far'], -$b['count'], $b['word']]);
        $words = array_map(static fn (array $n): array => ['word' => $n['word'], 'count' => $n['count'], 'on' => false], array_slice($near, 0, self::MOST_SUGGESTIONS));
        if ($words !== []) {
            $this->variants[] = new Variants($word, $words, true);
        }
    }

    /** In how many documents that the asker may see a word stands, in the parts that are searched. */
    private function seen(int $number): int
    {
        return $this->reader->word($this->parts, $number)->and($this->visible)->count();
    }

    /**
     * @param  list<string>  $parts
     * @param  list<WordPattern>  $patterns
     */
    private function phrase(array $parts, array $patterns): DocumentSet
    {
        if (count($patterns) === 1) {
            return $this->words($parts, $patterns[0]);
        }
        $numbers = array_map($this->numbers(...), $patterns);
        if (in_array([], $numbers, true)) {
            return DocumentSet::none();
        }

        return $this->checked($this->together($parts, $numbers), $parts, new WordSequence($numbers));
    }

    /**
     * The documents that have one of the words of each place, all in the same part.
     *
     * @param  list<string>  $parts
     * @param  list<list<int>>  $places
     */
    private function together(array $parts, array $places): DocumentSet
    {
        $candidates = DocumentSet::none();
        foreach ($parts as $part) {
            $inPart = $this->visible;
            foreach ($places as $words) {
                $inPart = $inPart->and(DocumentSet::union(array_map(fn (int $word): DocumentSet => $this->reader->word([$part], $word), $words)));
            }
            $candidates = $candidates->or($inPart);
        }
        if ($this->wanted) {
            foreach ($places as $words) {
                $this->ranked[] = new RankedTerm($parts, $words);
            }
        }

        return $candidates;
    }

    private function near(BooleanNode $node): DocumentSet
    {
        if (! $node->left instanceof SearchClause || ! $node->right instanceof SearchClause || $node->left->index !== $node->right->index) {
            throw new SearchError('prox joins two words or phrases of the same index.');
        }
        $parts = $this->schema->parts($node->left->index);
        $parts = $parts === null ? [Part::ofField($node->left->index)] : array_map(static fn (Part $part): string => $part->value, $parts);
        $this->parts = $parts;
        $this->widening = Widening::ofModifiers($node->left->modifiers);
        $left = array_map($this->numbers(...), WordPattern::ofTerm($node->left->term));
        $this->widening = Widening::ofModifiers($node->right->modifiers);
        $right = array_map($this->numbers(...), WordPattern::ofTerm($node->right->term));
        if ($left === [] || $right === []) {
            return DocumentSet::none();
        }
        $nearness = Nearness::ofModifiers($node->modifiers, new WordSequence($left), new WordSequence($right));
        $candidates = $this->together($parts, [...$left, ...$right]);

        return $this->checked($candidates, $parts, $nearness);
    }

    /** @param  list<string>  $parts */
    private function checked(DocumentSet $candidates, array $parts, StreamTest $test): DocumentSet
    {
        $found = [];
        foreach ($candidates->and($this->visible)->chunks(500) as $documents) {
            foreach ($this->reader->records($documents) as $document => $record) {
                foreach ($parts as $part) {
                    if (isset($record->words[$part]) && $test->holds($record->words[$part])) {
                        $found[] = $document;
                        break;
                    }
                }
            }
        }

        return DocumentSet::of($found);
    }

    /** The documents that have any value in a field. */
    private function filled(FieldDefinition $field): DocumentSet
    {
        if ($field->kind->isOrdered()) {
            return $this->reader->slices($field->code)->present;
        }

        return DocumentSet::union(array_map(
            fn (int $number): DocumentSet => $this->reader->value($field->code, $number),
            array_keys($this->reader->valueTerms($field->code)),
        ));
    }

    private function onLine(FieldDefinition $field, SearchClause $clause): DocumentSet
    {
        $slices = $this->reader->slices($field->code);
        [$low, $high] = match ($clause->relation) {
            'within' => $this->span($field, $clause->term),
            'any', 'all' => [null, null],
            default => $this->bounds($field, $clause->term),
        };

        return match ($clause->relation) {
            '=', '==', 'exact', 'within', 'scr' => $slices->between($low, $high),
            '<' => $slices->between(null, $low === null ? null : $low - 1),
            '<=' => $slices->between(null, $high),
            '>' => $slices->between($high === null ? null : $high + 1, null),
            '>=' => $slices->between($low, null),
            'any' => DocumentSet::union(array_map(
                fn (string $value): DocumentSet => $slices->between(...$this->bounds($field, $value)),
                self::listed($clause->term),
            )),
            default => throw new SearchError("“{$clause->relation}” does not apply to {$field->label}. Use =, <>, <, <=, >, >= or within."),
        };
    }

    /** @return array{int|null, int|null} */
    private function span(FieldDefinition $field, string $term): array
    {
        $ends = self::listed($term);
        if (count($ends) !== 2) {
            throw new SearchError("within takes two values of {$field->label} with a space between them, like “2019-01 2019-06”.");
        }

        return [$this->bounds($field, $ends[0])[0], $this->bounds($field, $ends[1])[1]];
    }

    /** @return array{int, int} the first and last ordinal that a value stands for */
    private function bounds(FieldDefinition $field, string $term): array
    {
        try {
            if ($field->kind === FieldKind::Date) {
                $date = PartialDate::parse($term);

                return [$date->firstDay(), $date->lastDay()];
            }
            // What is looked for need not be allowed as a value: bounds of the field do not apply.
            $number = (new FieldDefinition($field->code, $field->label, FieldKind::Number, unit: $field->unit, system: true))->parse($term);
            $ordinal = FieldDefinition::numberOrdinal((float) $number);

            return [$ordinal, $ordinal];
        } catch (InvalidValue $fault) {
            throw new SearchError($fault->getMessage());
        }
    }

    private function inField(FieldDefinition $field, SearchClause $clause): DocumentSet
    {
        return match ($clause->relation) {
            '==', 'exact' => $this->whole($field, $clause->term),
            '=', 'scr' => $this->whole($field, $clause->term)->or($this->inFieldWords($field, 'adj', $clause)),
            'any', 'all', 'adj' => $this->inFieldWords($field, $clause->relation, $clause),
            default => throw new SearchError("“{$clause->relation}” does not apply to {$field->label}: its values have no order. Use =, ==, <>, any, all or adj."),
        };
    }

    private function inFieldWords(FieldDefinition $field, string $relation, SearchClause $clause): DocumentSet
    {
        if (! $field->kind->hasWords()) {
            return DocumentSet::none();
        }

        return $this->inText(new SearchClause($clause->index, $relation, $clause->term, $clause->modifiers), [Part::ofField($field->code)]);
    }

    /** The documents whose value is the term as a whole, case and accents aside; the term may be masked. */
    private function whole(FieldDefinition $field, string $term): DocumentSet
    {
        $plain = (string) preg_replace('/\\\\(.)/su', '$1', $term);
        if (strpbrk((string) preg_replace('/\\\\./su', '', $term), '*?') === false) {
            $normal = $plain;
            if ($field->kind === FieldKind::Choice) {
                $normal = $field->vocabulary?->resolve($plain) ?? $plain;
            } elseif ($field->kind === FieldKind::YesNo) {
                try {
                    $normal = $field->parse($plain) ?? '';
                } catch (InvalidValue $fault) {
                    throw new SearchError($fault->getMessage());
                }
            }
            $number = $this->reader->valueNumber($field->code, $normal);
            if ($number !== null) {
                return $this->reader->value($field->code, $number);
            }
        }
        $expression = self::valueExpression($term);
        $set = DocumentSet::none();
        foreach ($this->reader->valueTerms($field->code) as $number => $value) {
            if (preg_match($expression, Tokenizer::fold($value)) === 1 || preg_match($expression, Tokenizer::fold($field->display($value))) === 1) {
                $set = $set->or($this->reader->value($field->code, $number));
            }
        }

        return $set;
    }

    private static function valueExpression(string $term): string
    {
        $expression = '';
        preg_match_all('/\\\\.|./su', $term, $signs);
        foreach ($signs[0] as $sign) {
            $expression .= match (true) {
                $sign === '*' => '.*',
                $sign === '?' => '.',
                strlen($sign) > 1 && $sign[0] === '\\' => preg_quote(Tokenizer::fold(substr($sign, 1)), '/'),
                default => preg_quote(Tokenizer::fold($sign), '/'),
            };
        }

        return "/^{$expression}$/su";
    }

    /** @return list<string> */
    private static function listed(string $term): array
    {
        return preg_split('/\s+/', trim($term), -1, PREG_SPLIT_NO_EMPTY) ?: [];
    }
}
