<?php

declare(strict_types=1);

namespace Brenvic\Core\Search\Answer;

use Brenvic\Core\Index\DocumentSet;
use Brenvic\Core\Search\Words\RankedNearness;
use Brenvic\Core\Search\Words\RankedTerm;
use Brenvic\Core\Search\Words\Variants;

/** What one line of a ledger found, and what its words were and how they rank. */
final readonly class FoundLine
{
    /**
     * @param  DocumentSet  $set  what the line lets through, within what the asker may see
     * @param  list<RankedTerm>  $ranked
     * @param  list<RankedNearness>  $nearness
     * @param  list<Variants>  $variants
     */
    public function __construct(
        public DocumentSet $set,
        public array $ranked,
        public array $nearness,
        public array $variants,
    ) {
    }

    /** @return array{array<int, string>, string} plain values, which are cheap to keep in shared memory */
    public function packed(): array
    {
        return [$this->set->segments, serialize([$this->ranked, $this->nearness, $this->variants])];
    }

    /** @param  array{array<int, string>, string}  $packed */
    public static function unpacked(array $packed): self
    {
        /** @var array{list<RankedTerm>, list<RankedNearness>, list<Variants>} $words */
        $words = unserialize($packed[1], ['allowed_classes' => [RankedTerm::class, RankedNearness::class, Variants::class]]);

        return new self(new DocumentSet($packed[0]), ...$words);
    }
}
