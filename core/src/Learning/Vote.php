<?php

declare(strict_types=1);

namespace Brenvic\Core\Learning;

/** What some documents have in common that others are like. */
final readonly class Vote
{
    /**
     * @param  non-empty-list<string>  $values
     * @param  float  $share  how much of all votes it has, by weight, up to 1
     * @param  non-empty-list<int>  $from  the documents that have it
     */
    private function __construct(public array $values, public float $share, public array $from)
    {
    }

    /**
     * The values that weigh most.
     *
     * @param  iterable<array{float, non-empty-list<string>, int}>  $votes  weight, values, document
     */
    public static function among(iterable $votes): ?self
    {
        $weights = $from = $values = [];
        foreach ($votes as [$weight, $of, $document]) {
            $name = implode("\n", $of);
            $weights[$name] = ($weights[$name] ?? 0.0) + $weight;
            $from[$name][] = $document;
            $values[$name] ??= $of;
        }
        if ($weights === []) {
            return null;
        }
        // Of equal ones the first, whatever the order of what was given.
        uksort($weights, static fn (int|string $a, int|string $b): int => $weights[$b] <=> $weights[$a] ?: strcmp((string) $a, (string) $b));
        $best = array_key_first($weights);

        return new self($values[$best], $weights[$best] / array_sum($weights), $from[$best]);
    }

    /**
     * Whether so many would say the same by chance alone.
     *
     * @param  float  $usual  the share of documents that have these values anyway
     */
    public function isChance(float $usual, float $most = 0.02): bool
    {
        return $usual ** count($this->from) > $most;
    }
}
