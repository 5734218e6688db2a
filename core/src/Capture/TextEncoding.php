<?php

declare(strict_types=1);

namespace Brenvic\Core\Capture;

/**
 * In which encoding a text is. In this order: a byte-order mark; what XML (XML 1.0, 4.3.3) or HTML (HTML Living Standard,
 * 13.2.3.2) declares in its first bytes; UTF-8 when it is valid; ISO-2022-JP by its escapes; UTF-16 and UTF-32 without a mark
 * by where their zeros and line ends stand; and what a detector guesses from the frequencies of letters.
 */
final class TextEncoding
{
    private const MARKS = [
        "\xEF\xBB\xBF" => 'UTF-8',
        "\xFF\xFE\0\0" => 'UTF-32LE',
        "\0\0\xFE\xFF" => 'UTF-32BE',
        "\xFF\xFE" => 'UTF-16LE',
        "\xFE\xFF" => 'UTF-16BE',
    ];

    /** Where a declaration must stand. */
    private const DECLARED_WITHIN = 4_096;

    /** So much is looked at to tell how wide letters are. */
    private const SAMPLE = 65_536;

    private const LAST_RESORT = 'windows-1252';

    /** Names that are met and iconv has otherwise; Latin-1 is read as the superset that is meant (WHATWG Encoding). */
    private const OTHERWISE = [
        'iso-8859-1' => 'windows-1252',
        'latin1' => 'windows-1252',
        'us-ascii' => 'windows-1252',
        'ascii' => 'windows-1252',
        'shift_jis' => 'CP932',
        'shift-jis' => 'CP932',
        'sjis' => 'CP932',
        'x-sjis' => 'CP932',
        'gb2312' => 'GB18030',
        'gbk' => 'GB18030',
        'euc-kr' => 'CP949',
        'uhc' => 'CP949',
        'mac-cyrillic' => 'MacCyrillic',
        'utf-16' => 'UTF-16LE',
        'unicode' => 'UTF-16LE',
    ];

    /**
     * @param  callable(string): string  $guess  the name of the encoding that bytes are probably in; empty when it cannot tell
     */
    public static function decoded(string $bytes, callable $guess): Decoded
    {
        foreach (self::MARKS as $mark => $encoding) {
            if (str_starts_with($bytes, $mark)) {
                return new Decoded(self::converted(substr($bytes, strlen($mark)), $encoding) ?? '', $encoding, true);
            }
        }
        $declared = self::declared(substr($bytes, 0, self::DECLARED_WITHIN));
        $isUtf8 = mb_check_encoding($bytes, 'UTF-8');
        $hasZeros = str_contains(substr($bytes, 0, self::SAMPLE), "\0");
        // Whoever declares another encoding and writes UTF-8 is taken by what they wrote, if it can be nothing else.
        if (
            $declared !== '' &&
            ! $hasZeros &&
            ! ($isUtf8 && preg_match('/[\x80-\xFF]/', $bytes) === 1 && stripos($declared, 'utf') !== 0 && ! self::isSevenBit($declared))
        ) {
            $text = self::converted($bytes, $declared);
            if ($text !== null) {
                return new Decoded($text, $declared, true);
            }
        }
        if (preg_match('/\x1B(?:\$[@B]|\([JI])/', $bytes) === 1 && ($text = self::converted($bytes, 'ISO-2022-JP')) !== null) {
            return new Decoded($text, 'ISO-2022-JP', true);
        }
        $wide = self::wide(substr($bytes, 0, self::SAMPLE));
        if ($wide !== '' && ($text = self::converted($bytes, $wide)) !== null) {
            return new Decoded($text, $wide, false);
        }
        if ($isUtf8) {
            return new Decoded(str_replace("\0", ' ', $bytes), 'UTF-8', true);
        }
        $guessed = $guess($bytes);
        $text = $guessed === '' ? null : self::converted($bytes, $guessed);

        return $text !== null
            ? new Decoded($text, $guessed, false)
            : new Decoded(self::converted($bytes, self::LAST_RESORT) ?? mb_scrub($bytes), self::LAST_RESORT, false);
    }

    /** Whether bytes that hold zeros may be text all the same: letters of two or four bytes. */
    public static function isWide(string $head): bool
    {
        return self::wide($head) !== '';
    }

    private static function declared(string $head): string
    {
        $head = str_replace("\0", '', $head);
        if (preg_match('/^\s*<\?xml\s[^>]*?encoding\s*=\s*["\']([A-Za-z][\w.:-]*)/', $head, $m) === 1) {
            return $m[1];
        }

        return preg_match('/<meta\s[^>]*?charset\s*=\s*["\']?\s*([A-Za-z][\w.:-]*)/i', $head, $m) === 1 ? $m[1] : '';
    }

    private static function isSevenBit(string $encoding): bool
    {
        return stripos($encoding, 'iso-2022') === 0 || stripos($encoding, 'hz') === 0;
    }

    /**
     * The encoding of letters of two or four bytes: such a text has blanks or line ends, all at even places, and no unit
     * that is no letter.
     */
    private static function wide(string $bytes): string
    {
        $best = '';
        $most = 0;
        foreach (['UTF-32LE' => 4, 'UTF-32BE' => 4, 'UTF-16LE' => 2, 'UTF-16BE' => 2] as $encoding => $width) {
            $sample = substr($bytes, 0, strlen($bytes) - (strlen($bytes) % $width));
            if (strlen($sample) < 2 * $width || ! str_contains($sample, "\0") || ! mb_check_encoding($sample, $encoding)) {
                continue;
            }
            $text = mb_convert_encoding($sample, 'UTF-8', $encoding);
            $signs = mb_strlen($text);
            $blanks = preg_match_all('/[ \r\n\t]/', $text);
            $odd = preg_match_all('/[\p{Cn}\p{Co}\p{Cs}]|[\x00-\x08\x0E-\x1F]/u', $text);
            if ($odd === 0 && $blanks * 40 >= $signs && $blanks > $most) {
                [$best, $most] = [$encoding, $blanks];
            }
        }

        return $best;
    }

    /** @return string|null null when the encoding is not known, or the bytes are not in it */
    private static function converted(string $bytes, string $encoding): ?string
    {
        $encoding = self::OTHERWISE[strtolower($encoding)] ?? $encoding;
        if (stripos($encoding, 'utf-8') === 0 || strcasecmp($encoding, 'utf8') === 0) {
            return str_replace("\0", ' ', mb_scrub($bytes));
        }
        if (stripos($encoding, 'UTF-') === 0) {
            return str_replace("\0", ' ', mb_scrub((string) mb_convert_encoding($bytes, 'UTF-8', $encoding)));
        }
        if (strcasecmp($encoding, 'windows-1252') === 0) {
            // Has some bytes that stand for nothing, which iconv refuses.
            return str_replace("\0", ' ', mb_convert_encoding($bytes, 'UTF-8', 'Windows-1252'));
        }
        // A few bytes that stand for nothing do not make it another encoding.
        $text = self::iconv($encoding, 'UTF-8', $bytes) ?: self::iconv($encoding, 'UTF-8//IGNORE', $bytes);

        return $text === false || ($text === '' && $bytes !== '') ? null : str_replace("\0", ' ', $text);
    }

    /** Without the warnings of iconv, which are about what the file says and no fault here. */
    private static function iconv(string $from, string $to, string $bytes): string|false
    {
        set_error_handler(static fn (): bool => true);
        try {
            return iconv($from, $to, $bytes);
        } finally {
            restore_error_handler();
        }
    }
}
