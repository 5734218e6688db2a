<?php

declare(strict_types=1);

namespace Brenvic\Core\Design\Proposal;

/**
 * Which kind of field a column would be, by its values and never by its name: every reading is tried on every different value,
 * and weighs by the rows that have it.
 *
 * @phpstan-type NumberParts array{array<int|string, array{digits: string, negative: bool, sign: string}|null>, '.'|',', array<string, float>}
 */
final class ColumnJudge
{
    /** A reading that holds for less is no proposal of its own: registers have a slip in fifty. */
    public const HOLDS = 0.97;

    /** What is offered as another way to read the column. */
    private const WORTH = 0.6;

    private const EXAMPLES = 20;

    private const YES = ['yes', 'y', 'true', 'ja', 'oui', 'sí', 'si', 'x', '1', 'on', 'wahr', 'vrai'];

    private const NO = ['no', 'n', 'false', 'nein', 'non', '-', '0', 'off', 'falsch', 'faux'];

    /** Currencies (ISO 4217) that registers name by their letters. */
    private const CURRENCIES = ['GBP', 'EUR', 'USD', 'CHF', 'SEK', 'NOK', 'DKK', 'JPY', 'PLN', 'CZK'];

    /** What registers write where there is nothing. */
    private const NOTHING = ['na', 'n/a', 'n.a.', '#n/a', 'null', 'nil', '-', '--', '–', '—', '?', '.'];

    /** What of it is no word or code of anything: it stands for nothing among terms too, where `NA` may be a country. */
    private const CERTAIN = ['n/a', 'n.a.', '#n/a', 'null', '-', '--', '–', '—', '?', '.'];

    /** Of many values so many are tried first. */
    private const FEW = 250;

    private readonly float $total;

    /** @var list<string> some of the values, when there are many */
    private readonly array $few;

    /** @var NumberParts|null */
    private ?array $numeric = null;

    /** @param  array<int|string, float>  $weights  values => rows */
    private function __construct(private readonly ColumnCounts $column, private readonly array $weights)
    {
        $this->total = max(1e-9, array_sum($this->weights));
        $step = intdiv(count($weights), self::FEW);
        $few = [];
        $at = 0;
        foreach ($step < 8 ? [] : $weights as $value => $rows) {
            if ($at++ % $step === 0) {
                $few[] = (string) $value;
            }
        }
        $this->few = $few;
    }

    /**
     * What a column can be read as, the best first; text, the last resort, always holds. A sign for nothing that may be a word is
     * a value like any other, unless all that stands beside it is dates or numbers.
     *
     * @return non-empty-list<Reading>
     */
    public static function of(ColumnCounts $column): array
    {
        $weights = $column->weights();
        $readings = (new self($column, $weights))->readings();
        $nothing = array_filter(
            $weights,
            static fn (int|string $value): bool => in_array(mb_strtolower((string) $value), self::NOTHING, true),
            ARRAY_FILTER_USE_KEY,
        );
        if ($nothing === [] || count($nothing) === count($weights) || ! in_array($readings[0]->kind, ['text', 'choice'], true)) {
            return $readings;
        }
        $without = (new self($column, array_diff_key($weights, $nothing)))->readings();
        if (in_array($without[0]->kind, ['text', 'choice', 'yes_no'], true)) {
            $nothing = array_filter(
                $nothing,
                static fn (int|string $value): bool => in_array(mb_strtolower((string) $value), self::CERTAIN, true),
                ARRAY_FILTER_USE_KEY,
            );
            $without = $nothing === [] ? $readings : (new self($column, array_diff_key($weights, $nothing)))->readings();
            if ($nothing === [] || $without[0]->kind === 'text') {
                return $readings;
            }
        }
        $signs = array_map(strval(...), array_keys($nothing));
        $says = '“'.implode('”, “', $signs).'” stands for nothing in '.(int) round(array_sum($nothing)).' rows';

        return [$without[0]->without($signs, $says), ...array_slice($without, 1)];
    }

    /** @return non-empty-list<Reading> */
    private function readings(): array
    {
        $holds = $others = [];
        foreach (
            [
                $this->yesNo(),
                $this->dates(),
                $this->ranges(),
                $this->amounts(),
                $this->numbers(),
                $this->identifiers(),
                $this->addresses(),
                $this->choices(),
                $this->people(),
            ] as $reading
        ) {
            if ($reading !== null && $reading->share >= self::HOLDS) {
                $holds[] = $reading;
            } elseif ($reading !== null && $reading->share >= self::WORTH) {
                $others[] = $reading;
            }
        }
        // What holds goes before what does not: the narrower kind first, as they are listed above.
        usort($others, static fn (Reading $a, Reading $b): int => $b->share <=> $a->share);

        return [...$holds, new Reading('text', 1.0), ...$others];
    }

    /**
     * Of many values a few are tried first: what holds for hardly one of them is not tried on all.
     *
     * @param  callable(string): bool  $fits
     * @return array{float, array<int|string, int>} share and misfits
     */
    private function tried(callable $fits): array
    {
        if ($this->few !== []) {
            $share = count(array_filter($this->few, $fits)) / count($this->few);
            if ($share < self::WORTH / 2) {
                return [$share, []];
            }
        }
        $held = 0.0;
        $misfits = [];
        foreach ($this->weights as $value => $rows) {
            if ($fits((string) $value)) {
                $held += $rows;
            } else {
                $misfits[$value] = max(1, (int) round($rows));
            }
        }
        arsort($misfits);

        return [$held / $this->total, array_slice($misfits, 0, self::EXAMPLES, true)];
    }

    /** Whether a word says yes; null when it says neither. */
    public static function isYes(string $word): ?bool
    {
        $word = mb_strtolower($word);

        return in_array($word, self::YES, true) ? true : (in_array($word, self::NO, true) ? false : null);
    }

    private function yesNo(): ?Reading
    {
        [$share, $misfits] = $this->tried(static fn (string $v): bool => self::isYes($v) !== null);
        $words = array_unique(array_map(static fn (int|string $v): string => mb_strtolower((string) $v), array_keys($this->weights)));
        // Just digits may count something.
        if ($share < self::WORTH || array_diff($words, ['0', '1']) === [] && $this->column->distinct() < 2) {
            return null;
        }

        return new Reading('yes_no', $share, $misfits);
    }

    private function dates(): ?Reading
    {
        [$order, $says] = $this->order();
        $years = $others = 0.0;
        [$share, $misfits] = $this->tried(function (string $value) use ($order, &$years, &$others): bool {
            $date = WrittenDate::read($value, $order);
            if ($date !== null) {
                strlen($date) === 4 ? $years += $this->weights[$value] : $others += $this->weights[$value];
            }

            return $date !== null;
        });
        // Years alone are dates when nothing else is in the column; a few among other numbers are numbers.
        if ($years > $others && $share < self::HOLDS) {
            return null;
        }

        return new Reading('date', $share, $misfits, $says, order: $order);
    }

    /** @return array{DateOrder, list<string>} and how it was decided */
    private function order(): array
    {
        $votes = ['day_first' => 0.0, 'month_first' => 0.0];
        $numeric = 0.0;
        foreach ($this->weights as $value => $rows) {
            $order = WrittenDate::order((string) $value);
            if ($order !== null) {
                $votes[$order->value] += $rows;
            }
            $numeric += preg_match('/^\d{1,2}[-.\/ ]\s?\d{1,2}[-.\/ ]\s?\d{4}/', (string) $value) === 1 ? $rows : 0.0;
        }
        if ($numeric === 0.0) {
            return [DateOrder::DayFirst, []];
        }
        [$day, $month] = [(int) round($votes['day_first']), (int) round($votes['month_first'])];
        if ($day === 0 && $month === 0) {
            return [DateOrder::DayFirst, ['nothing tells whether the day or the month is first; the day is taken']];
        }

        $says = static fn (string $first, int $so, int $otherwise): string => "the {$first} is first: {$so} ".
            ($so === 1 ? 'date' : 'dates').' can be read only so'.
            ($otherwise > 0 ? ", {$otherwise} only the other way" : '');

        return $month > $day
            ? [DateOrder::MonthFirst, [$says('month', $month, $day)]]
            : [DateOrder::DayFirst, [$says('day', $day, $month)]];
    }

    private function ranges(): ?Reading
    {
        [$order] = $this->order();
        $ranges = 0.0;
        [$share, $misfits] = $this->tried(function (string $value) use ($order, &$ranges): bool {
            $isRange = WrittenDate::readRange($value, $order) !== null;
            $ranges += $isRange ? $this->weights[$value] : 0.0;

            return $isRange || WrittenDate::read($value, $order) !== null;
        });

        return $ranges / $this->total < 0.1 ? null : new Reading('date_range', $share, $misfits, order: $order);
    }

    /** @return NumberParts parts of each value, the sign of decimals, and the signs around the numbers */
    private function numeric(): array
    {
        return $this->numeric ??= $this->partsOfAll();
    }

    /** @return NumberParts */
    private function partsOfAll(): array
    {
        if ($this->few !== [] && array_filter($this->few, static fn (string $v): bool => WrittenNumber::parts($v) !== null) === []) {
            return [[], '.', []];
        }
        $parts = $signs = [];
        $votes = ['.' => 0.0, ',' => 0.0];
        foreach ($this->weights as $value => $rows) {
            $part = $parts[$value] = WrittenNumber::parts((string) $value);
            if ($part === null) {
                continue;
            }
            $signs[$part['sign']] = ($signs[$part['sign']] ?? 0.0) + $rows;
            $sign = WrittenNumber::decimalSign($part['digits']);
            if ($sign !== null) {
                $votes[$sign] += $rows;
            }
        }
        arsort($signs);

        return [$parts, $votes[','] > $votes['.'] ? ',' : '.', $signs];
    }

    private function amounts(): ?Reading
    {
        [$parts, $decimalSign, $signs] = $this->numeric();
        $currency = null;
        foreach (array_keys($signs) as $sign) {
            $currency ??= WrittenNumber::CURRENCIES[$sign] ?? (in_array($sign, self::CURRENCIES, true) ? $sign : null);
        }
        if ($currency === null) {
            return null;
        }
        $marked = 0.0;
        [$share, $misfits] = $this->tried(function (string $value) use ($parts, $decimalSign, $currency, &$marked): bool {
            $part = $parts[$value] ?? null;
            $code = WrittenNumber::CURRENCIES[$part['sign'] ?? ''] ?? ($part['sign'] ?? '');
            $fits = $part !== null && ($code === $currency || $code === '') && WrittenNumber::plain($part['digits'], $decimalSign) !== null;
            $marked += $fits && $code !== '' ? $this->weights[$value] : 0.0;

            return $fits;
        });

        return $marked / $this->total < 0.5
            ? null
            : new Reading('amount', $share, $misfits, $this->saysSign($decimalSign), $currency, decimalSign: $decimalSign);
    }

    private function numbers(): ?Reading
    {
        [$parts, $decimalSign, $signs] = $this->numeric();
        unset($signs['']);
        $unit = (string) (array_key_first($signs) ?? '');
        $leadingZero = 0.0;
        [$share, $misfits] = $this->tried(function (string $value) use ($parts, $decimalSign, $unit, &$leadingZero): bool {
            $part = $parts[$value] ?? null;
            $leadingZero += preg_match('/^0\d/', $value) === 1 ? $this->weights[$value] : 0.0;

            return $part !== null &&
                ($part['sign'] === '' || strcasecmp($part['sign'], $unit) === 0) &&
                WrittenNumber::plain($part['digits'], $decimalSign) !== null;
        });
        // With zeros before them they are written by a rule, and stand for something.
        if ($leadingZero / $this->total > 0.02 || isset(WrittenNumber::CURRENCIES[$unit])) {
            return null;
        }

        return new Reading('number', $share, $misfits, $this->saysSign($decimalSign), $unit, decimalSign: $decimalSign);
    }

    /** @return list<string> */
    private function saysSign(string $decimalSign): array
    {
        return $decimalSign === ',' ? ['decimals are written with a comma'] : [];
    }

    private function identifiers(): ?Reading
    {
        if ($this->column->distinct() < 0.9 * $this->column->filled || $this->column->filled < 3) {
            return null;
        }
        $form = $this->pattern();
        if ($form === null) {
            // Of no one form, but short, in one piece and with digits.
            [$share, $misfits] = $this->tried(
                static fn (string $v): bool => preg_match('#^(?=.*\d)(?=\S*[\p{L}/-]|\d{6})[\p{L}\d][\p{L}\d._/-]{2,29}$#u', $v) === 1,
            );

            return $share < self::HOLDS ? null : new Reading('identifier', $share, $misfits);
        }
        [$share, $misfits] = $this->tried(static fn (string $value): bool => self::fits($value, $form));
        $says = [];
        $fitting = array_slice(
            array_values(array_filter(
                array_map(strval(...), array_keys($this->weights)),
                static fn (string $value): bool => self::fits($value, $form),
            )),
            0,
            2_000,
        );
        $system = CheckDigits::systemOf($fitting);
        if ($system !== null) {
            $says[] = "the last character checks the others: {$system['name']}";
            $form = $system['isOurs'] ? substr($form, 0, -1).'?' : $form;
        }
        if ($this->column->isExact() && $this->column->distinct() === $this->column->filled) {
            $says[] = 'no two rows have the same';
        }

        return new Reading('identifier', $share, $misfits, $says, pattern: $form);
    }

    /**
     * What most values have in common, sign by sign, as a pattern of fields has it: `9` for a digit, `A` for a letter, `X` where
     * both stand, all else as it is. Null when that is no form of an identifier.
     */
    private function pattern(): ?string
    {
        $skeletons = [];
        foreach ($this->weights as $value => $rows) {
            $skeleton = (string) preg_replace('/[\p{L}\d]/u', '#', (string) $value);
            $skeletons[$skeleton] = ($skeletons[$skeleton] ?? 0.0) + $rows;
        }
        arsort($skeletons);
        $skeleton = (string) array_key_first($skeletons);
        if (strlen($skeleton) < 3 || strlen($skeleton) > 30 || current($skeletons) / $this->total < self::WORTH) {
            return null;
        }
        // Where hardly a value has a letter, the letter is the slip.
        $digits = $letters = array_fill(0, strlen($skeleton), 0.0);
        foreach ($this->weights as $value => $rows) {
            $value = (string) $value;
            if (strlen($value) === strlen($skeleton) && preg_replace('/[A-Za-z\d]/', '#', $value) === $skeleton) {
                foreach (str_split($value) as $at => $sign) {
                    $digits[$at] += ctype_digit($sign) ? $rows : 0.0;
                    $letters[$at] += ctype_alpha($sign) ? $rows : 0.0;
                }
            }
        }
        $form = '';
        foreach (str_split($skeleton) as $at => $sign) {
            $all = $digits[$at] + $letters[$at];
            $form .= match (true) {
                $sign !== '#' => $sign,
                $digits[$at] >= 0.99 * $all => '9',
                $letters[$at] >= 0.99 * $all => 'A',
                default => 'X',
            };
        }

        // Words have letters alone, and anything may stand where anything does.
        return str_contains($form, '9') && substr_count($form, 'X') <= strlen($form) / 2 ? $form : null;
    }

    private static function fits(string $value, string $form): bool
    {
        if (strlen($value) !== strlen($form)) {
            return false;
        }
        foreach (str_split($form) as $at => $sign) {
            $fits = match ($sign) {
                '9' => ctype_digit($value[$at]),
                'A' => ctype_alpha($value[$at]),
                'X' => ctype_alnum($value[$at]),
                default => $value[$at] === $sign,
            };
            if (! $fits) {
                return false;
            }
        }

        return true;
    }

    private function addresses(): ?Reading
    {
        [$share, $misfits] = $this->tried(
            static fn (string $v): bool => preg_match('~^https?://[^\s/]+\.[^\s]+$~i', $v) === 1,
        );

        return $share < self::WORTH ? null : new Reading('web_address', $share, $misfits);
    }

    /** Few values that come again and again. */
    private function choices(): ?Reading
    {
        if (! $this->column->isExact() || $this->column->filled < 4) {
            return null;
        }
        $usual = $this->column->usual();
        $rare = array_diff_key($this->column->counted(), $usual);
        $distinct = count($usual);
        $again = $rows = 0;
        $length = 0.0;
        foreach ($usual as $value => $count) {
            $again += $count > 1 ? $count : 0;
            $rows += $count;
            $length += mb_strlen((string) $value) * $count;
        }
        if ($distinct > 2_000 || $distinct > $rows / 2 || $again < 0.9 * $rows || $length / max(1, $rows) > 60) {
            return null;
        }
        $says = ['each value comes '.round($rows / max(1, $distinct), 1).' times on average'];
        if ($rare !== []) {
            $says[] = count($rare) === 1
                ? 'a value that hardly a row has is left out'
                : count($rare).' values that hardly a row has are left out';
        }

        return new Reading('choice', $rows / max(1, $rows + array_sum($rare)), array_slice($rare, 0, self::EXAMPLES, true), $says);
    }

    /** Names of people: two to four words with capitals, or a family name before a comma. */
    private function people(): ?Reading
    {
        $word = "\p{Lu}[\p{Ll}\p{Lu}'’.-]*";
        $between = '(?:de|da|van|von|der|den|la|le|du|al|bin)';
        $title = '(?:(?:Dr|Prof|Mr|Mrs|Ms|Miss|Sir|Capt|Rev)\.? )?';
        $familyFirst = "{$word}(?: {$between})*,(?: {$word}){1,3}";
        $familyLast = "{$word}(?:(?: {$between})* {$word}){1,3}";
        $form = "/^{$title}(?:{$familyFirst}|{$familyLast})$/u";
        [$share, $misfits] = $this->tried(static fn (string $v): bool => preg_match($form, $v) === 1 && strlen($v) < 60);
        // Titles of things are written like names; those of people are short and differ.
        $distinct = $this->column->distinct();

        return $share < self::HOLDS || $distinct < 3 ? null : new Reading('person', $share, $misfits, ['written like names of people']);
    }
}
