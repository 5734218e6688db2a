<?php

declare(strict_types=1);

namespace Brenvic\Core\Query;

/**
 * Cuts CQL 1.2 text into tokens, in time linear in its length. Blanks are those of Unicode. Escapes stay in the tokens in
 * their one form (see Escapes), so that `\*` stays distinct from `*`.
 */
final class Lexer
{
    public const MAX_BYTES = 65_536;

    /** White space of any script, and the signs without width that are pasted along with text. */
    public const BLANK = '\s\p{Z}\x{200B}\x{2060}\x{FEFF}';

    private const BLANKS = '/\G['.self::BLANK.']++/u';

    private const PLAIN = '#\G[^'.self::BLANK.'()/<>="\\\\]++#u';

    private const ANY_SIGN = '/\G./su';

    private const COMPARITORS = ['==', '<>', '<=', '>=', '<', '>', '='];

    private const SINGLE = ['(' => TokenKind::Open, ')' => TokenKind::Close, '/' => TokenKind::Slash];

    /**
     * @return list<Token> ends with an End token
     *
     * @throws SyntaxError
     */
    public static function tokens(string $text): array
    {
        if (strlen($text) > self::MAX_BYTES) {
            throw new SyntaxError('The query is longer than 64 kB.', self::MAX_BYTES);
        }
        if (! mb_check_encoding($text, 'UTF-8')) {
            throw new SyntaxError('The query is not valid UTF-8 text.', 0);
        }
        $tokens = [];
        $at = 0;
        $end = strlen($text);
        while (true) {
            $at += self::run(self::BLANKS, $text, $at);
            if ($at >= $end) {
                $tokens[] = new Token(TokenKind::End, '', $end);

                return $tokens;
            }
            $single = self::SINGLE[$text[$at]] ?? null;
            $comparitor = $single === null ? self::comparitor($text, $at) : null;
            [$kind, $raw, $inner] = match (true) {
                $single !== null => [$single, $text[$at], $text[$at]],
                $comparitor !== null => [TokenKind::Comparitor, $comparitor, $comparitor],
                $text[$at] === '"' => self::quoted($text, $at),
                default => self::word($text, $at),
            };
            $tokens[] = new Token($kind, $inner, $at);
            $at += strlen($raw);
        }
    }

    private static function comparitor(string $text, int $at): ?string
    {
        foreach (self::COMPARITORS as $sign) {
            if (substr_compare($text, $sign, $at, strlen($sign)) === 0) {
                return $sign;
            }
        }

        return null;
    }

    /** @return array{TokenKind, string, string} kind, the text as it stands there, the text of the token */
    private static function quoted(string $text, int $start): array
    {
        $at = $start + 1;
        while (true) {
            $at += strcspn($text, '"\\', $at);
            if ($at >= strlen($text)) {
                throw new SyntaxError('A quotation mark is opened here and never closed.', $start);
            }
            if ($text[$at] === '"') {
                return [
                    TokenKind::Quoted,
                    substr($text, $start, $at + 1 - $start),
                    Escapes::canonical(substr($text, $start + 1, $at - $start - 1)),
                ];
            }
            $at += 2;
        }
    }

    /** @return array{TokenKind, string, string} kind, the text as it stands there, the text of the token */
    private static function word(string $text, int $start): array
    {
        $at = $start;
        do {
            $before = $at;
            $at += self::run(self::PLAIN, $text, $at);
            if (($text[$at] ?? '') === '\\') {
                // What is escaped belongs to the word, whatever it is; a backslash at the very end stands for itself.
                $at = min(strlen($text), $at + 1 + self::run(self::ANY_SIGN, $text, $at + 1));
            }
        } while ($at > $before && $at < strlen($text));
        $raw = substr($text, $start, $at - $start);

        return [TokenKind::Word, $raw, Escapes::canonical($raw)];
    }

    /** How many bytes from `$at` on fit a pattern. */
    private static function run(string $pattern, string $text, int $at): int
    {
        $matched = preg_match($pattern, $text, $m, 0, $at);
        if ($matched === false) {
            throw new \LogicException('The query could not be cut: '.preg_last_error_msg());
        }

        return $matched === 1 ? strlen($m[0]) : 0;
    }
}
