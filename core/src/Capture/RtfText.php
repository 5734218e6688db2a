<?php

declare(strict_types=1);

namespace Brenvic\Core\Capture;

/** The readable text of Rich Text Format (specification 1.9.1): what is shown, headers, footers and footnotes among it. */
final class RtfText
{
    /** Groups that hold no text of the document. */
    private const SILENT = [
        'fonttbl',
        'colortbl',
        'stylesheet',
        'info',
        'pict',
        'object',
        'themedata',
        'datastore',
        'listtable',
        'listoverridetable',
        'rsidtbl',
        'generator',
        'xmlnstbl',
        'latentstyles',
        'filetbl',
        'revtbl',
        'fldinst',
        'bkmkstart',
        'bkmkend',
        'pgdsctbl',
        'colorschememapping',
        'nonshppict',
    ];

    private const SIGNS = [
        'par' => "\n",
        'sect' => "\n\n",
        'page' => "\n\n",
        'line' => "\n",
        'row' => "\n",
        'cell' => "\t",
        'nestcell' => "\t",
        'nestrow' => "\n",
        'tab' => "\t",
        'emdash' => '—',
        'endash' => '–',
        'bullet' => '•',
        'lquote' => '‘',
        'rquote' => '’',
        'ldblquote' => '“',
        'rdblquote' => '”',
        'emspace' => ' ',
        'enspace' => ' ',
        'qmspace' => ' ',
    ];

    /** Where a text of its own begins. */
    private const APART = [
        'header',
        'headerl',
        'headerr',
        'headerf',
        'footer',
        'footerl',
        'footerr',
        'footerf',
        'footnote',
        'annotation',
        'shptxt',
    ];

    private const MOST_DEPTH = 500;

    /** One control word with its number and the blank behind it, one control sign, a byte in hexadecimal, or plain text. */
    private const TOKEN = "/\\\\([a-z]{1,32})(-?\\d{1,10})? ?|\\\\'([0-9a-f]{2})|\\\\(.)|([{}])|([^\\\\{}\\r\\n]++)|[\\r\\n]++/is";

    public static function of(string $rtf): string
    {
        $text = '';
        $bytes = '';
        $page = 'Windows-1252';
        $flush = static function () use (&$text, &$bytes, &$page): void {
            /** @var string $text */
            /** @var string $bytes */
            /** @var string $page */
            if ($bytes !== '') {
                $read = @iconv($page, 'UTF-8//IGNORE', $bytes);
                $text .= $read === false ? mb_convert_encoding($bytes, 'UTF-8', 'Windows-1252') : $read;
                $bytes = '';
            }
        };
        // Whether the group is silent, and how many signs behind a Unicode letter stand for it in old readers.
        $groups = [[false, 1]];
        $skip = 0;
        $at = 0;
        while (preg_match(self::TOKEN, $rtf, $m, PREG_UNMATCHED_AS_NULL, $at) === 1) {
            $at += strlen($m[0]);
            $here = count($groups) - 1;
            [$isSilent, $instead] = $groups[$here];
            if (isset($m[5])) {
                $flush();
                $skip = 0;
                if ($m[5] === '{') {
                    if (count($groups) > self::MOST_DEPTH) {
                        break;
                    }
                    $groups[] = $groups[$here];
                } elseif ($here > 0) {
                    array_pop($groups);
                }
            } elseif (isset($m[6])) {
                $plain = substr($m[6], min($skip, strlen($m[6])));
                $skip = max(0, $skip - strlen($m[6]));
                $bytes .= $isSilent ? '' : $plain;
            } elseif (isset($m[3])) {
                if ($skip > 0) {
                    $skip--;
                } elseif (! $isSilent) {
                    $bytes .= chr((int) hexdec($m[3]));
                }
            } elseif (isset($m[4])) {
                if ($m[4] === '*') {
                    $groups[$here][0] = true;
                } elseif (! $isSilent) {
                    $flush();
                    $text .= match ($m[4]) {
                        '~' => ' ',
                        '_' => '-',
                        '-' => '',
                        "\n", "\r" => "\n",
                        '\\', '{', '}' => $m[4],
                        default => '',
                    };
                }
            } elseif (isset($m[1])) {
                $word = strtolower($m[1]);
                $number = isset($m[2]) ? (int) $m[2] : null;
                if ($word === 'bin' && $number !== null && $number > 0) {
                    $at += $number;
                } elseif ($word === 'ansicpg' && $number !== null) {
                    $page = $number === 65001 ? 'UTF-8' : "CP{$number}";
                } elseif ($word === 'uc' && $number !== null) {
                    $groups[$here][1] = max(0, $number);
                } elseif ($word === 'u' && $number !== null) {
                    $skip = $instead;
                    if (! $isSilent) {
                        // Letters beyond the first plane come as two halves.
                        $bytes === '' || $flush();
                        $text .= self::letter($number < 0 ? $number + 65_536 : $number);
                    }
                } elseif (in_array($word, self::SILENT, true)) {
                    $groups[$here][0] = true;
                } elseif (in_array($word, self::APART, true)) {
                    $flush();
                    $groups[$here][0] = $here > 0 && $groups[$here - 1][0];
                    $text .= "\n";
                } elseif (! $isSilent && isset(self::SIGNS[$word])) {
                    $flush();
                    $text .= self::SIGNS[$word];
                }
            }
        }
        $flush();
        $text = mb_convert_encoding(str_replace("\0", '', self::paired($text)), 'UTF-8', 'UTF-8');

        return trim((string) preg_replace(["/[ \t]+\n/", "/\n{3,}/"], ["\n", "\n\n"], $text));
    }

    /** A code unit of UTF-16; halves of a pair as three bytes each, to be joined later. */
    private static function letter(int $unit): string
    {
        return $unit >= 0xD800 && $unit <= 0xDFFF
            ? chr(0xE0 | ($unit >> 12)).chr(0x80 | (($unit >> 6) & 0x3F)).chr(0x80 | ($unit & 0x3F))
            : (string) mb_chr($unit, 'UTF-8');
    }

    private static function paired(string $text): string
    {
        return (string) preg_replace_callback(
            '/\xED([\xA0-\xAF])([\x80-\xBF])\xED([\xB0-\xBF])([\x80-\xBF])/',
            static function (array $m): string {
                $high = ((ord($m[1]) & 0x0F) << 6) | (ord($m[2]) & 0x3F);
                $low = ((ord($m[3]) & 0x0F) << 6) | (ord($m[4]) & 0x3F);

                return (string) mb_chr(0x10000 + (($high << 10) | $low), 'UTF-8');
            },
            $text,
        );
    }
}
