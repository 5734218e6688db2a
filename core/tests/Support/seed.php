<?php

declare(strict_types=1);

/**
 * Sows the random numbers of a test: always alike, unless BRENVIC_SEED has another seed (0 for any). When the test fails the
 * seed is printed, so that it can be sown again.
 */
function seeded(int $usual): int
{
    $given = getenv('BRENVIC_SEED');
    $seed = match (true) {
        $given === false || $given === '' => $usual,
        $given === '0' => random_int(1, 1_000_000),
        default => (int) $given,
    };
    mt_srand($seed);
    $GLOBALS['brenvic_seed'] = $seed;

    return $seed;
}

/** What to run a test that failed again with; empty when nothing was sown for it. */
function seedOfFailure(): string
{
    $seed = $GLOBALS['brenvic_seed'] ?? null;
    unset($GLOBALS['brenvic_seed']);

    return is_int($seed) ? "The seed was {$seed}: BRENVIC_SEED={$seed} sows it again." : '';
}
