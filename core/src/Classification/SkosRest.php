<?php

declare(strict_types=1);

namespace Brenvic\Core\Classification;

/**
 * What a SKOS file says beyond what a vocabulary has of its own, kept with it so that an export says it again: notes of each
 * kind and language, hidden labels, mapping relations, further notations and parents, collections, licences, anything.
 *
 * Statements of a concept are kept with the concept (without their subject), all others with the vocabulary. Some statements
 * are made of the vocabulary that the file did not have (an inverse, a label in another property): these are noted, and not
 * made while nothing changes; a property that is not in the file at all is noted once.
 */
final class SkosRest
{
    /**
     * @param  array<string, mixed>  $vocabulary
     * @param  list<Triple>  $file  what the file says
     * @param  list<Triple>  $model  what the vocabulary says by itself
     * @param  array<string, string>  $codes  address of a concept => its code
     * @return array<string, mixed> the vocabulary with the rest
     */
    public static function kept(array $vocabulary, array $file, array $model, array $codes): array
    {
        $said = self::byLine($file);
        $made = self::byLine($model);
        $properties = [];
        foreach ($file as $triple) {
            $properties[$triple->predicate] = true;
        }
        $never = $unsaid = $statements = [];
        foreach (array_diff_key($made, $said) as $triple) {
            if (isset($properties[$triple->predicate])) {
                $unsaid[$triple->subject][] = $triple;
            } else {
                $never[$triple->predicate] = true;
            }
        }
        foreach (array_diff_key($said, $made) as $triple) {
            $statements[$triple->subject][] = $triple;
        }
        $terms = [];
        $addresses = array_flip($codes);
        foreach (is_array($vocabulary['terms'] ?? null) ? $vocabulary['terms'] : [] as $term) {
            if (is_array($term)) {
                $address = $addresses[is_string($term['code'] ?? null) ? $term['code'] : ''] ?? '';
                $terms[] = self::with(
                    array_diff_key($term, ['statements' => 0, 'unsaid' => 0]),
                    self::ends($statements[$address] ?? []),
                    self::ends($unsaid[$address] ?? []),
                );
                unset($statements[$address], $unsaid[$address]);
            }
        }
        /** @var array<string, mixed> $rest */
        $rest = self::with(
            array_diff_key([...$vocabulary, 'terms' => $terms], ['statements' => 0, 'unsaid' => 0]),
            self::lines(array_merge([], ...array_values($statements))),
            self::lines(array_merge([], ...array_values($unsaid))),
        );

        return $never === []
            ? $rest
            : [
                ...$rest,
                'unsaid' => [
                    ...self::strings($rest, 'unsaid'),
                    ...array_map(static fn (string $property): string => "<{$property}>", self::sorted(array_keys($never))),
                ],
            ];
    }

    /**
     * All that a vocabulary says, with what was kept.
     *
     * @param  array<string, mixed>  $vocabulary
     * @param  list<Triple>  $model  what it says by itself
     * @param  array<string, string>  $addresses  code => address
     * @return list<Triple>
     */
    public static function given(array $vocabulary, array $model, array $addresses): array
    {
        $statements = self::strings($vocabulary, 'statements');
        $unsaid = self::strings($vocabulary, 'unsaid');
        foreach (is_array($vocabulary['terms'] ?? null) ? $vocabulary['terms'] : [] as $term) {
            $address = is_array($term) ? $addresses[is_scalar($term['code'] ?? null) ? (string) $term['code'] : ''] ?? '' : '';
            if (is_array($term) && $address !== '') {
                $subject = rtrim(NTriples::node($address));
                array_push(
                    $statements,
                    ...array_map(static fn (string $end): string => "{$subject} {$end}", self::strings($term, 'statements')),
                );
                array_push($unsaid, ...array_map(static fn (string $end): string => "{$subject} {$end}", self::strings($term, 'unsaid')));
            }
        }
        if ($statements === [] && $unsaid === []) {
            return $model;
        }
        $never = array_flip(array_filter($unsaid, static fn (string $line): bool => ! str_contains($line, ' ')));
        $withheld = self::byLine(
            NTriples::read(implode("\n", array_filter($unsaid, static fn (string $line): bool => str_contains($line, ' ')))),
        );
        $made = self::byLine($model);
        // What was withheld and is not made any more was changed here: then what the file said in its place is not true either.
        $changed = [];
        foreach (array_diff_key($withheld, $made) as $triple) {
            $changed["{$triple->subject} {$triple->predicate}"] = true;
        }
        $given = [];
        foreach ($made as $line => $triple) {
            if (! isset($withheld[$line]) && ! isset($never["<{$triple->predicate}>"])) {
                $given[] = $triple;
            }
        }
        foreach (NTriples::read(implode("\n", $statements)) as $triple) {
            if (! isset($changed["{$triple->subject} {$triple->predicate}"])) {
                $given[] = $triple;
            }
        }

        return $given;
    }

    /**
     * @param  list<Triple>  $triples
     * @return array<string, Triple>
     */
    private static function byLine(array $triples): array
    {
        $byLine = [];
        foreach ($triples as $triple) {
            $byLine[NTriples::line($triple)] = $triple;
        }

        return $byLine;
    }

    /**
     * @param  array<array-key, mixed>  $of
     * @param  list<string>  $statements
     * @param  list<string>  $unsaid
     * @return array<array-key, mixed>
     */
    private static function with(array $of, array $statements, array $unsaid): array
    {
        return [...$of, ...$statements === [] ? [] : ['statements' => $statements], ...$unsaid === [] ? [] : ['unsaid' => $unsaid]];
    }

    /**
     * @param  list<Triple>  $triples
     * @return list<string> without their subjects
     */
    private static function ends(array $triples): array
    {
        return self::sorted(
            array_map(
                static fn (Triple $triple): string => substr(NTriples::line($triple), strlen(NTriples::node($triple->subject)) + 1),
                $triples,
            ),
        );
    }

    /**
     * @param  list<Triple>  $triples
     * @return list<string>
     */
    private static function lines(array $triples): array
    {
        return self::sorted(array_map(NTriples::line(...), $triples));
    }

    /**
     * @param  list<string>  $lines
     * @return list<string>
     */
    private static function sorted(array $lines): array
    {
        sort($lines, SORT_STRING);

        return $lines;
    }

    /**
     * @param  array<array-key, mixed>  $of
     * @return list<string>
     */
    private static function strings(array $of, string $property): array
    {
        return array_values(array_filter(is_array($of[$property] ?? null) ? $of[$property] : [], is_string(...)));
    }
}
