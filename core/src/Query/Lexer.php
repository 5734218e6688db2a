<?php

declare(strict_types=1);

namespace Brenvic\Core\Query;

/**
 * Cuts CQL 1.2 text into tokens. Backslash escapes stay in the tokens (`\*` must stay distinct from `*`), except
 * `\"`, whose backslash only serves the quoting.
 */
final class Lexer
{
    public const MAX_BYTES = 65_536;

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
            $at += strspn($text, " \t\r\n", $at);
            if ($at >= $end) {
                $tokens[] = new Token(TokenKind::End, '', $end);

                return $tokens;
            }
            $sign = $text[$at];
            if ($sign === '"') {
                [$token, $length] = self::quoted($text, $at);
                $tokens[] = $token;
                $at += $length;
            } elseif ($sign === '(' || $sign === ')' || $sign === '/') {
                $kind = match ($sign) {
                    '(' => TokenKind::Open,
                    ')' => TokenKind::Close,
                    '/' => TokenKind::Slash,
                };
                $tokens[] = new Token($kind, $sign, $at++);
            } elseif (preg_match('/\G(?:==|<>|<=|>=|[<>=])/', $text, $m, 0, $at) === 1) {
                $tokens[] = new Token(TokenKind::Comparitor, $m[0], $at);
                $at += strlen($m[0]);
            } else {
                preg_match('#\G(?:\\\\.|[^\s()/<>="\\\\]|\\\\$)+#su', $text, $m, 0, $at);
                $word = $m[0] ?? $sign;
                $tokens[] = new Token(TokenKind::Word, self::closedEscape($word), $at);
                $at += strlen($word);
            }
        }
    }

    /** @return array{Token, int} the token and the bytes it takes */
    private static function quoted(string $text, int $start): array
    {
        if (preg_match('/\G"((?:\\\\.|[^"\\\\])*)"/s', $text, $m, 0, $start) !== 1) {
            throw new SyntaxError('A quotation mark is opened here and never closed.', $start);
        }
        $inner = (string) preg_replace_callback(
            '/\\\\(.)/s',
            static fn (array $pair): string => $pair[1] === '"' ? '"' : $pair[0],
            $m[1],
        );

        return [new Token(TokenKind::Quoted, $inner, $start), strlen($m[0])];
    }

    /** A backslash at the very end escapes nothing: it stands for itself. */
    private static function closedEscape(string $word): string
    {
        return preg_match('/^(?:\\\\.|[^\\\\])*\\\\$/su', $word) === 1 ? $word.'\\' : $word;
    }
}
