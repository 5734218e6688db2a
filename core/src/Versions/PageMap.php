<?php

declare(strict_types=1);

namespace Brenvic\Core\Versions;

/** From which pages of one version the pages of another were made, and how far each was turned. */
final readonly class PageMap
{
    /** @param  list<array{int, int}|null>  $from  for each new page the old one and its turn in degrees clockwise; null for a page from elsewhere */
    public function __construct(public array $from)
    {
    }

    /**
     * Where an old page is now.
     *
     * @return list<array{int, int}> new page and turn; several when the page was put in more than once
     */
    public function to(int $page): array
    {
        $to = [];
        foreach ($this->from as $i => $from) {
            if ($from !== null && $from[0] === $page) {
                $to[] = [$i + 1, $from[1]];
            }
        }

        return $to;
    }

    /** This map and then another, as one. */
    public function then(self $next): self
    {
        return new self(
            array_map(function (?array $from): ?array {
                if ($from === null) {
                    return null;
                }
                $before = $this->from[$from[0] - 1] ?? null;

                return $before === null ? null : [$before[0], ($before[1] + $from[1]) % 360];
            }, $next->from),
        );
    }

    /**
     * The way back.
     *
     * @param  int  $pages  how many there were
     */
    public function back(int $pages): self
    {
        $from = [];
        for ($page = 1; $page <= $pages; $page++) {
            $there = $this->to($page)[0] ?? null;
            $from[] = $there === null ? null : [$there[0], (360 - $there[1]) % 360];
        }

        return new self($from);
    }
}
