<?php

declare(strict_types=1);

namespace Brenvic\Core\Capture;

/** One page of a document's text layer. Width and height are 0 for text that has no pages of its own. */
final readonly class TextPage
{
    /**
     * @param  list<WordBox>  $words  empty when the place of words is not known
     * @param  float|null  $confidence  how sure OCR is of its words, in per cent; null for what was not read by it
     */
    public function __construct(
        public float $width,
        public float $height,
        public string $text,
        public array $words = [],
        public ?float $confidence = null,
    ) {
    }
}
