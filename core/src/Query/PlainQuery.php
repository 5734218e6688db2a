<?php

declare(strict_types=1);

namespace Brenvic\Core\Query;

/**
 * The plain face of a query: what people type without knowing CQL. Words are all required (or any of them, on
 * request), `"…"` is a phrase, a `-` before a word or phrase leaves out what holds it, `*` and `?` mask.
 */
final class PlainQuery
{
    /** Joins plain words into the tree CQL would give. Anything can be read; nothing but white space means everything. */
    public static function parse(string $text, bool $any = false): Query
    {
        $text = mb_scrub(mb_strcut($text, 0, Lexer::MAX_BYTES));
        preg_match_all('/(-?)(?:"([^"]*)"?|(\S+))/u', $text, $matches, PREG_SET_ORDER | PREG_UNMATCHED_AS_NULL);
        $wanted = [];
        $unwanted = [];
        foreach ($matches as $match) {
            $term = trim(str_replace('\\', '\\\\', ($match[2] ?? '') !== '' ? (string) $match[2] : (string) ($match[3] ?? '')));
            if (preg_match('/[\p{L}\p{N}]/u', $term) !== 1) {
                continue;
            }
            $clause = new SearchClause(SearchClause::ANYWHERE, '=', $term);
            if ($match[1] === '-') {
                $unwanted[] = $clause;
            } else {
                $wanted[] = $clause;
            }
        }
        $root = BooleanNode::join($any ? BooleanOperator::Or : BooleanOperator::And, $wanted)
            ?? SearchClause::everything();
        foreach ($unwanted as $clause) {
            $root = new BooleanNode(BooleanOperator::Not, $root, $clause);
        }

        return new Query($root);
    }

    /**
     * Reads what stands in a query line: CQL when it uses a relation, a bracket or a boolean in small or capital
     * letters as CQL does; plain words otherwise.
     *
     * @throws SyntaxError when it is meant as CQL and is not
     */
    public static function parseEither(string $text): Query
    {
        return self::looksLikeCql($text) ? Parser::parse($text) : self::parse($text);
    }

    public static function looksLikeCql(string $text): bool
    {
        $bare = (string) preg_replace('/"(?:\\\\.|[^"\\\\])*"/su', '""', $text);

        return preg_match('#[=<>()]|(?:^|\s)(?:and|or|not|prox|sortby|within|adj|encloses)(?:\s|/)#i', $bare) === 1
            && preg_match('/^\s*(?:and|or|not|within|adj)\b|\b(?:and|or|not|within|adj)\s*$/i', $bare) !== 1
            && (preg_match('#[=<>()]|sortby#i', $bare) === 1 || self::parses($text));
    }

    /** “lock and gate” is both CQL and two words with an and; “state of lock and gate” is only words. */
    private static function parses(string $text): bool
    {
        try {
            Parser::parse($text);

            return true;
        } catch (SyntaxError) {
            return false;
        }
    }
}
