<?php

declare(strict_types=1);

namespace Brenvic\Core\Reading;

use Brenvic\Core\Fields\InvalidDefinition;

/**
 * A pattern that a librarian writes: the regular expressions that most programs have in common, without what looks elsewhere or
 * refers to what it found before (look-around, back-references, recursion, conditions, inline options), and with a limit on the
 * steps that it may take for one page. Parts may have names, as in `(?<value>\d{4})`.
 */
final readonly class SafePattern
{
    /** The part that is taken where one has this name; else all that was found. */
    public const VALUE = 'value';

    /** Steps that it may take for a page of text (PCRE2’s match limit). */
    private const STEPS = 400_000;

    private const LONGEST = 500;

    /** What may stand behind a backslash besides signs that would mean something without it. */
    private const CLASSES = 'dDwWsSbBtn';

    private function __construct(public string $pattern, private string $expression)
    {
    }

    /** @throws InvalidDefinition that says what is not allowed, and where */
    public static function of(string $pattern): self
    {
        self::check($pattern);
        $expression = '~(*NO_JIT)(*LIMIT_MATCH='.self::STEPS.')'.str_replace('~', '\~', $pattern).'~mu';
        $said = '';
        // What is wrong with a pattern is only told as a warning.
        set_error_handler(static function (int $level, string $message) use (&$said): bool {
            $said = $message;

            return true;
        });
        try {
            $fits = preg_match($expression, '');
        } finally {
            restore_error_handler();
        }
        if ($fits === false) {
            throw self::wrong(ucfirst((string) preg_replace('/^preg_match\(\): (Compilation failed: )?| at offset \d+$/', '', $said)).'.');
        }
        if ($fits === 1) {
            throw self::wrong('It matches empty text, and so it matches everywhere.');
        }

        return new self($pattern, $expression);
    }

    /**
     * Each place that it fits.
     *
     * @return list<array{int, int, string}> offset and length in bytes of the part that is taken, and its text
     *
     * @throws TooManySteps
     */
    public function matches(string $text): array
    {
        $count = @preg_match_all($this->expression, $text, $found, PREG_OFFSET_CAPTURE | PREG_SET_ORDER | PREG_UNMATCHED_AS_NULL);
        if ($count === false) {
            throw new TooManySteps($this->pattern);
        }
        $places = [];
        foreach ($found as $match) {
            $part = isset($match[self::VALUE][0]) ? $match[self::VALUE] : $match[0];
            if ($part[0] !== null && $part[0] !== '') {
                $places[] = [(int) $part[1], strlen($part[0]), $part[0]];
            }
        }

        return $places;
    }

    /** @throws InvalidDefinition */
    private static function check(string $pattern): void
    {
        if (trim($pattern) === '') {
            throw self::wrong('Enter a pattern, for example \d{4}-\d{2}.');
        }
        if (mb_strlen($pattern) > self::LONGEST) {
            throw self::wrong('A pattern can have at most '.self::LONGEST.' characters.');
        }
        if (! mb_check_encoding($pattern, 'UTF-8')) {
            throw self::wrong('It is not valid UTF-8.');
        }
        for ($at = 0, $end = strlen($pattern), $inClass = false; $at < $end; $at++) {
            $sign = $pattern[$at];
            if ($sign === '\\') {
                $at += self::checkEscape(substr($pattern, $at + 1));
            } elseif ($sign === '[' && ! $inClass) {
                $inClass = true;
                // What stands first in a class is a sign of it, be it the one that would close it.
                $at += preg_match('/^\[\^?\]/', substr($pattern, $at), $m) === 1 ? strlen($m[0]) - 1 : 0;
            } elseif ($sign === ']') {
                $inClass = false;
            } elseif (! $inClass && $sign === '(' && preg_match('/^\((?:\?(?!:|<\p{L}|P<\p{L})|\*)/u', substr($pattern, $at), $m) === 1) {
                throw self::wrong('“'.substr($pattern, $at, 3).'” is not supported: groups are (…), (?:…) or (?<name>…).');
            } elseif (! $inClass && preg_match('/^[*+?}]\+/', substr($pattern, $at)) === 1) {
                throw self::wrong('“'.substr($pattern, $at, 2).'” is not supported.');
            }
        }
    }

    /**
     * @return int bytes behind the backslash that belong to it
     *
     * @throws InvalidDefinition
     */
    private static function checkEscape(string $behind): int
    {
        $next = mb_substr($behind, 0, 1);
        $isKnown = $next !== '' && (str_contains(self::CLASSES, $next) || preg_match('/^[^\p{L}\p{N}]$/u', $next) === 1);
        if (! $isKnown && preg_match('/^[pP]\{\^?[A-Za-z]{1,2}\}/', $behind, $class) === 1) {
            return strlen($class[0]);
        }
        if (! $isKnown) {
            throw self::wrong("“\\{$next}” is not supported. A backslash can precede a punctuation mark, or be part of \\d \\w \\s \\b and \\p{Lu}.");
        }

        return strlen($next);
    }

    private static function wrong(string $says): InvalidDefinition
    {
        return new InvalidDefinition('pattern', $says);
    }
}
