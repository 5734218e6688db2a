<?php

declare(strict_types=1);

namespace Brenvic\Core\Design;

/** Joins two designs that began as one. */
final class DesignMerge
{
    /**
     * Takes what one side changed into the other. What both changed, each in its own way, collides and stays as it is here.
     *
     * @param  Design  $common  what both began from; without it nothing is known to be older, so that what differs collides
     * @return array{design: Design, collisions: list<DesignChange>}
     */
    public static function of(Design $common, Design $mine, Design $theirs): array
    {
        $collisions = [];
        $merged = $mine;
        foreach (DesignChange::between($common, $theirs) as $change) {
            $here = $mine->part($change->kind, $change->code);
            if (Design::same($here, $change->after)) {
                continue;
            }
            if (Design::same($here, $change->before)) {
                $merged = $merged->with($change->kind, $change->code, $change->after);
            } else {
                $collisions[] = $change;
            }
        }

        return ['design' => $merged, 'collisions' => $collisions];
    }
}
