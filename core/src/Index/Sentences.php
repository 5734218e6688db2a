<?php

declare(strict_types=1);

namespace Brenvic\Core\Index;

use LogicException;

/**
 * Cuts text into paragraphs and sentences. A paragraph ends at an empty line or a form feed. A sentence ends at `.`,
 * `!`, `?` or `…` (and closing quotes or brackets) when white space and a capital letter, a digit or an opening sign
 * follow; not behind an initial or a common abbreviation, and not behind the number of a list.
 */
final class Sentences
{
    private const PARAGRAPH = '/\f|\n[ \t\r]*\n\s*/';

    /** What a full stop behind it does not end a sentence: initials, the numbers of lists, abbreviations. */
    private const NO_END = '(?<!\b\p{L}\.|^\d\.|^\d\d\.|\bMr\.|\bMs\.|\bDr\.|\bSt\.|\bNo\.|\bCo\.|\bcf\.|\bMrs\.|\bRev\.|\bCol\.|\bLtd\.|\bfig\.|'.
        '\bref\.|\bvol\.|\bnos\.|\bviz\.|\best\.|\bCapt\.|\bBros\.|\bpara\.|\bdept\.|\bincl\.|\bapprox\.|\bMessrs\.|\be\.g\.|\bi\.e\.)';

    private const SENTENCE = '/(?<=[.!?…])'.self::NO_END.'["\')\]’”]*\s+(?=["\'(\[‘“]?[\p{Lu}\p{N}])/u';

    private const ASCII_SENTENCE = '/(?<=[.!?])'.self::NO_END.'["\')\]]*\s+(?=["\'(\[]?[A-Z0-9])/';

    /** @return list<list<string>> the sentences of each paragraph that is not empty */
    public static function of(string $text): array
    {
        $plain = preg_match('/[\x80-\xFF]/', $text) !== 1;
        $paragraphs = [];
        foreach (self::split(self::PARAGRAPH, $text) as $paragraph) {
            $sentences =
                strpbrk($paragraph, $plain ? '.!?' : '.!?…') === false
                    ? [$paragraph]
                    : self::split($plain ? self::ASCII_SENTENCE : self::SENTENCE, $paragraph);
            if ($sentences !== []) {
                $paragraphs[] = $sentences;
            }
        }

        return $paragraphs;
    }

    /** @return list<string> */
    private static function split(string $pattern, string $text): array
    {
        $pieces = preg_split($pattern, $text, -1, PREG_SPLIT_NO_EMPTY);

        // What is not valid UTF-8 is made so; nothing else may fail.
        return match (true) {
            $pieces !== false => $pieces,
            preg_last_error() === PREG_BAD_UTF8_ERROR => self::split($pattern, mb_scrub($text)),
            default => throw new LogicException('A text could not be cut into sentences: '.preg_last_error_msg()),
        };
    }
}
