<?php

declare(strict_types=1);

namespace Brenvic\Core\Design;

use Brenvic\Core\Fields\InvalidDefinition;
use Brenvic\Core\Fields\VocabularyTerm;

/**
 * The terms of a vocabulary, or concepts of a classification scheme, as a design file has them (docs/design.schema.json).
 * Terms are told apart by their codes; their order is that of the list, siblings among themselves.
 */
final readonly class Terms
{
    /** @var array<string, array<string, mixed>> by code */
    public array $byCode;

    /** @param  list<array<string, mixed>>  $terms */
    public function __construct(public array $terms)
    {
        $byCode = [];
        foreach ($terms as $term) {
            $byCode[self::text($term, 'code')] = $term;
        }
        $this->byCode = $byCode;
    }

    /**
     * As fields use them, each after the term above it.
     *
     * @return list<VocabularyTerm>
     *
     * @throws InvalidDefinition naming the first fault
     */
    public function ordered(bool $byName = false): array
    {
        foreach ($this->faults() as $fault) {
            throw new InvalidDefinition('terms', $fault);
        }
        $below = $this->below();
        if ($byName) {
            $below = array_map(function (array $codes): array {
                usort(
                    $codes,
                    fn (string $a, string $b): int => strnatcasecmp(
                        self::text($this->byCode[$a], 'label'),
                        self::text($this->byCode[$b], 'label'),
                    ),
                );

                return $codes;
            }, $below);
        }
        $ordered = [];
        $waiting = array_reverse($below[''] ?? []);
        while ($waiting !== []) {
            $code = array_pop($waiting);
            $ordered[] = self::term($this->byCode[$code]);
            array_push($waiting, ...array_reverse($below[$code] ?? []));
        }

        return $ordered;
    }

    /**
     * What is wrong, in sentences: labels that are missing, codes and notations that stand twice, terms below nothing or
     * below themselves, replacements and relations that lead nowhere.
     *
     * @return list<string>
     */
    public function faults(): array
    {
        $faults = [];
        $codes = $notations = [];
        foreach ($this->terms as $term) {
            $code = self::text($term, 'code');
            $label = self::text($term, 'label');
            if (trim($label) === '') {
                $faults[] = "“{$code}” has no label.";
            }
            if (isset($codes[$code])) {
                $faults[] = "The code “{$code}” appears twice.";
            }
            $codes[$code] = true;
            $notation = self::text($term, 'notation');
            if ($notation !== '' && isset($notations[$notation])) {
                $faults[] = "“{$label}” and “{$notations[$notation]}” have the same notation {$notation}.";
            }
            $notations[$notation] ??= $label;
            $parents = self::parents($term);
            foreach (array_filter($parents, fn (string $parent): bool => ! isset($this->byCode[$parent])) as $missing) {
                $faults[] = "“{$code}” is below “{$missing}”, which is not in the vocabulary.";
            }
            if ($parents !== [] && self::parent($term) === null) {
                $faults[] = "“{$code}” is at the top and below another term as well. Give it a parent, or no other place.";
            }
            if (count(array_unique($parents)) < count($parents)) {
                $faults[] = "“{$code}” is below the same term twice.";
            }
            if ($this->isBelowItself($code)) {
                $faults[] = "“{$code}” stands below itself. Give it another parent.";
            }
            array_push($faults, ...$this->loose($term, $label));
        }

        return $faults;
    }

    /**
     * @param  array<string, mixed>  $term
     * @return list<string>
     */
    private function loose(array $term, string $label): array
    {
        $faults = [];
        $instead = $term['replaced_by'] ?? null;
        if (is_string($instead)) {
            $found = $this->byCode[$instead] ?? null;
            if ($found === null) {
                $faults[] = "“{$label}” is replaced by “{$instead}”, which is not in the vocabulary.";
            } elseif (($found['retired'] ?? false) === true) {
                $faults[] = "“{$label}” is replaced by “".self::text($found, 'label').'”, which is retired itself.';
            } elseif (($term['retired'] ?? false) !== true) {
                $faults[] = "“{$label}” has a replacement and is not retired.";
            }
        }
        foreach (is_array($term['related'] ?? null) ? $term['related'] : [] as $related) {
            if (is_string($related) && ! isset($this->byCode[$related])) {
                $faults[] = "“{$label}” refers to “{$related}”, which is not in the vocabulary.";
            }
        }
        $from = $term['from'] ?? null;
        if (is_array($from) && ! isset($this->byCode[self::text($from, 'code')])) {
            $faults[] = "“{$label}” is split off “".self::text($from, 'code').'”, which is not in the vocabulary.';
        }

        return $faults;
    }

    /**
     * The terms with notations made of their places: a top term keeps the one it has, or takes its number; below it comes
     * a dot and the place among siblings, in two digits.
     *
     * @return list<array<string, mixed>>
     */
    public function numbered(): array
    {
        $below = $this->below();
        $notations = [];
        foreach ($below[''] ?? [] as $i => $top) {
            $given = self::text($this->byCode[$top], 'notation');
            $notations[$top] = $given === '' ? (string) ($i + 1) : $given;
        }
        $waiting = $below[''] ?? [];
        while (($code = array_shift($waiting)) !== null) {
            foreach ($below[$code] ?? [] as $i => $child) {
                $notations[$child] = sprintf('%s.%02d', $notations[$code] ?? '', $i + 1);
                $waiting[] = $child;
            }
        }

        return array_map(
            static fn (array $term): array => [...$term, 'notation' => $notations[self::text($term, 'code')] ?? ''],
            $this->terms,
        );
    }

    /**
     * What has its place below each term, in lists that name each term once; the top terms under ''.
     *
     * @return array<string, list<string>>
     */
    public function below(): array
    {
        $below = [];
        foreach ($this->byCode as $code => $term) {
            $below[self::parent($term) ?? ''][] = (string) $code;
        }

        return $below;
    }

    private function isBelowItself(string $code): bool
    {
        $seen = [];
        $waiting = self::parents($this->byCode[$code]);
        while (($at = array_pop($waiting)) !== null) {
            if ($at === $code) {
                return true;
            }
            if (! isset($seen[$at])) {
                $seen[$at] = true;
                array_push($waiting, ...self::parents($this->byCode[$at] ?? []));
            }
        }

        return false;
    }

    /** @param  array<string, mixed>  $term */
    private static function term(array $term): VocabularyTerm
    {
        return new VocabularyTerm(
            self::text($term, 'code'),
            self::text($term, 'label'),
            self::parent($term),
            self::texts($term, 'synonyms'),
            self::text($term, 'notation'),
            ($term['retired'] ?? false) === true,
            is_string($term['replaced_by'] ?? null) ? $term['replaced_by'] : null,
            self::texts($term, 'under'),
            self::texts($term, 'also_below'),
        );
    }

    /**
     * @param  array<array-key, mixed>  $term
     * @return list<string>
     */
    private static function texts(array $term, string $property): array
    {
        return array_values(array_filter(is_array($term[$property] ?? null) ? $term[$property] : [], is_string(...)));
    }

    /**
     * @param  array<array-key, mixed>  $term
     * @return list<string> codes of all that it is directly below
     */
    private static function parents(array $term): array
    {
        $first = is_string($term['parent'] ?? null) && $term['parent'] !== '' ? [$term['parent']] : [];

        return [...$first, ...self::texts($term, 'also_below')];
    }

    /** @param  array<array-key, mixed>  $term */
    private static function text(array $term, string $property): string
    {
        return is_scalar($term[$property] ?? null) ? (string) $term[$property] : '';
    }

    /** @param  array<string, mixed>  $term */
    private static function parent(array $term): ?string
    {
        return is_string($term['parent'] ?? null) && $term['parent'] !== '' ? $term['parent'] : null;
    }
}
