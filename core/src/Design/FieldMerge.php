<?php

declare(strict_types=1);

namespace Brenvic\Core\Design;

/** Gives the place of one field to another, wherever the design names it. */
final class FieldMerge
{
    /**
     * What changes in a design: the parts that name the field, the field that takes its place and remembers its name, and the
     * field itself, which is taken out.
     *
     * @param  list<Part>  $references  the parts that name the field
     * @return list<array{DesignKind, string, array<string, mixed>|null}> kind, code and new content
     */
    public static function changes(Design $design, array $references, string $from, string $into): array
    {
        $changes = [];
        foreach ($references as $part) {
            $kind = $part::kind();
            $changes[] = [$kind, $part->code, self::renamed($kind, $design->part($kind, $part->code) ?? [], $from, $into)];
        }
        $heir = $design->part(DesignKind::Field, $into) ?? [];
        $names = [...Design::codes($heir, 'formerly'), ...Design::codes($design->part(DesignKind::Field, $from), 'formerly'), $from];
        $changes[] = [DesignKind::Field, $into, [...$heir, 'formerly' => array_values(array_unique($names))]];
        $changes[] = [DesignKind::Field, $from, null];

        return $changes;
    }

    /**
     * A part with one field in the place of another.
     *
     * @param  array<string, mixed>  $content
     * @return array<string, mixed>
     */
    private static function renamed(DesignKind $kind, array $content, string $from, string $into): array
    {
        foreach (['fields' => 'code', 'sort' => 'field', 'levels' => 'field', 'values' => 'code'] as $property => $key) {
            if (is_array($content[$property] ?? null)) {
                $entries = self::joined(Design::entries($content, $property), $key, $from, $into);
                $content[$property] = $kind === DesignKind::View
                    ? array_map(static fn (array $entry): array => array_diff_key($entry, ['required' => true]), $entries)
                    : $entries;
            }
        }
        foreach (['columns', 'fills'] as $property) {
            if (is_array($content[$property] ?? null)) {
                $codes = array_map(static fn (string $code): string => $code === $from ? $into : $code, Design::codes($content, $property));
                $content[$property] = array_values(array_unique($codes));
            }
        }
        foreach (['key', 'depends_on'] as $property) {
            if (($content[$property] ?? null) === $from) {
                $content[$property] = $into;
            }
        }
        $content = self::inRetention($content, $from, $into);
        if (is_array($content['terms'] ?? null)) {
            $content['terms'] = array_map(
                static fn (array $term): array => self::inRetention($term, $from, $into),
                Design::entries($content, 'terms'),
            );
        }
        foreach (['title_pattern', 'pattern'] as $property) {
            if ($kind !== DesignKind::Field && is_string($content[$property] ?? null)) {
                $content[$property] = str_replace("{{$from}}", "{{$into}}", $content[$property]);
            }
        }

        return $content;
    }

    /**
     * @param  array<string, mixed>  $of  what may have a retention rule
     * @return array<string, mixed>
     */
    private static function inRetention(array $of, string $from, string $into): array
    {
        $rule = RetentionOfDesign::in($of);
        if ($rule === null) {
            return $of;
        }
        array_walk_recursive($rule, static function (mixed &$value, int|string $key) use ($from, $into): void {
            // The events have names that no field may have; the authority is nobody's code.
            $value = $value === $from && $key !== 'authority' ? $into : $value;
        });

        return [...$of, 'retention' => $rule];
    }

    /**
     * Entries with the one field named for the other; what named both keeps one, required when either was.
     *
     * @param  list<array<string, mixed>>  $entries
     * @return list<array<string, mixed>>
     */
    private static function joined(array $entries, string $key, string $from, string $into): array
    {
        $joined = [];
        foreach ($entries as $entry) {
            $entry = array_map(static fn (mixed $value): mixed => $value === $from ? $into : $value, $entry);
            $name = is_string($entry[$key] ?? null) ? $entry[$key] : '';
            $other = $joined[$name] ?? null;
            $isRequired = ($other['required'] ?? false) === true || ($entry['required'] ?? false) === true;
            $joined[$name] = $other === null ? $entry : [...$other, 'required' => $isRequired];
        }

        return array_values($joined);
    }
}
