<?php

declare(strict_types=1);

namespace Brenvic\Core\Redaction;

use Brenvic\Core\Index\Tokenizer;
use Brenvic\Core\Pages\Hit;

/**
 * Words to be found wherever they stand, however they are written: case, accents and possessives do not matter, and a
 * word that a hyphen carries over to the next line is one word. In what is typed `*` stands for any letters, `?` for one
 * sign and `#` for one digit; what is between words (spaces, hyphens, stops) does not matter.
 */
final readonly class Sought
{
    private const MONTHS = 'jan\p{L}*|feb\p{L}*|mar\p{L}*|apr\p{L}*|may|june?|july?|aug\p{L}*|sep\p{L}*|oct\p{L}*|nov\p{L}*|dec\p{L}*';

    /** What is known by its form and not by its words. */
    private const FORMS = [
        'email' => ['E-mail addresses', '/[\p{L}\p{N}._%+\-]+\s?@\s?[\p{L}\p{N}.\-]+\.[\p{L}]{2,}/u'],
        'phone' => ['Telephone numbers', '/(?<![\p{L}\p{N}])(?:\+|00)?\(?\d{2,5}\)?(?:[ \/\-.\n]{1,2}\d{2,5}){1,4}(?![\p{L}\p{N}\-])/u'],
        'date' => [
            'Dates',
            '/(?<!\d)(?:\d{1,2}[.\/ \n]{1,2}(?:\d{1,2}|'.self::MONTHS.')[.\/ \n]{1,2}\d{4}|\d{4}-\d{2}-\d{2})(?!\d)/iu',
        ],
        'number' => ['Numbers of six digits and more', '/(?<!\d)\d(?:[ \-]?\d){5,}(?!\d)/u'],
    ];

    /** Bytes on either side of a page break that are looked through. */
    private const ACROSS = 400;

    /** Lines of a running foot or head that may stand between. */
    private const RUNNING = 2;

    private const BREAK = '/^[\x{002D}\x{00AD}\x{2010}\x{2011}]\s*\n\s*$/u';

    /** @param  list<string>  $patterns  of folded words directly behind one another */
    private function __construct(private array $patterns, private string $form)
    {
    }

    /** @return self|null null when nothing but masks and signs was typed, which would be everything */
    public static function words(string $typed): ?self
    {
        preg_match_all("/[\p{L}\p{N}\p{M}*?#]+(?:['’][\p{L}\p{M}*?#]+)*/u", mb_scrub($typed), $m);
        if (preg_match('/[\p{L}\p{N}#]/u', implode('', $m[0])) !== 1) {
            return null;
        }
        if (Tokenizer::isUnspaced($typed)) {
            return new self([], self::unspaced($m[0]));
        }
        $patterns = array_map(static function (string $word): string {
            // Masks are no letters: they are folded around.
            $pieces = preg_split('/([*?#])/', $word, -1, PREG_SPLIT_DELIM_CAPTURE) ?: [];

            return '/^'.
                implode(
                    '',
                    array_map(
                        static fn (string $piece): string => match ($piece) {
                            '*' => '.*',
                            '?' => '.',
                            '#' => '\d',
                            default => preg_quote(Tokenizer::fold($piece), '/'),
                        },
                        $pieces,
                    ),
                ).
                '$/u';
        }, $m[0]);

        return new self($patterns, '');
    }

    /**
     * Signs of scripts without blanks have no words to be found by: they are looked for sign by sign, lines broken anywhere.
     *
     * @param  list<string>  $words
     */
    private static function unspaced(array $words): string
    {
        $pieces = array_map(
            static fn (string $word): string => implode(
                '\s*',
                array_map(
                    static fn (string $sign): string => match ($sign) {
                        '*' => '[\p{L}\p{N}\p{M}]*',
                        '?' => '.',
                        '#' => '\d',
                        default => preg_quote($sign, '/'),
                    },
                    mb_str_split($word),
                ),
            ),
            $words,
        );

        return '/'.implode('[^\p{L}\p{N}]*', $pieces).'/iu';
    }

    public static function form(string $name): ?self
    {
        return isset(self::FORMS[$name]) ? new self([], self::FORMS[$name][1]) : null;
    }

    /** @return array<string, string> name => what people call it */
    public static function forms(): array
    {
        return array_map(static fn (array $form): string => $form[0], self::FORMS);
    }

    /** @return list<Hit> in order, none inside another */
    public function in(string $text): array
    {
        if ($this->form !== '') {
            preg_match_all($this->form, mb_scrub($text), $m, PREG_OFFSET_CAPTURE);

            return array_map(static fn (array $found): Hit => new Hit($found[1], strlen($found[0])), $m[0]);
        }
        $words = Tokenizer::located($text);
        $hits = [];
        for ($i = 0, $count = count($words); $i < $count; $i++) {
            $end = $this->matched($text, $words, $i);
            if ($end !== null) {
                [, $start] = $words[$i];
                [, $last, $length] = $words[$end];
                $hits[] = new Hit($start, $last + $length - $start);
                $i = $end;
            }
        }

        return $hits;
    }

    /**
     * Places that a page break cuts in two, whether or not a running foot or head of up to two lines stands between.
     *
     * @param  bool  $isCut  whether the pages are pieces of one text, cut anywhere
     * @return list<array{Hit, Hit}> what of each stands on the first page and what on the second
     */
    public function across(string $first, string $second, bool $isCut = false): array
    {
        if ($isCut) {
            return array_values($this->over($first, strlen($first), '', $second, 0));
        }
        $found = [];
        foreach (self::ends($first) as $end) {
            foreach (self::starts($second) as $start) {
                $found += $this->over($first, $end, "\n", $second, $start);
            }
        }

        return array_values($found);
    }

    /** @return array<string, array{Hit, Hit}> */
    private function over(string $first, int $end, string $between, string $second, int $start): array
    {
        $from = max(0, $end - self::ACROSS);
        $before = mb_strcut($first, $from, $end - $from);
        // Not to begin within a letter, it may begin a little earlier.
        $from = $end - strlen($before);
        $found = [];
        foreach ($this->in($before.$between.mb_strcut($second, $start, self::ACROSS)) as $hit) {
            $rest = $hit->offset + $hit->length - strlen($before) - strlen($between);
            if ($hit->offset < strlen($before) && $rest > 0) {
                $at = $from + $hit->offset;
                $found["{$at} {$start} {$rest}"] = [new Hit($at, $end - $at), new Hit($start, $rest)];
            }
        }

        return $found;
    }

    /** @return list<int> where the text of a page ends, and where it would without its last line, and the one before */
    private static function ends(string $text): array
    {
        $ends = [];
        for ($lines = 0, $text = rtrim($text); $lines <= self::RUNNING && $text !== ''; $lines++) {
            $ends[] = strlen($text);
            $text = rtrim(substr($text, 0, (int) strrpos($text, "\n")));
        }

        return $ends;
    }

    /** @return list<int> where the text of a page begins, and where it would without its first line, and the next */
    private static function starts(string $text): array
    {
        $starts = [];
        $at = 0;
        for ($lines = 0; $lines <= self::RUNNING; $lines++) {
            $at += strspn($text, " \t\r\n\f", $at);
            if ($at >= strlen($text)) {
                break;
            }
            $starts[] = $at;
            $line = strpos($text, "\n", $at);
            if ($line === false) {
                break;
            }
            $at = $line;
        }

        return $starts;
    }

    /**
     * @param  list<array{string, int, int}>  $words
     * @return int|null the last word of the place that begins with one; null when it does not fit
     */
    private function matched(string $text, array $words, int $at): ?int
    {
        foreach ($this->patterns as $i => $pattern) {
            if ($i > 0) {
                $at++;
            }
            if (! isset($words[$at])) {
                return null;
            }
            $word = $words[$at][0];
            // A word carried over to the next line, once or more.
            $joined = $at;
            while (preg_match($pattern, $word) !== 1) {
                if (
                    ! isset($words[$joined + 1]) ||
                    preg_match(self::BREAK, self::between($text, $words[$joined], $words[$joined + 1])) !== 1
                ) {
                    return null;
                }
                $joined++;
                $word .= $words[$joined][0];
            }
            $at = $joined;
        }

        return $at;
    }

    /**
     * @param  array{string, int, int}  $word
     * @param  array{string, int, int}  $next
     */
    private static function between(string $text, array $word, array $next): string
    {
        return substr($text, $word[1] + $word[2], $next[1] - $word[1] - $word[2]);
    }
}
