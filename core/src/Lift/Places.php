<?php

declare(strict_types=1);

namespace Brenvic\Core\Lift;

use Brenvic\Core\Design\Proposal\DateOrder;
use Brenvic\Core\Design\Proposal\WrittenDate;
use Brenvic\Core\Design\Proposal\WrittenNumber;
use Brenvic\Core\Fields\FieldDefinition;
use Brenvic\Core\Fields\InvalidValue;

/**
 * The places of a text that fit the kind of a field: dates for a date, in whatever form they are written; valid identifiers for
 * an identifier; terms of its vocabulary; amounts, numbers with the field’s unit, names of people, web addresses. Each value is
 * told at its first place, in the order of the text, first what stands behind the field’s own name and a colon. What any words
 * would fit (text, yes or no) has no other places than these.
 */
final class Places
{
    /** Signs of currencies, and what ISO 4217 calls them. */
    private const CURRENCIES = ['£' => 'GBP', '€' => 'EUR', '$' => 'USD'];

    /** What they are called in a sentence. */
    private const CALLED = ['GBP' => 'pounds?(?:\s+sterling)?', 'EUR' => 'euros?', 'USD' => 'dollars?'];

    /** A text is read no further: what says what a document is stands at its beginning. */
    private const LONGEST = 200_000;

    /** Terms that are looked for at most. */
    private const TERMS = 20_000;

    /** Words of a term that are looked at. */
    private const WORDS = 8;

    /** @var array{array<string, string>, int}|null names of terms by their words, and of how many words the longest is */
    private ?array $names = null;

    /** Fields that are kept in mind. */
    private const SHARED = 300;

    /** @var array<int, self> */
    private static array $shared = [];

    public function __construct(private readonly FieldDefinition $field)
    {
    }

    /** The one that all who read for a field have: words of its terms are cut once. */
    public static function shared(FieldDefinition $field): self
    {
        $known = self::$shared[spl_object_id($field)] ?? null;
        if ($known?->field === $field) {
            return $known;
        }
        if (count(self::$shared) === self::SHARED) {
            self::$shared = [];
        }

        return self::$shared[spl_object_id($field)] = new self($field);
    }

    /**
     * @param  int  $most  how many places are told
     * @return list<Place>
     */
    public static function of(FieldDefinition $field, string $text, int $most = 9): array
    {
        return self::shared($field)->in($text, $most);
    }

    /**
     * The places of one text of several.
     *
     * @return list<Place>
     */
    public function in(string $text, int $most = 9): array
    {
        $field = $this->field;
        $text = mb_strcut($text, 0, self::LONGEST);
        $found = match ($field->kind->value) {
            'date' => self::dates($text),
            'date_range' => [...self::ranges($text), ...self::dates($text)],
            'amount' => self::amounts($text, $field->unit),
            'number' => self::numbers($text, $field->unit),
            'identifier' => self::identifiers($text, $field->pattern),
            'choice' => $this->terms($text),
            'person' => self::matches('/(?<![\p{L}])(?:\p{Lu}\p{L}{0,2}\.\s+|\p{Lu}[\p{L}’\'-]+\s+){1,3}\p{Lu}[\p{L}’\'-]+/u', $text),
            'web_address' => self::matches('#https?://[^\s<>"”)]+[^\s<>"”).,;:]#u', $text),
            default => [],
        };
        usort($found, static fn (array $a, array $b): int => $a[0] <=> $b[0] ?: $b[1] <=> $a[1]);

        $places = [];
        // What stands behind the field’s own name is meant for it, whatever its kind.
        foreach ([...self::sound($field, self::named($field->label, $text), $most), ...self::sound($field, $found, $most)] as $place) {
            $places[$place->value] ??= $place;
        }

        return array_slice(array_values($places), 0, $most);
    }

    /** @return list<array{int, int, string}> the rest of each line that begins with a name and a colon */
    private static function named(string $name, string $text): array
    {
        $pattern = '/^[ \t]*'.preg_quote($name, '/').'[ \t]*:[ \t]*(\S[^\n]{0,199})$/imu';
        preg_match_all($pattern, $text, $found, PREG_OFFSET_CAPTURE);

        return array_map(static fn (array $m): array => [(int) $m[1], strlen(rtrim($m[0])), rtrim($m[0])], $found[1]);
    }

    /**
     * Those whose values the field takes, each once and none within another.
     *
     * @param  list<array{int, int, string}>  $found
     * @return list<Place>
     */
    private static function sound(FieldDefinition $field, array $found, int $most): array
    {
        $places = $known = [];
        $end = -1;
        foreach ($found as [$offset, $length, $value]) {
            if ($offset < $end) {
                continue;
            }
            try {
                $normal = $field->parse($value);
            } catch (InvalidValue) {
                continue;
            }
            if ($normal === null) {
                continue;
            }
            $end = $offset + $length;
            if (! isset($known[$normal])) {
                $known[$normal] = true;
                $places[] = new Place($offset, $length, $normal);
                if (count($places) === $most) {
                    break;
                }
            }
        }

        return $places;
    }

    /**
     * @return list<array{int, int, string}> offset, length, text
     */
    private static function matches(string $pattern, string $text): array
    {
        preg_match_all($pattern, $text, $found, PREG_OFFSET_CAPTURE);

        return array_map(
            static fn (array $m): array => [(int) $m[1], strlen($m[0]), (string) preg_replace('/\s+/u', ' ', $m[0])],
            $found[0],
        );
    }

    /** @return list<array{int, int, string}> */
    private static function dates(string $text): array
    {
        $months = WrittenDate::NAMES;
        $forms = [
            '(?<![\d.\/-])\d{4}-\d{2}-\d{2}(?![\d-])',
            '(?<![\d.\/-])\d{1,2}([.\/-])\s?\d{1,2}\g{-1}\s?\d{4}(?!\d)',
            "(?<![\\d])\\d{1,2}(?:st|nd|rd|th)?\\.?\\s+(?:of\\s+)?(?:{$months})\\.?,?\\s+\\d{4}(?!\\d)",
            "(?<!\\p{L})(?:{$months})\\.?\\s+\\d{1,2}(?:st|nd|rd|th)?,?\\s+\\d{4}(?!\\d)",
            "(?<!\\p{L})(?:{$months})\\.?,?\\s+\\d{4}(?!\\d)",
        ];
        $read = [];
        foreach (self::matches('/'.implode('|', $forms).'/iu', $text) as [$offset, $length, $written]) {
            $date = WrittenDate::read($written, DateOrder::DayFirst) ?? WrittenDate::read($written, DateOrder::MonthFirst);
            if ($date !== null) {
                $read[] = [$offset, $length, $date];
            }
        }

        return $read;
    }

    /** @return list<array{int, int, string}> two dates with nothing but a word or a stroke between them */
    private static function ranges(string $text): array
    {
        $dates = self::dates($text);
        $ranges = [];
        foreach ($dates as $i => [$offset, $length, $from]) {
            $next = $dates[$i + 1] ?? null;
            if ($next === null) {
                continue;
            }
            $between = substr($text, $offset + $length, $next[0] - $offset - $length);
            if (preg_match('/^\s*(?:to|until|and|–|—|-)\s*$/iu', $between) === 1 && strcmp($from, $next[2]) <= 0) {
                $ranges[] = [$offset, $next[0] + $next[1] - $offset, "{$from}/{$next[2]}"];
            }
        }

        return $ranges;
    }

    /** @return list<array{int, int, string}> numbers beside the sign, code or name of the field’s currency: another one is another amount */
    private static function amounts(string $text, string $currency): array
    {
        $codes = preg_quote($currency, '/');
        $signs = implode('', array_keys(self::CURRENCIES, $currency, true));
        $number = '[−-]?\d{1,3}(?:[ ,.\x{00A0}\x{202F}]\d{3})*(?:[.,]\d{1,2})?(?!\d)|[−-]?\d+(?:[.,]\d{1,2})?(?!\d)';

        $sign = $signs === '' ? '' : "[{$signs}]|";

        $before = "(?:{$sign}(?<!\\p{L})(?:{$codes}))\\s?(?:{$number})";
        $called = isset(self::CALLED[$currency]) ? '|(?i:'.self::CALLED[$currency].')' : '';
        $behind = "(?<![\\d.,])(?:{$number})\\s?(?:{$sign}(?:{$codes}{$called})(?!\\p{L}))";

        return self::asNumbers(self::matches("/{$before}|{$behind}/u", $text));
    }

    /** @return list<array{int, int, string}> numbers, with the unit where the field has one */
    private static function numbers(string $text, string $unit): array
    {
        $behind = $unit === '' ? '' : '\s?'.preg_quote($unit, '/').'(?!\p{L})';
        // With thousands apart, or without.
        $number = '[−-]?(?:\d{1,3}(?:[, ]\d{3})+(?:\.\d+)?|\d+(?:[.,]\d+)?)';

        return self::asNumbers(self::matches('/(?<![\p{L}\d.,\/-])'.$number.$behind.'(?![\d\/-])/u', $text));
    }

    /**
     * @param  list<array{int, int, string}>  $found
     * @return list<array{int, int, string}>
     */
    private static function asNumbers(array $found): array
    {
        $read = [];
        foreach ($found as [$offset, $length, $written]) {
            $plain = self::plain($written);
            if ($plain !== null) {
                $read[] = [$offset, $length, $plain];
            }
        }

        return $read;
    }

    /** A written number without its sign of a unit; the last of two different signs parts the decimals. */
    public static function plain(string $written): ?string
    {
        $names = implode('|', self::CURRENCIES).'|(?i:'.implode('|', self::CALLED).')';
        $bare = trim((string) preg_replace("/(?<![\\p{L}])(?:{$names})(?![\\p{L}])/u", '', $written));
        $part = WrittenNumber::parts($bare);
        if ($part === null) {
            return null;
        }
        $comma = strrpos($part['digits'], ',');
        $point = strrpos($part['digits'], '.');
        // A comma before three digits parts thousands, as people write; before one or two it parts decimals.
        $isComma = $comma !== false && ($point === false ? preg_match('/,\d{1,2}$/', $part['digits']) === 1 : $comma > $point);
        $plain = WrittenNumber::plain($part['digits'], $isComma ? ',' : '.');

        return $plain === null ? null : ($part['negative'] ? '-' : '').$plain;
    }

    /**
     * @param  string  $pattern  as fields have it: A for a letter, 9 for a digit, X for either, ? for a check character
     * @return list<array{int, int, string}>
     */
    private static function identifiers(string $text, string $pattern): array
    {
        if ($pattern === '') {
            return self::matches('/(?<![\p{L}\d])(?=[A-Z\d\/.-]*\d)[A-Z\d]{1,8}(?:[-\/.][A-Z\d*]{1,12})+(?![\p{L}\d])/u', $text);
        }
        $regex = '';
        foreach (mb_str_split($pattern) as $sign) {
            $regex .= match ($sign) {
                'A' => '[A-Za-z]',
                '9' => '\d',
                'X' => '[A-Za-z\d]',
                '?' => '[\dA-Za-z*]',
                default => preg_quote($sign, '/'),
            };
        }

        return self::matches("/(?<![\\p{L}\\d]){$regex}(?![\\p{L}\\d])/u", $text);
    }

    /**
     * Terms by the words of their names: of two that begin alike the longer one is meant.
     *
     * @return list<array{int, int, string}>
     */
    private function terms(string $text): array
    {
        [$names, $longest] = $this->names ??= $this->names();
        $words = self::words($text);
        $found = [];
        for ($i = 0; $i < count($words); $i++) {
            for ($count = min($longest, count($words) - $i); $count > 0; $count--) {
                $some = array_slice($words, $i, $count);
                $name = $names[implode(' ', array_column($some, 0))] ?? null;
                if ($name !== null) {
                    $last = $some[$count - 1];
                    $found[] = [$words[$i][1], $last[1] + $last[2] - $words[$i][1], $name];
                    $i += $count - 1;
                    break;
                }
            }
        }

        return $found;
    }

    /** @return array{array<string, string>, int} names of terms by their words, and of how many words the longest is */
    private function names(): array
    {
        $names = [];
        $longest = 1;
        foreach (array_slice($this->field->vocabulary->terms ?? [], 0, self::TERMS) as $term) {
            foreach ([$term->label, ...$term->synonyms] as $name) {
                $words = self::words($name);
                if ($words !== [] && mb_strlen($name) > 1) {
                    $names[implode(' ', array_column($words, 0))] ??= $name;
                    $longest = max($longest, min(self::WORDS, count($words)));
                }
            }
        }

        return [$names, $longest];
    }

    /** @return list<array{string, int, int}> each word in small letters, with its offset and length in bytes */
    private static function words(string $text): array
    {
        preg_match_all('/[\p{L}\d]+/u', $text, $found, PREG_OFFSET_CAPTURE);

        return array_map(
            static fn (array $word): array => [mb_strtolower($word[0]), (int) $word[1], strlen($word[0])],
            $found[0],
        );
    }
}
