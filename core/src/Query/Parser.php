<?php

declare(strict_types=1);

namespace Brenvic\Core\Query;

/**
 * Reads CQL 1.2 (OASIS searchRetrieve part 5) into a tree, by recursive descent over the standard's own grammar:
 *
 *     query       = { prefix } clause { boolean clause } [ "sortby" key { key } ]
 *     prefix      = ">" [ name "=" ] uri
 *     clause      = "(" query-without-sort ")" | index relation term | term
 *     boolean     = ( "and" | "or" | "not" | "prox" ) modifiers
 *     relation    = ( comparitor | [ prefix "." ] name ) modifiers
 *     modifiers   = { "/" name [ comparitor value ] }
 */
final class Parser
{
    private const MAX_DEPTH = 100;

    private int $at = 0;

    private int $depth = 0;

    /** @var array<string, true> the prefixes that the query assigned so far, as keys */
    private array $prefixes = [];

    /** @param  list<Token>  $tokens */
    private function __construct(private readonly array $tokens)
    {
    }

    /** @throws SyntaxError */
    public static function parse(string $cql): Query
    {
        $parser = new self(Lexer::tokens($cql));
        if ($parser->peek()->kind === TokenKind::End) {
            return Query::everything();
        }
        $root = $parser->clauses();
        $keys = $parser->peek()->isWord('sortby') ? $parser->sortKeys() : [];
        $next = $parser->peek();
        if ($next->kind === TokenKind::Close) {
            throw new SyntaxError('A bracket is closed here that was never opened.', $next->position);
        }
        if ($next->kind !== TokenKind::End) {
            throw new SyntaxError(
                "Expected and, or, not, prox or sortBy before {$next->describe()}.",
                $next->position,
                'To search for several words as a phrase, put them in quotation marks.',
            );
        }

        return new Query($root, $keys);
    }

    private function clauses(): Node
    {
        if (++$this->depth > self::MAX_DEPTH) {
            throw new SyntaxError('Brackets are nested more than '.self::MAX_DEPTH.' deep.', $this->peek()->position);
        }
        if ($this->peek()->kind === TokenKind::Comparitor && $this->peek()->text === '>') {
            return $this->prefixed();
        }
        $left = $this->clause();
        while (($operator = $this->operator()) !== null) {
            $this->at++;
            $modifiers = $this->modifiers();
            $left = new BooleanNode($operator, $left, $this->clause(), $modifiers);
        }
        $this->depth--;

        return $left;
    }

    private function prefixed(): Node
    {
        $this->at++;
        $first = $this->term('a prefix or the address of a context set');
        if ($this->peek()->kind === TokenKind::Comparitor && $this->peek()->text === '=') {
            $this->at++;
            $uri = $this->term('the address of a context set');
            $prefix = strtolower($first->text);
            $this->prefixes[$prefix] = true;
            $node = new PrefixNode($prefix, $uri->text, $this->clauses());
        } else {
            $node = new PrefixNode('', $first->text, $this->clauses());
        }
        $this->depth--;

        return $node;
    }

    private function operator(): ?BooleanOperator
    {
        $token = $this->peek();

        return $token->kind === TokenKind::Word ? BooleanOperator::tryFrom(strtolower($token->text)) : null;
    }

    private function clause(): Node
    {
        $token = $this->peek();
        if ($token->kind === TokenKind::Open) {
            $this->at++;
            $inner = $this->clauses();
            if ($this->peek()->kind !== TokenKind::Close) {
                throw new SyntaxError("Expected a closing bracket before {$this->peek()->describe()}.", $this->peek()->position);
            }
            $this->at++;

            return $inner;
        }
        $first = $this->term('a word, a phrase in quotation marks, a field with a relation, or a bracket');
        $next = $this->peek();
        $relation = match (true) {
            $next->kind === TokenKind::Comparitor => $next->text,
            $next->kind === TokenKind::Word && $this->operator() === null && ! $next->isWord('sortby') => strtolower($next->text),
            default => null,
        };
        if ($relation === null) {
            return new SearchClause(SearchClause::ANYWHERE, '=', $first->text);
        }
        if ($next->kind === TokenKind::Word && ! Relations::isKnown($relation) && ! isset($this->prefixes[strstr($relation, '.', true)])) {
            throw new SyntaxError(
                "Expected and, or, not, prox or a relation before {$next->describe()}.",
                $next->position,
                'Join words with and, or put them in quotation marks as a phrase.',
            );
        }
        $this->at++;
        $modifiers = $this->modifiers();

        return new SearchClause(
            strtolower($first->text),
            Relations::plain($relation),
            $this->term("a value for {$first->text}")->text,
            $modifiers,
        );
    }

    /** @return list<Modifier> */
    private function modifiers(): array
    {
        $modifiers = [];
        while ($this->peek()->kind === TokenKind::Slash) {
            $this->at++;
            $modifiers[] = $this->modifier();
        }

        return $modifiers;
    }

    private function modifier(): Modifier
    {
        $name = strtolower($this->term('the name of a modifier')->text);
        if ($this->peek()->kind !== TokenKind::Comparitor) {
            return new Modifier($name);
        }

        return new Modifier($name, $this->next()->text, $this->term('the value of a modifier')->text);
    }

    /** @return list<SortKey> */
    private function sortKeys(): array
    {
        $this->at++;
        $keys = [];
        do {
            $index = strtolower($this->term('a field to sort by')->text);
            $keys[] = new SortKey($index, $this->modifiers());
        } while ($this->peek()->kind === TokenKind::Word || $this->peek()->kind === TokenKind::Quoted);

        return $keys;
    }

    private function term(string $expected): Token
    {
        $token = $this->peek();
        if ($token->kind !== TokenKind::Word && $token->kind !== TokenKind::Quoted) {
            throw new SyntaxError("Expected {$expected} before {$token->describe()}.", $token->position);
        }

        return $this->next();
    }

    private function peek(): Token
    {
        return $this->tokens[$this->at];
    }

    private function next(): Token
    {
        return $this->tokens[$this->at++];
    }
}
