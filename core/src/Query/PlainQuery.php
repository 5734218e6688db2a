<?php

declare(strict_types=1);

namespace Brenvic\Core\Query;

/**
 * The plain face of a query: what people type without knowing CQL. Words are all required (or any of them, on
 * request), `"…"` is a phrase, a `-` before a word or phrase leaves out what holds it, `*` and `?` mask.
 */
final class PlainQuery
{
    /**
     * Joins plain words into the tree CQL would give. Anything can be read; nothing but white space means everything.
     *
     * @param  list<Modifier>  $ofWords  given to each word; phrases, and words with masks, are meant as they are written
     */
    public static function parse(string $text, bool $any = false, array $ofWords = []): Query
    {
        $text = mb_scrub(mb_strcut($text, 0, Lexer::MAX_BYTES));
        preg_match_all('/(-?)(?:"([^"]*)"?|([^'.Lexer::BLANK.']+))/u', $text, $matches, PREG_SET_ORDER | PREG_UNMATCHED_AS_NULL);
        $wanted = [];
        $unwanted = [];
        foreach ($matches as $match) {
            // Brackets say nothing between plain words.
            $term = trim(
                str_replace('\\', '\\\\', ($match[2] ?? '') !== '' ? (string) $match[2] : trim((string) ($match[3] ?? ''), '()[]{}')),
            );
            if (preg_match('/[\p{L}\p{N}]/u', $term) !== 1) {
                continue;
            }
            $isWord = ($match[2] ?? null) === null && strpbrk($term, '*?') === false;
            $clause = new SearchClause(SearchClause::ANYWHERE, '=', $term, $isWord ? $ofWords : []);
            if ($match[1] === '-') {
                $unwanted[] = $clause;
            } else {
                $wanted[] = $clause;
            }
        }
        $root = BooleanNode::join($any ? BooleanOperator::Or : BooleanOperator::And, $wanted) ?? SearchClause::everything();
        foreach ($unwanted as $clause) {
            $root = new BooleanNode(BooleanOperator::Not, $root, $clause);
        }

        return new Query($root);
    }

    /**
     * Reads what stands in a query line, as CQL or as plain words.
     *
     * @throws SyntaxError when it is meant as CQL and is not
     */
    public static function read(string $text, IndexNames $names, bool $any = false): Query
    {
        return self::cql($text, $names) ?? self::parse($text, $any);
    }

    /**
     * What is read as CQL: what can be read so, unless its relations are words that stand behind no name that can be
     * searched (“was there” is no relation of “search any gate”). Where it cannot be read, but a sign of comparison stands
     * behind such a name, it was meant so.
     *
     * @return Query|null null for plain words
     *
     * @throws SyntaxError when it is meant as CQL and is not
     */
    public static function cql(string $text, IndexNames $names): ?Query
    {
        try {
            $query = Parser::parse($text);
        } catch (SyntaxError $fault) {
            return self::compares($text, $names) ? throw $fault : null;
        }
        if ($query->root instanceof SearchClause && $query->root->index === SearchClause::ANYWHERE && $query->sortKeys === []) {
            // A word or a phrase alone is plain; an index and a relation, or brackets, are not.
            return count(Lexer::tokens($text)) > 2 ? $query : null;
        }

        return self::asksOfNames($query->root, $names, []) ? $query : null;
    }

    /**
     * Whether every relation that is a word stands behind a name that can be searched.
     *
     * @param  array<string, true>  $prefixes  those the query assigned, as keys
     */
    private static function asksOfNames(Node $node, IndexNames $names, array $prefixes): bool
    {
        return match (true) {
            $node instanceof SearchClause => preg_match('/^[<>=]/', $node->relation) === 1 ||
                $prefixes !== [] ||
                $names->isIndex($node->index),
            $node instanceof BooleanNode => self::asksOfNames($node->left, $names, $prefixes) &&
                self::asksOfNames($node->right, $names, $prefixes),
            $node instanceof PrefixNode => self::asksOfNames($node->inner, $names, [...$prefixes, $node->prefix => true]),
            default => false,
        };
    }

    /** Whether a sign of comparison stands behind a name that can be searched. */
    private static function compares(string $text, IndexNames $names): bool
    {
        try {
            $tokens = Lexer::tokens($text);
        } catch (SyntaxError) {
            // A quotation mark that is not closed: what stands before it tells.
            $tokens = Lexer::tokens(str_replace(['"', '\\'], ' ', mb_scrub(mb_strcut($text, 0, Lexer::MAX_BYTES))));
        }
        foreach ($tokens as $i => $token) {
            if (
                $token->kind === TokenKind::Comparitor &&
                $i > 0 &&
                $tokens[$i - 1]->kind === TokenKind::Word &&
                $names->isIndex($tokens[$i - 1]->text)
            ) {
                return true;
            }
        }

        return false;
    }
}
