<?php

declare(strict_types=1);

namespace Brenvic\Core\Design;

/** One part that differs between two designs. */
final readonly class DesignChange
{
    /**
     * @param  array<string, mixed>|null  $before  null when the part is new
     * @param  array<string, mixed>|null  $after  null when it is taken out
     */
    public function __construct(public DesignKind $kind, public string $code, public ?array $before, public ?array $after)
    {
    }

    /**
     * All that differs, in an order in which it can be put into effect: what is new or changed first, each after what it
     * refers to; what goes last, each before what it refers to.
     *
     * @return list<self>
     */
    public static function between(Design $before, Design $after): array
    {
        $come = $go = [];
        foreach (DesignKind::cases() as $kind) {
            foreach ($after->all($kind) as $code => $content) {
                $old = $before->part($kind, (string) $code);
                if (! Design::same($old, $content)) {
                    $come[] = new self($kind, (string) $code, $old, $content);
                }
            }
            foreach (array_diff_key($before->all($kind), $after->all($kind)) as $code => $content) {
                array_unshift($go, new self($kind, (string) $code, $content, null));
            }
        }

        return [...$come, ...$go];
    }

    public function name(): string
    {
        return Design::nameOf($this->kind, $this->code, $this->after ?? $this->before);
    }

    /**
     * The properties that differ, in words for comparing.
     *
     * @return list<array{property: string, before: string, after: string}>
     */
    public function properties(): array
    {
        $differing = [];
        foreach (array_keys(($this->before ?? []) + ($this->after ?? [])) as $property) {
            $before = $this->before[$property] ?? null;
            $after = $this->after[$property] ?? null;
            if (! Design::same($before, $after)) {
                $differing[] = ['property' => (string) $property, ...self::lists($before, $after)];
            }
        }

        return $differing;
    }

    /**
     * Of lists only the entries that differ.
     *
     * @return array{before: string, after: string}
     */
    private static function lists(mixed $before, mixed $after): array
    {
        if (! is_array($before) && ! is_array($after)) {
            return ['before' => self::shown($before), 'after' => self::shown($after)];
        }
        $before = is_array($before) ? $before : [];
        $after = is_array($after) ? $after : [];
        $isIn = static fn (mixed $entry, array $list): bool => array_filter(
            $list,
            static fn (mixed $other): bool => Design::same($entry, $other),
        ) !== [];
        $gone = array_filter($before, static fn (mixed $entry): bool => ! $isIn($entry, $after));
        $new = array_filter($after, static fn (mixed $entry): bool => ! $isIn($entry, $before));
        if ($gone === [] && $new === []) {
            return [
                'before' => implode(', ', array_map(self::shown(...), $before)),
                'after' => implode(', ', array_map(self::shown(...), $after)),
            ];
        }

        return ['before' => implode('; ', array_map(self::shown(...), $gone)), 'after' => implode('; ', array_map(self::shown(...), $new))];
    }

    private static function shown(mixed $value): string
    {
        return match (true) {
            $value === null, $value === false => '',
            $value === true => 'yes',
            is_array($value) => implode(
                ' ',
                array_filter(array_map(self::shown(...), $value), static fn (string $text): bool => $text !== ''),
            ),
            is_scalar($value) => (string) $value,
            default => '',
        };
    }
}
