<?php

declare(strict_types=1);

namespace App\Design;

use App\Models\DesignVersion;
use Brenvic\Core\Design\Design;
use Brenvic\Core\Design\DesignChange;

/** A checked draft that is to take effect. */
final readonly class Publishing
{
    /**
     * @param  list<DesignChange>  $changes
     * @param  array<string, array<string, int>>  $locks  versions for optimistic locking, by kind and code
     * @param  ReturnedValues|null  $returned  the values that come back with an older version
     */
    public function __construct(
        public DesignVersion $version,
        public array $changes,
        public Design $old,
        public Design $new,
        public array $locks,
        public ?ReturnedValues $returned,
    ) {
    }
}
