<?php

declare(strict_types=1);

namespace App\Oversight;

use App\Access\Rights;
use App\Catalog\Catalog;
use App\Index\Indexer;
use Brenvic\Core\Retention\Trigger\SupersededTrigger;

/**
 * Looks again, once a day, at documents that are kept until a newer one takes their place: one that names them no more is not
 * known by what it names.
 */
final readonly class Superseded
{
    private const CHUNK = 1_000;

    public function __construct(private Catalog $catalog, private Rights $rights, private Indexer $indexer)
    {
    }

    /** @return int how many were looked at */
    public function look(): int
    {
        $count = 0;
        foreach ($this->catalog->retention()->all() as $rule) {
            if ($rule->trigger instanceof SupersededTrigger) {
                foreach (array_chunk($this->rights->allMatching("retention_rule == \"{$rule->code}\"")->documents(), self::CHUNK) as $ids) {
                    $this->indexer->retention($ids);
                    $count += count($ids);
                }
            }
        }

        return $count;
    }
}
