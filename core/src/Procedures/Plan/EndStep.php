<?php

declare(strict_types=1);

namespace Brenvic\Core\Procedures\Plan;

use Brenvic\Core\Procedures\Shape\Detail;

/** Where a case is over. */
final readonly class EndStep extends Step
{
    public function __construct(string $code, string $name)
    {
        parent::__construct($code, $name);
    }

    /** @param  array<array-key, mixed>  $content */
    public static function read(array $content): self
    {
        return new self(Detail::text($content, 'code'), Detail::text($content, 'name'));
    }
}
