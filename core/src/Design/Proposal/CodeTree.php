<?php

declare(strict_types=1);

namespace Brenvic\Core\Design\Proposal;

/** Codes that nest by a sign, like `NAV.02.3`: what stands before the last sign is above. */
final readonly class CodeTree
{
    /** So many of the codes must have one above them that others share. */
    private const SHARE = 0.6;

    /**
     * @param  list<string>  $values
     * @param  non-empty-string  $sign
     */
    private function __construct(private array $values, private string $sign)
    {
    }

    /** @param  list<string>  $values */
    public static function of(array $values): ?self
    {
        foreach (['.', '/', '-', ' › ', ':'] as $sign) {
            $above = [];
            $codes = 0;
            foreach ($values as $value) {
                $at = strrpos($value, $sign);
                if ($at === false || $at === 0 || $at === strlen($value) - strlen($sign)) {
                    continue;
                }
                $codes++;
                $parent = substr($value, 0, $at);
                $above[$parent] = ($above[$parent] ?? 0) + 1;
            }
            $known = array_filter(
                $above,
                static fn (int $below, int|string $parent): bool => $below > 1 || in_array((string) $parent, $values, true),
                ARRAY_FILTER_USE_BOTH,
            );
            $isCoded = preg_grep('/\d/', $values) !== [] && count(preg_grep('/ /', $values) ?: []) < count($values) / 4;
            // One thing above all of them is how they are written, and no tree.
            $isNested = $codes >= self::SHARE * count($values) && array_sum($known) >= self::SHARE * $codes;
            if ($isCoded && $isNested && count($known) > 1 && count($values) >= 6) {
                return new self($values, $sign);
            }
        }

        return null;
    }

    /**
     * @param  array<int|string, string>  $labels  code => what it is called, as far as the table tells
     * @return list<array<string, mixed>> terms, those above that no row has among them
     */
    public function terms(array $labels): array
    {
        $all = [];
        foreach ($this->values as $value) {
            $parts = explode($this->sign, $value);
            for ($depth = 1; $depth <= count($parts); $depth++) {
                $all[implode($this->sign, array_slice($parts, 0, $depth))] = true;
            }
        }
        $codes = $taken = [];
        foreach (array_keys($all) as $value) {
            $codes[$value] = PartCode::of((string) $value, $taken, 'term');
            $taken[$codes[$value]] = true;
        }
        $terms = [];
        foreach ($codes as $value => $code) {
            $value = (string) $value;
            $at = strrpos($value, $this->sign);
            $terms[] = [
                'code' => $code,
                'label' => $labels[$value] ?? $value,
                'parent' => $at === false ? null : $codes[substr($value, 0, $at)],
                'synonyms' => [],
                'notation' => $value,
            ];
        }

        return $terms;
    }
}
