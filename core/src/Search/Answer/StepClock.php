<?php

declare(strict_types=1);

namespace Brenvic\Core\Search\Answer;

/** Times the steps of a search. */
final class StepClock
{
    /** @var array<string, float> milliseconds by step */
    public array $steps = [];

    private int|float $since;

    public function __construct()
    {
        $this->since = hrtime(true);
    }

    public function done(string $step): void
    {
        $now = hrtime(true);
        $this->steps[$step] = round(($now - $this->since) / 1e6, 3);
        $this->since = $now;
    }
}
