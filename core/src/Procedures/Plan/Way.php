<?php

declare(strict_types=1);

namespace Brenvic\Core\Procedures\Plan;

use Brenvic\Core\Procedures\Shape\Detail;

/** A way on from a step: where it leads, and for which documents. */
final readonly class Way
{
    /** @param  string  $criterion  in CQL; empty for all that no way before it took */
    public function __construct(public string $to, public string $criterion = '')
    {
    }

    /**
     * @param  array<array-key, mixed>  $content
     * @return list<self>
     */
    public static function all(array $content): array
    {
        return array_map(
            static fn (array $way): self => new self(Detail::text($way, 'to'), trim(Detail::text($way, 'criterion'))),
            Detail::each($content, 'ways'),
        );
    }
}
