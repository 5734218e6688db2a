<?php

declare(strict_types=1);

namespace Brenvic\Core\Design;

/** What differs between two lists of terms, term by term and in words. */
final class TermChanges
{
    /** Of more changes than these only the number is told. */
    private const MOST = 25;

    /** What is told of a term by its old and its new value. */
    private const VALUES = ['label' => 'label', 'notation' => 'notation', 'note' => 'scope note', 'synonyms' => 'synonyms'];

    /** What is told of a term by its name alone. */
    private const NAMES = [
        'related' => 'related concepts',
        'matches' => 'matches elsewhere',
        'labels' => 'labels in other languages',
        'retention' => 'retention',
        'under' => 'values it depends on',
        'from' => 'where it was split from',
    ];

    /**
     * @param  array<array-key, mixed>  $before  terms as a design has them
     * @param  array<array-key, mixed>  $after
     * @return list<array{property: string, before: string, after: string}> `property` names the term
     */
    public static function between(array $before, array $after): array
    {
        $old = self::byCode($before);
        $new = self::byCode($after);
        $changes = [];
        foreach ($new as $code => $term) {
            $was = $old[$code] ?? null;
            if ($was === null) {
                $parent = self::parent($term, $new);
                $changes[] = self::told($term, '', $parent === '' ? 'new' : "new under {$parent}");

                continue;
            }
            array_push($changes, ...self::ofTerm($was, $term, $old, $new));
        }
        foreach (array_diff_key($old, $new) as $term) {
            $changes[] = self::told($term, '', 'removed');
        }
        if ($changes === [] && array_keys($old) !== array_keys($new)) {
            $changes[] = ['property' => 'order', 'before' => '', 'after' => 'changed'];
        }
        $more = count($changes) - self::MOST;

        if ($more <= 1) {
            return $changes;
        }

        return [...array_slice($changes, 0, self::MOST), ['property' => 'and', 'before' => '', 'after' => "{$more} more changes"]];
    }

    /**
     * @param  array<string, mixed>  $was
     * @param  array<string, mixed>  $term
     * @param  array<string, array<string, mixed>>  $old
     * @param  array<string, array<string, mixed>>  $new
     * @return list<array{property: string, before: string, after: string}>
     */
    private static function ofTerm(array $was, array $term, array $old, array $new): array
    {
        $changes = [];
        foreach (self::VALUES as $property => $label) {
            [$before, $after] = [self::text($was[$property] ?? ''), self::text($term[$property] ?? '')];
            if ($before !== $after) {
                $changes[] = self::told($was, $before, $after === '' ? "no {$label}" : $after, $property === 'label' ? '' : $label);
            }
        }
        if (($was['parent'] ?? null) !== ($term['parent'] ?? null)) {
            $parent = self::parent($term, $new);
            $changes[] = self::told($term, '', $parent === '' ? 'moved to the top' : "moved under {$parent}");
        }
        if (! Design::same($was['also_below'] ?? [], $term['also_below'] ?? [])) {
            $places = array_map(
                static fn (mixed $code): string => self::name($new[self::text($code)] ?? ['label' => $code]),
                self::list($term['also_below'] ?? []),
            );
            $changes[] = self::told($term, '', $places === [] ? 'has one place now' : 'is also below '.implode(', ', $places));
        }
        if ((bool) ($was['retired'] ?? false) !== (bool) ($term['retired'] ?? false)) {
            $heir = self::text($term['replaced_by'] ?? '');
            $for = $heir === '' ? '' : ', replaced by '.self::name($new[$heir] ?? $old[$heir] ?? ['label' => $heir]);
            $changes[] = self::told($term, '', ($term['retired'] ?? false) === true ? "retired{$for}" : 'no longer retired');
        }
        foreach (self::NAMES as $property => $label) {
            [$before, $after] = [$was[$property] ?? null, $term[$property] ?? null];
            if (! Design::same($before, $after) && self::filled($before) !== self::filled($after)) {
                $changes[] = self::told($term, '', "{$label} changed");
            }
        }

        return $changes;
    }

    /** What stands for nothing is nothing, however it is written. */
    private static function filled(mixed $value): string
    {
        return $value === null || $value === [] || $value === '' ? '' : (string) json_encode($value);
    }

    /**
     * @param  array<string, mixed>  $term
     * @param  array<string, array<string, mixed>>  $all
     */
    private static function parent(array $term, array $all): string
    {
        $code = self::text($term['parent'] ?? '');

        return $code === '' ? '' : self::name($all[$code] ?? ['label' => $code]);
    }

    /**
     * @param  array<string, mixed>  $term
     * @return array{property: string, before: string, after: string}
     */
    private static function told(array $term, string $before, string $after, string $what = ''): array
    {
        return ['property' => self::name($term).($what === '' ? '' : ", {$what}"), 'before' => $before, 'after' => $after];
    }

    /** @param  array<string, mixed>  $term */
    private static function name(array $term): string
    {
        $label = self::text($term['label'] ?? '') ?: self::text($term['code'] ?? '');
        $notation = self::text($term['notation'] ?? '');

        return $notation === '' || str_starts_with($label, $notation) ? $label : "{$notation} {$label}";
    }

    private static function text(mixed $value): string
    {
        return match (true) {
            is_scalar($value) => (string) $value,
            is_array($value) => implode(', ', array_map(self::text(...), $value)),
            default => '',
        };
    }

    /** @return list<mixed> */
    private static function list(mixed $value): array
    {
        return is_array($value) ? array_values($value) : [];
    }

    /**
     * @param  array<array-key, mixed>  $terms
     * @return array<string, array<string, mixed>>
     */
    private static function byCode(array $terms): array
    {
        $byCode = [];
        foreach ($terms as $term) {
            if (is_array($term) && is_scalar($term['code'] ?? null)) {
                /** @var array<string, mixed> $term */
                $byCode[self::text($term['code'])] = $term;
            }
        }

        return $byCode;
    }
}
