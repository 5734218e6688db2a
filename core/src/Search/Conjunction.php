<?php

declare(strict_types=1);

namespace Brenvic\Core\Search;

use Brenvic\Core\Index\DocumentSet;
use Brenvic\Core\Query\LedgerLine;

/** The lines of a ledger with their sets, and what their conjunction is with or without some of them. */
final readonly class Conjunction
{
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
            $before[] = $line->on ? $before[$i]->and($sets[$i]) : $before[$i];
        }
        $this->before = $before;
    }

    public function result(): DocumentSet
    {
        return $this->before[count($this->lines)];
    }

    /** @return list<LineCount> for a line that is off, `without` is the result as it is */
    public function counts(): array
    {
        $counts = [];
        $after = $this->visible;
        for ($i = count($this->lines) - 1; $i >= 0; $i--) {
            $on = $this->lines[$i]->on;
            $counts[] = new LineCount(
                $this->sets[$i]->count(),
                $this->before[$i + 1]->count(),
                $on ? $this->before[$i]->and($after)->count() : $this->result()->count(),
            );
            $after = $on ? $after->and($this->sets[$i]) : $after;
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
                $set = $set->and($this->sets[$i]);
            }
        }

        return $set;
    }
}
