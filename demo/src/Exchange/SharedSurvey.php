<?php

declare(strict_types=1);

namespace Demo\Exchange;

/** A survey or chart that a neighbour of the Trust shares, with its text. */
final readonly class SharedSurvey
{
    /**
     * @param  array<string, list<string>>  $elements  of Dublin Core
     * @param  list<string>  $paragraphs
     */
    public function __construct(
        public string $number,
        public array $elements,
        public array $paragraphs,
    ) {
    }
}
