<?php

declare(strict_types=1);

namespace Brenvic\Core\Classification;

use Brenvic\Core\Index\Stemmer;
use Brenvic\Core\Index\Tokenizer;

/**
 * Terms that are probably the same: one spelling apart, the same words in another order or another ending, or one called
 * what the other is also called. Terms are compared only within blocks that share a word's stem, the first letters or the
 * last, so that thousands of terms take a moment.
 */
final class LikelyDoubles
{
    private const MOST = 200;

    /**
     * @param  iterable<array{code: string, names: list<string>}>  $terms  names: the label and what it is also called
     * @return list<array{a: string, b: string, why: string}> codes, the surest first
     */
    public static function of(iterable $terms): array
    {
        $blocks = $folded = [];
        foreach ($terms as ['code' => $code, 'names' => $names]) {
            foreach ($names as $name) {
                $fold = trim(Tokenizer::fold($name));
                $stems = array_map(Stemmer::stem(...), preg_split('/[^\p{L}\p{N}]+/u', $fold, -1, PREG_SPLIT_NO_EMPTY) ?: []);
                sort($stems);
                $folded[] = [$code, $fold, implode(' ', $stems)];
                foreach ([...array_unique($stems), mb_substr($fold, 0, 2).'…', '…'.mb_substr($fold, -3)] as $block) {
                    $blocks[$block][] = array_key_last($folded);
                }
            }
        }
        $found = [];
        foreach ($blocks as $entries) {
            foreach (count($entries) > self::MOST ? [] : $entries as $i => $first) {
                foreach (array_slice($entries, $i + 1) as $second) {
                    [$a, $foldA, $stemsA] = $folded[$first];
                    [$b, $foldB, $stemsB] = $folded[$second];
                    $closeness = $a === $b ? null : self::closeness($foldA, $foldB, $stemsA, $stemsB);
                    $pair = $a < $b ? "{$a}\n{$b}" : "{$b}\n{$a}";
                    if ($closeness !== null && ($found[$pair][0] ?? 9) > $closeness[0]) {
                        $found[$pair] = [$closeness[0], ['a' => $a, 'b' => $b, 'why' => $closeness[1]]];
                    }
                }
            }
        }
        uasort($found, static fn (array $x, array $y): int => $x[0] <=> $y[0] ?: strcmp($x[1]['a'].$x[1]['b'], $y[1]['a'].$y[1]['b']));

        return array_column(array_values($found), 1);
    }

    /** @return array{int, string}|null how far, smaller is surer, and why */
    private static function closeness(string $a, string $b, string $stemsA, string $stemsB): ?array
    {
        if ($a === $b) {
            return [0, 'have the same name'];
        }
        if ($stemsA === $stemsB && $stemsA !== '') {
            return [1, 'are the same words in another form or order'];
        }
        $length = min(strlen($a), strlen($b));
        // One slip in short names makes another name; numbers tell names apart.
        if ($length < 5 || strlen($a) > 200 || strlen($b) > 200 || preg_replace('/\D/', '', $a) !== preg_replace('/\D/', '', $b)) {
            return null;
        }
        $distance = levenshtein($a, $b);

        return $distance <= ($length < 12 ? 1 : 2) ? [1 + $distance, 'are written nearly alike'] : null;
    }
}
