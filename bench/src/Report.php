<?php

declare(strict_types=1);

namespace Bench;

/** Collects figures and prints them: a table, or one JSON object a line. */
final class Report
{
    /** @var array<string, array<string, array<string, array{float, float}>>> suite => case => engine => median, 95th percentile */
    private array $figures = [];

    public function __construct(public readonly int $documents, private readonly bool $json)
    {
    }

    /**
     * Times a question.
     *
     * @param  callable(): mixed  $ask
     */
    public function time(string $suite, string $case, string $engine, callable $ask, int $times = 9): mixed
    {
        $result = $ask();
        $taken = [];
        $budget = hrtime(true) + 15e9;
        for ($i = 0; $i < $times && ($i < 2 || hrtime(true) < $budget); $i++) {
            $since = hrtime(true);
            $ask();
            $taken[] = (hrtime(true) - $since) / 1e6;
        }
        sort($taken);
        $this->add($suite, $case, $engine, $taken[intdiv(count($taken), 2)], $taken[(int) floor((count($taken) - 1) * 0.95)]);

        return $result;
    }

    public function add(string $suite, string $case, string $engine, float $median, float $p95): void
    {
        $this->figures[$suite][$case][$engine] = [$median, $p95];
        if ($this->json) {
            echo json_encode([
                'suite' => $suite,
                'case' => $case,
                'engine' => $engine,
                'docs' => $this->documents,
                'median_ms' => round($median, 3),
                'p95_ms' => round($p95, 3),
            ]),
            "\n";
        }
    }

    /** Says how an engine stands against the best of the others, case by case and over all. */
    public function compare(string $suite, string $engine): void
    {
        $own = $ratios = [];
        foreach ($this->figures[$suite] as $case => $of) {
            $own[$case] = $of[$engine][0];
            foreach ($of as $other => [$median]) {
                if (! str_starts_with($other, $engine)) {
                    $ratios[$other][$case] = $median / $of[$engine][0];
                }
            }
        }
        sort($own);
        $this->note(sprintf('  %s: median %.1f ms, slowest %.1f ms', $engine, $own[intdiv(count($own), 2)], end($own)));
        foreach ($ratios as $other => $of) {
            $this->note(
                sprintf(
                    '  against %s: %.1f times as fast over the set (geometric mean), least %.1f (%s)',
                    $other,
                    exp(array_sum(array_map(log(...), $of)) / count($of)),
                    min($of),
                    array_search(min($of), $of, true),
                ),
            );
        }
    }

    public function note(string $text): void
    {
        if (! $this->json) {
            echo $text, "\n";
        }
    }

    public function finish(): void
    {
        if ($this->json) {
            return;
        }
        foreach ($this->figures as $suite => $cases) {
            $engines = array_values(array_unique(array_merge(...array_map(array_keys(...), array_values($cases)))));
            printf(
                "\n%s, %s documents, milliseconds (median / 95th percentile)\n%-44s",
                ucfirst($suite),
                number_format($this->documents),
                '',
            );
            foreach ($engines as $engine) {
                printf('%24s', $engine);
            }
            echo "\n";
            foreach ($cases as $case => $of) {
                printf('%-44s', $case);
                foreach ($engines as $engine) {
                    echo isset($of[$engine]) ? sprintf('%14.2f / %7.2f', ...$of[$engine]) : str_repeat(' ', 24);
                }
                echo "\n";
            }
        }
    }
}
