<?php

declare(strict_types=1);

namespace Brenvic\Core\Procedures;

use Brenvic\Core\Index\DocumentSet;
use Brenvic\Core\Procedures\Plan\Procedure;
use Brenvic\Core\Procedures\Plan\Way;
use Closure;

/**
 * Runs a procedure on many documents at once, as if they arrived now: which of them could come to a step, and which way each
 * decision would take them there. What steps set by themselves is not foreseen: criteria are held against the documents as they are.
 */
final readonly class Trial
{
    /** @param  Closure(string): DocumentSet  $find  the documents that match a criterion in CQL */
    public function __construct(private Procedure $procedure, private Closure $find)
    {
    }

    public function run(DocumentSet $documents): TrialResult
    {
        $reached = array_map(static fn (): DocumentSet => DocumentSet::none(), $this->procedure->steps);
        $first = $this->procedure->first();
        $todo = [];
        if ($first !== null) {
            $reached[$first->code] = $documents;
            $todo[$first->code] = true;
        }
        // Sets only grow, so that circles come to rest.
        while ($todo !== []) {
            $code = (string) array_key_first($todo);
            unset($todo[$code]);
            foreach ($this->procedure->steps[$code]->ways() as $ways) {
                foreach ($this->apart($ways, $reached[$code])[0] as $index => $set) {
                    $to = $ways[$index]->to;
                    if (isset($reached[$to]) && ! $set->minus($reached[$to])->isEmpty()) {
                        $reached[$to] = $reached[$to]->or($set);
                        $todo[$to] = true;
                    }
                }
            }
        }
        $taken = $lost = [];
        foreach ($this->procedure->steps as $code => $step) {
            foreach ($step->ways() as $decision => $ways) {
                [$taken[$code][$decision], $lost[$code][$decision]] = $this->apart($ways, $reached[$code]);
            }
        }

        return new TrialResult($reached, $taken, $lost);
    }

    /**
     * @param  list<Way>  $ways
     * @return array{list<DocumentSet>, DocumentSet} which documents each of them takes, and those that none does
     */
    private function apart(array $ways, DocumentSet $documents): array
    {
        $sets = [];
        foreach ($ways as $way) {
            $set = $way->criterion === '' ? $documents : $documents->and(($this->find)($way->criterion));
            $sets[] = $set;
            $documents = $documents->minus($set);
        }

        return [$sets, $documents];
    }
}
