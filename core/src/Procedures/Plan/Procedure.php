<?php

declare(strict_types=1);

namespace Brenvic\Core\Procedures\Plan;

use Brenvic\Core\Procedures\Shape\Detail;

/** How a kind of document is handled: its steps, of which the first is where a case begins. */
final readonly class Procedure
{
    /** Begins when a document is filed. */
    public const FILING = 'filing';

    /** Begins when a criterion comes true. */
    public const WHEN = 'when';

    /** Begins when somebody says so. */
    public const HAND = 'hand';

    /** How often one step may come again in a case: more is a circle that nobody meant. */
    public const ROUNDS = 20;

    /** @param  array<string, Step>  $steps  by code, in their order */
    public function __construct(public array $steps)
    {
    }

    /** @param  array<array-key, mixed>  $content */
    public static function of(array $content): self
    {
        $steps = [];
        foreach (Detail::each($content, 'steps') as $entry) {
            $step = Step::of($entry);
            $steps[$step->code] = $step;
        }

        return new self($steps);
    }

    public function first(): ?Step
    {
        return array_values($this->steps)[0] ?? null;
    }

    /**
     * What is wrong with it: each step alone, ways that lead nowhere, steps that nothing leads to, circles without an end.
     *
     * @return list<array{string, string}> codes of steps, '' for the whole, and what is wrong in words
     */
    public function faults(): array
    {
        if ($this->steps === []) {
            return [['', 'It has no step. Begin with who looks at the document first.']];
        }
        $faults = [];
        foreach ($this->steps as $code => $step) {
            foreach (array_filter([$step->fault(), $this->faultOfNotBy($step), ...$this->faultsOfWays($step)]) as $fault) {
                $faults[] = [(string) $code, "{$step->name}: {$fault}"];
            }
        }
        if (array_filter($this->steps, static fn (Step $step): bool => $step instanceof EndStep) === []) {
            return [...$faults, ['', 'It has no end. Add a step that ends it.']];
        }
        $reached = $this->reached();
        foreach (array_diff_key($this->steps, $reached) as $code => $step) {
            $faults[] = [(string) $code, "{$step->name}: no way leads here."];
        }
        foreach (array_diff_key($reached, $this->ending()) as $code => $step) {
            $faults[] = [(string) $code, "{$step->name}: no way leads from here to an end."];
        }

        return $faults;
    }

    /** @return list<string> */
    private function faultsOfWays(Step $step): array
    {
        $faults = [];
        foreach ($step->ways() as $decision => $ways) {
            $label = $step instanceof AskStep ? '“'.($step->decision((string) $decision)->label ?? '').'”' : 'it';
            $last = $ways === [] ? null : $ways[count($ways) - 1];
            $fault = match (true) {
                $last === null => "{$label} leads nowhere.",
                $last->criterion !== '' => "{$label} leads nowhere where none of its criteria holds. Add a way for all others.",
                default => null,
            };
            foreach ($ways as $index => $way) {
                $fault ??= match (true) {
                    ! isset($this->steps[$way->to]) => "{$label} leads to a step that is not there.",
                    $way->criterion === '' && $index < count($ways) - 1 => "behind the way for all others, {$label} has one that nothing takes.",
                    default => null,
                };
            }
            $faults[] = $fault;
        }

        return array_values(array_filter($faults));
    }

    private function faultOfNotBy(Step $step): ?string
    {
        $unknown = $step instanceof AskStep ? array_diff($step->notBy, [AskStep::FILER], array_map(strval(...), array_keys($this->steps))) : [];

        return $unknown === [] ? null : 'It keeps out those who decided in a step that is not there.';
    }

    /** @return array<string, Step> what can be come to from the first step */
    private function reached(): array
    {
        $reached = [];
        $left = array_slice($this->steps, 0, 1);
        while ($left !== []) {
            $step = array_pop($left);
            $reached[$step->code] = $step;
            foreach (array_merge([], ...array_values($step->ways())) as $way) {
                if (isset($this->steps[$way->to]) && ! isset($reached[$way->to])) {
                    $left[] = $this->steps[$way->to];
                }
            }
        }

        return $reached;
    }

    /** @return array<string, Step> what an end can be come to from */
    private function ending(): array
    {
        $ending = array_filter($this->steps, static fn (Step $step): bool => $step instanceof EndStep);
        do {
            $before = count($ending);
            foreach ($this->steps as $code => $step) {
                foreach (array_merge([], ...array_values($step->ways())) as $way) {
                    if (isset($ending[$way->to])) {
                        $ending[$code] = $step;
                    }
                }
            }
        } while (count($ending) > $before);

        return $ending;
    }

    /** @return list<string> all criteria by which it goes on */
    public function criteria(): array
    {
        $criteria = [];
        foreach ($this->steps as $step) {
            foreach (array_merge([], ...array_values($step->ways())) as $way) {
                $criteria[] = $way->criterion;
            }
        }

        return array_values(array_unique(array_filter($criteria, static fn (string $criterion): bool => $criterion !== '')));
    }
}
