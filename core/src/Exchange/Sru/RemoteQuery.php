<?php

declare(strict_types=1);

namespace Brenvic\Core\Exchange\Sru;

use Brenvic\Core\Capture\FileKind;
use Brenvic\Core\Fields\Cover;
use Brenvic\Core\Fields\DateSpan;
use Brenvic\Core\Fields\FieldDefinition;
use Brenvic\Core\Fields\InvalidValue;
use Brenvic\Core\Fields\PartialDate;
use Brenvic\Core\Fields\Vocabulary;
use Brenvic\Core\Index\Part;
use Brenvic\Core\Query\BooleanNode;
use Brenvic\Core\Query\BooleanOperator;
use Brenvic\Core\Query\Ledger;
use Brenvic\Core\Query\LedgerLine;
use Brenvic\Core\Query\Modifier;
use Brenvic\Core\Query\Node;
use Brenvic\Core\Query\PrefixNode;
use Brenvic\Core\Query\Printer;
use Brenvic\Core\Query\Query;
use Brenvic\Core\Query\Relations;
use Brenvic\Core\Query\SearchClause;
use Brenvic\Core\Query\SortKey;
use Brenvic\Core\Search\Asking\Criterion;
use Brenvic\Core\Search\Asking\SearchSchema;

/**
 * A ledger as another repository understands it: fields by the elements of Dublin Core they are mapped to, terms by
 * their labels, “last year” by its days. What cannot be said there, and what must not leave the house (values of
 * sensitive fields), is left out line by line, with the reason; the others are asked all the same.
 */
final readonly class RemoteQuery
{
    /** Terms of a tree that are asked for one by one at most. */
    private const MOST_TERMS = 40;

    /**
     * @param  list<LeftOut>  $leftOut
     * @param  bool  $asks  whether there is anything left to ask for
     */
    private function __construct(public string $cql, public array $leftOut, public bool $asks)
    {
    }

    /**
     * @param  SearchSchema  $schema  what the words and fields mean here
     * @param  list<SortKey>  $sort
     */
    public static function of(Ledger $ledger, SearchSchema $schema, SruExplain $there, array $sort = []): self
    {
        $lines = $leftOut = [];
        foreach ($ledger->lines as $line) {
            if (! $line->on) {
                continue;
            }
            try {
                $node = self::node($line->node, $schema, $there, []);
                $lines[] = new LedgerLine($node, $line->negated);
                $lost = self::lost($line->node, $there);
                if ($lost !== []) {
                    $leftOut[] = new LeftOut(
                        $line->node,
                        'Looked for as it is written: '.implode(' and ', $lost).' cannot be asked there.',
                        true,
                    );
                }
            } catch (NotAskable $why) {
                $leftOut[] = new LeftOut($line->node, $why->getMessage());
            }
        }
        $keys = [];
        foreach ($sort as $key) {
            $element = self::element($schema, $key->index);
            if ($element !== null && $there->sorts("dc.{$element}")) {
                $keys[] = SortKey::of("dc.{$element}", $key->descending());
            }
        }

        return new self(Printer::print(new Query((new Ledger($lines))->tree(), $keys)), $leftOut, $lines !== [] || $leftOut === []);
    }

    /** The element of Dublin Core that a field, or a part of documents, goes by elsewhere; null for none. */
    public static function element(SearchSchema $schema, string $code): ?string
    {
        return match ($code) {
            Part::Names->indexName() => 'title',
            Part::Text->indexName() => 'description',
            default => isset($schema->fields[$code]) && ! Cover::hides($schema->fields[$code]) ? $schema->fields[$code]->dublinCore : null,
        };
    }

    /** @param  array<string, string>  $prefixes */
    private static function node(Node $node, SearchSchema $schema, SruExplain $there, array $prefixes): Node
    {
        if ($node instanceof PrefixNode) {
            return self::node($node->inner, $schema, $there, [...$prefixes, $node->prefix => SearchSchema::contextSet($node->uri)]);
        }
        if ($node instanceof BooleanNode) {
            if ($node->operator === BooleanOperator::Prox) {
                throw new NotAskable('How near words stand to each other cannot be asked there.');
            }

            return new BooleanNode(
                $node->operator,
                self::node($node->left, $schema, $there, $prefixes),
                self::node($node->right, $schema, $there, $prefixes),
            );
        }
        assert($node instanceof SearchClause);
        $plain = new SearchClause(
            $node->index,
            Relations::unprefixed($node->relation, $prefixes),
            $node->term,
            array_map(
                static fn (Modifier $modifier): Modifier => new Modifier(
                    Relations::unprefixed($modifier->name, $prefixes),
                    $modifier->comparitor,
                    $modifier->value,
                ),
                $node->modifiers,
            ),
        );

        return self::clause($plain, $schema, $there, $prefixes);
    }

    /** @param  array<string, string>  $prefixes */
    private static function clause(SearchClause $clause, SearchSchema $schema, SruExplain $there, array $prefixes): Node
    {
        if ($clause->index === SearchClause::EVERYTHING) {
            return $clause;
        }
        if ($clause->relation === 'encloses') {
            throw new NotAskable('What a date covers cannot be asked there.');
        }
        $target = $schema->resolve($clause->index, $prefixes);
        foreach ($target->fields as $field) {
            if (Cover::hides($field)) {
                throw new NotAskable("{$field->label} is sensitive: what is looked for in it is not sent outside.");
            }
        }
        if ($clause->term === '') {
            throw new NotAskable('Whether a value is there cannot be asked there.');
        }
        if ($clause->modifier('only') !== null) {
            throw new NotAskable('A term without what is below it cannot be asked there.');
        }
        $index =
            $target->parts !== [] && $target->fields === []
                ? self::indexOf($target->parts)
                : self::indexOfFields($target->fields, $target->parts);
        if ($index !== SearchClause::ANYWHERE && ! $there->searches($index)) {
            throw new NotAskable("It does not search by {$index}.");
        }
        $modifiers = array_values(array_filter($clause->modifiers, static fn (Modifier $m): bool => $there->modifies($m->plainName())));
        $field = $target->parts === [] ? $target->fields[0] : null;

        return match (true) {
            $field === null => new SearchClause($index, $clause->relation, $clause->term, $modifiers),
            $field->kind->isDate() => self::dates($index, $clause, $field, $schema),
            $field->vocabulary !== null => self::terms($index, $clause, $field->vocabulary, $modifiers),
            $field->kind->isCoded() => self::coded($index, $clause, $field),
            default => new SearchClause($index, $clause->relation, $clause->term, $modifiers),
        };
    }

    /** @param  list<Part>  $parts */
    private static function indexOf(array $parts): string
    {
        return match (true) {
            $parts === [Part::Names] => 'dc.title',
            array_intersect([Part::Text->value, Part::Values->value, Part::Names->value], array_column($parts, 'value')) !== [] => SearchClause::ANYWHERE,
            default => throw new NotAskable('Comments, paths and earlier versions are only here.'),
        };
    }

    /**
     * @param  list<FieldDefinition>  $fields  at least one
     * @param  list<Part>  $parts
     */
    private static function indexOfFields(array $fields, array $parts): string
    {
        if ($parts === [Part::Text]) {
            return SearchClause::ANYWHERE;
        }
        $element = $fields[0]->dublinCore;

        return $element === null
            ? throw new NotAskable("{$fields[0]->label} is not mapped to Dublin Core, so it is not known there.")
            : "dc.{$element}";
    }

    /** Dates by their first and last day: the other side need not know what “last year” or “Mar 2019” means. */
    private static function dates(string $index, SearchClause $clause, FieldDefinition $field, SearchSchema $schema): Node
    {
        try {
            $span =
                $clause->relation === 'within'
                    ? DateSpan::parseRange($clause->term, $schema->calendar)
                    : DateSpan::parse($clause->term, $schema->calendar);
        } catch (InvalidValue $fault) {
            throw new NotAskable($fault->getMessage());
        }
        $first = PartialDate::ofDay($span->first)->iso();
        $last = PartialDate::ofDay($span->last)->iso();
        $of = static fn (string $relation, string $day): SearchClause => new SearchClause($index, $relation, $day);

        return match ($clause->relation) {
            '<' => $of('<', $first),
            '<=' => $of('<=', $last),
            '>' => $of('>', $last),
            '>=' => $of('>=', $first),
            '<>' => new BooleanNode(BooleanOperator::Or, $of('<', $first), $of('>', $last)),
            default => $first === $last ? $of('=', $first) : new BooleanNode(BooleanOperator::And, $of('>=', $first), $of('<=', $last)),
        };
    }

    private static function coded(string $index, SearchClause $clause, FieldDefinition $field): Node
    {
        try {
            return new SearchClause($index, $clause->relation, $field->display($field->parse($clause->term) ?? ''));
        } catch (InvalidValue $fault) {
            throw new NotAskable($fault->getMessage());
        }
    }

    /**
     * A term by its label and its other names, with all that is below it.
     *
     * @param  list<Modifier>  $modifiers
     */
    private static function terms(string $index, SearchClause $clause, Vocabulary $vocabulary, array $modifiers): Node
    {
        $code = $vocabulary->resolve(Criterion::unescaped($clause->term));
        if ($code === null || ! in_array($clause->relation, ['=', '==', 'exact', 'scr', '<>'], true)) {
            return new SearchClause($index, $clause->relation, $clause->term, $modifiers);
        }
        $names = [];
        foreach ($vocabulary->terms as $term) {
            if (in_array($code, $vocabulary->lineage($term->code), true)) {
                array_push($names, $term->label, ...$term->synonyms);
            }
        }
        // Formats are exchanged by their media types.
        $type = $index === 'dc.format' ? FileKind::tryFrom($code)?->mediaType('') : null;
        if ($type !== null) {
            $names = [explode(';', $type)[0]];
        }
        $isNot = $clause->relation === '<>';
        $clauses = array_map(
            static fn (string $name): Node => new SearchClause($index, $isNot ? '<>' : '=', Criterion::escaped($name)),
            array_slice(array_values(array_unique($names)), 0, self::MOST_TERMS),
        );

        return BooleanNode::join($isNot ? BooleanOperator::And : BooleanOperator::Or, $clauses) ?? SearchClause::everything();
    }

    /** @return list<string> what a line asks for beyond its words that is not known there, in words */
    private static function lost(Node $node, SruExplain $there): array
    {
        if ($node instanceof PrefixNode) {
            return self::lost($node->inner, $there);
        }
        if ($node instanceof BooleanNode) {
            return array_values(array_unique([...self::lost($node->left, $there), ...self::lost($node->right, $there)]));
        }
        $words = ['stem' => 'other forms of a word', 'phonetic' => 'what sounds alike', 'fuzzy' => 'other spellings'];
        $lost = [];
        foreach ($node instanceof SearchClause ? $node->modifiers : [] as $modifier) {
            $name = $modifier->plainName();
            if (isset($words[$name]) && ! $there->modifies($name)) {
                $lost[] = $words[$name];
            }
        }

        return $lost;
    }
}
