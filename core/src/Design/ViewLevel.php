<?php

declare(strict_types=1);

namespace Brenvic\Core\Design;

/** A field by which a view groups documents. */
final readonly class ViewLevel
{
    /**
     * @param  string|null  $total  the field that each group sums up
     * @param  bool  $isSum  whether as a sum; otherwise from the lowest to the highest
     */
    private function __construct(
        public string $field,
        public ?string $total,
        public bool $isSum,
    ) {
    }

    /**
     * @param  array<string, mixed>  $content
     * @return list<self> the outermost first
     */
    public static function of(array $content): array
    {
        return array_map(
            static fn (array $level): self => new self(
                is_string($level['field'] ?? null) ? $level['field'] : '',
                is_string($level['total'] ?? null) ? $level['total'] : null,
                ($level['total_as'] ?? 'sum') === 'sum',
            ),
            Design::entries($content, 'levels'),
        );
    }
}
