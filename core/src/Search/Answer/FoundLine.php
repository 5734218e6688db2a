<?php

declare(strict_types=1);

namespace Brenvic\Core\Search\Answer;

use Brenvic\Core\Index\DocumentSet;
use Brenvic\Core\Search\Words\RankedNearness;
use Brenvic\Core\Search\Words\RankedTerm;
use Brenvic\Core\Search\Words\Variants;
use Brenvic\Core\Search\Words\WordsMet;

/** What one line of a ledger found, and what its words were and how they rank. */
final readonly class FoundLine
{
    /**
     * @param  DocumentSet  $set  what the line lets through, within what the asker may see
     * @param  list<PlanStep>  $plan  how it was evaluated, when that was asked for
     */
    public function __construct(
        public DocumentSet $set,
        public WordsMet $words,
        public array $plan = [],
    ) {
    }

    /** @return array{array<int, string>, string} plain values, which are cheap to keep in shared memory */
    public function packed(): array
    {
        return [$this->set->segments, serialize($this->words)];
    }

    /** @param  array{array<int, string>, string}  $packed */
    public static function unpacked(array $packed): self
    {
        /** @var WordsMet $words */
        $words = unserialize($packed[1], [
            'allowed_classes' => [WordsMet::class, RankedTerm::class, RankedNearness::class, Variants::class],
        ]);

        return new self(new DocumentSet($packed[0]), $words);
    }
}
