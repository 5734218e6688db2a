<?php

declare(strict_types=1);

namespace Brenvic\Core\Pages;

use InvalidArgumentException;

/** In which order, from where and how turned the pages of a new version stand. */
final readonly class PagePlan
{
    private const MOST = 5_000;

    /** @param  list<array{source: string, page: int, turn: int}>  $pages  turns in degrees clockwise */
    private function __construct(public array $pages)
    {
    }

    /**
     * @param  list<array{source: string, page: int, turn: int}>  $pages
     * @param  array<string, int>  $counts  how many pages each source has
     *
     * @throws InvalidArgumentException naming what is wrong
     */
    public static function of(array $pages, array $counts): self
    {
        if ($pages === []) {
            throw new InvalidArgumentException('A document keeps at least one page.');
        }
        if (count($pages) > self::MOST) {
            throw new InvalidArgumentException('A document takes 5 000 pages at most.');
        }
        $plan = [];
        foreach ($pages as ['source' => $source, 'page' => $page, 'turn' => $turn]) {
            if (! isset($counts[$source])) {
                throw new InvalidArgumentException('A page comes from a document that is not there.');
            }
            if ($page < 1 || $page > $counts[$source]) {
                throw new InvalidArgumentException("There is no page {$page}.");
            }
            if ($turn % 90 !== 0) {
                throw new InvalidArgumentException('A page is turned by quarters.');
            }
            $plan[] = ['source' => $source, 'page' => $page, 'turn' => (($turn % 360) + 360) % 360];
        }

        return new self($plan);
    }

    /** Whether it leaves a document as it is. */
    public function changesNothing(string $source, int $count): bool
    {
        if (count($this->pages) !== $count) {
            return false;
        }
        foreach ($this->pages as $i => $page) {
            if ($page['source'] !== $source || $page['page'] !== $i + 1 || $page['turn'] !== 0) {
                return false;
            }
        }

        return true;
    }

    /** @return list<array{int, int}|null> for each page the page of a source that it comes from, and its turn; null when it comes from another */
    public function from(string $source): array
    {
        return array_map(
            static fn (array $page): ?array => $page['source'] === $source ? [$page['page'], $page['turn']] : null,
            $this->pages,
        );
    }

    /** @return list<array{source: string, range: string}> runs of pages of one source, ranges as `1-3,7` */
    public function runs(): array
    {
        $runs = [];
        foreach ($this->pages as ['source' => $source, 'page' => $page]) {
            $last = count($runs) - 1;
            if ($last >= 0 && $runs[$last]['source'] === $source) {
                $runs[$last]['pages'][] = $page;
            } else {
                $runs[] = ['source' => $source, 'pages' => [$page]];
            }
        }

        return array_map(static fn (array $run): array => ['source' => $run['source'], 'range' => self::range($run['pages'])], $runs);
    }

    /** @return array<int, string> pages of the result to be turned, as ranges, by degrees */
    public function turns(): array
    {
        $turns = [];
        foreach ($this->pages as $i => ['turn' => $turn]) {
            if ($turn !== 0) {
                $turns[$turn][] = $i + 1;
            }
        }

        return array_map(self::range(...), $turns);
    }

    /** @param  non-empty-list<int>  $pages */
    private static function range(array $pages): string
    {
        $parts = [];
        $from = $to = $pages[0];
        foreach ([...array_slice($pages, 1), 0] as $page) {
            if ($page === $to + 1) {
                $to = $page;

                continue;
            }
            $parts[] = $from === $to ? (string) $from : "{$from}-{$to}";
            $from = $to = $page;
        }

        return implode(',', $parts);
    }
}
