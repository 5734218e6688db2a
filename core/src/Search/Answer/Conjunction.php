<?php

declare(strict_types=1);

namespace Brenvic\Core\Search\Answer;

use Brenvic\Core\Index\DocumentSet;
use Brenvic\Core\Query\LedgerLine;
use Brenvic\Core\Search\Words\Variants;

/** The lines of a ledger with their sets, and what their conjunction is with or without some of them. */
final readonly class Conjunction
{
    /** With more lines than this there are too many sets to try. */
    private const MOST_LINES = 12;

    /** @var list<DocumentSet> the conjunction of the lines that are on before each line, and of all at the end */
    private array $before;

    /**
     * @param  list<LedgerLine>  $lines
     * @param  list<DocumentSet>  $sets  what each line lets through, within `$visible`
     */
    public function __construct(
        private DocumentSet $visible,
        private array $lines,
        private array $sets,
    ) {
        $before = [$visible];
        foreach ($lines as $i => $line) {
            $before[] = $line->on ? $this->joined($before[$i], $sets[$i]) : $before[$i];
        }
        $this->before = $before;
    }

    public function result(): DocumentSet
    {
        return $this->before[count($this->lines)];
    }

    /**
     * @param  list<list<Variants>>  $variants  what the words of each line were widened to
     * @param  list<list<PartCount>>  $parts  what each line is made of, where it is a group
     * @return list<LineCount> for a line that is off, `without` is the result as it is
     */
    public function counts(array $variants = [], array $parts = []): array
    {
        $counts = [];
        $after = $this->visible;
        for ($i = count($this->lines) - 1; $i >= 0; $i--) {
            $on = $this->lines[$i]->on;
            $counts[] = new LineCount(
                $this->sets[$i]->count(),
                $this->before[$i + 1]->count(),
                $on ? $this->joined($this->before[$i], $after)->count() : $this->result()->count(),
                $variants[$i] ?? [],
                $parts[$i] ?? [],
            );
            $after = $on ? $this->joined($after, $this->sets[$i]) : $after;
        }

        return array_reverse($counts);
    }

    /** @param  list<int>  $left the lines to leave out */
    public function without(array $left): DocumentSet
    {
        if ($left === []) {
            return $this->result();
        }
        $set = $this->visible;
        foreach ($this->lines as $i => $line) {
            if ($line->on && ! in_array($i, $left, true)) {
                $set = $this->joined($set, $this->sets[$i]);
            }
        }

        return $set;
    }

    /** Two sets within what is visible, of which either may be all of that. */
    private function joined(DocumentSet $a, DocumentSet $b): DocumentSet
    {
        return match ($this->visible) {
            $a => $b,
            $b => $a,
            default => $a->and($b),
        };
    }

    /**
     * For a result that is empty: the smallest sets of lines without which it is not, most documents first. No set is
     * in it that a smaller one makes unnecessary.
     *
     * @return list<Rescue>
     */
    public function rescues(): array
    {
        if (! $this->result()->isEmpty()) {
            return [];
        }
        $on = array_keys(array_filter($this->lines, static fn (LedgerLine $line): bool => $line->on));
        if (count($on) > self::MOST_LINES) {
            return [];
        }
        for ($size = 1; $size <= count($on); $size++) {
            $rescues = [];
            foreach (self::choices($on, $size) as $left) {
                $count = $this->without($left)->count();
                if ($count > 0) {
                    $rescues[] = new Rescue($left, $count);
                }
            }
            if ($rescues !== []) {
                usort($rescues, static fn (Rescue $a, Rescue $b): int => $b->count <=> $a->count);

                return $rescues;
            }
        }

        return [];
    }

    /**
     * @param  list<int>  $of
     * @return iterable<list<int>> every choice of `$size` of them
     */
    private static function choices(array $of, int $size): iterable
    {
        if ($size === 0) {
            yield [];

            return;
        }
        foreach ($of as $i => $first) {
            foreach (self::choices(array_slice($of, $i + 1), $size - 1) as $rest) {
                yield [$first, ...$rest];
            }
        }
    }
}
