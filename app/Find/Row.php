<?php

declare(strict_types=1);

namespace App\Find;

/** A row of a result: a document as its columns show it, and where what was looked for stands in it. */
final readonly class Row
{
    /**
     * @param  list<array{string, bool}>  $titlePieces  text, and whether it is what was looked for
     * @param  int  $attachments  those that the person may see
     * @param  FoundDocument|null  $parent  what it is attached to, where that may be seen
     * @param  list<string>  $places  in words
     * @param  int|null  $score  when sorted by relevance
     * @param  int  $copies  near copies that it stands for, where these are counted once
     * @param  array<string, string>  $cells  by field code
     * @param  array<string, list<string>>  $values  normal forms by field code
     */
    public function __construct(
        public FoundDocument $document,
        public array $titlePieces,
        public string $library,
        public string $repository,
        public string $type,
        public int $attachments,
        public ?FoundDocument $parent,
        public array $places,
        public ?int $score,
        public array $cells,
        public array $values,
        public ?FirstHit $hit,
        public int $copies = 0,
    ) {
    }
}
