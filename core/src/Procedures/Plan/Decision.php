<?php

declare(strict_types=1);

namespace Brenvic\Core\Procedures\Plan;

use Brenvic\Core\Procedures\Shape\Detail;

/** What may be answered in a step. */
final readonly class Decision
{
    /**
     * @param  list<string>  $fields  codes of those that must have a value then
     * @param  list<Way>  $ways
     */
    public function __construct(
        public string $code,
        public string $label,
        public array $ways,
        public bool $needsComment = false,
        public array $fields = [],
    ) {
    }

    /** @param  array<array-key, mixed>  $content */
    public static function of(array $content): self
    {
        return new self(
            Detail::text($content, 'code'),
            Detail::text($content, 'label'),
            Way::all($content),
            ($content['comment'] ?? false) === true,
            Detail::texts($content, 'fields'),
        );
    }
}
