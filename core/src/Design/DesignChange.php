<?php

declare(strict_types=1);

namespace Brenvic\Core\Design;

/** One part that differs between two designs. */
final readonly class DesignChange
{
    /** Those that are not called as their property is. */
    private const LABELS = [
        'names' => 'titles to choose from',
        'filers' => 'who may file it',
        'designers' => 'who may change it',
        'minimum' => 'lowest value',
        'maximum' => 'highest value',
        'max_length' => 'longest text',
        'dublin_core' => 'Dublin Core element',
        'multiple' => 'several values',
        'faceted' => 'facet',
        'default' => 'default value',
        'formerly' => 'replaces',
        'fills' => 'fields it fills',
        'statements' => 'other statements',
        'unsaid' => 'statements not kept',
        'base' => 'base address',
        'numbering' => 'notations',
        'list_view' => 'view for the documents of all',
        'opens' => 'opens as',
        'acts' => 'what only they may do',
        'sort' => 'sorted by',
        'formats' => 'how columns are shown',
    ];

    /** Lists of which only the number of entries can be told. */
    private const COUNTED = ['statements', 'unsaid', 'rows'];

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

    /** What becomes of the part: new, removed or changed. */
    public function act(): string
    {
        return $this->before === null ? 'new' : ($this->after === null ? 'removed' : 'changed');
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
            if (Design::same($before, $after)) {
                continue;
            }
            if ($property === 'terms') {
                array_push($differing, ...TermChanges::between((array) $before, (array) $after));
            } elseif (in_array($property, self::COUNTED, true)) {
                $count = static fn (mixed $list): string => is_array($list) ? (string) count($list) : '0';
                $differing[] = ['property' => self::label((string) $property), 'before' => $count($before), 'after' => $count($after)];
            } else {
                $differing[] = ['property' => self::label((string) $property), ...self::lists($before, $after)];
            }
        }

        return $differing;
    }

    /** What a property is called where it is edited. */
    private static function label(string $property): string
    {
        return self::LABELS[$property] ?? str_replace('_', ' ', $property);
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
