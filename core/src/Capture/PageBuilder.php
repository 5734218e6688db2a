<?php

declare(strict_types=1);

namespace Brenvic\Core\Capture;

/** Puts a page together word by word, so that the text and the boxes agree. */
final class PageBuilder
{
    private string $text = '';

    /** @var list<WordBox> */
    private array $words = [];

    public function __construct(
        private readonly float $width,
        private readonly float $height,
    ) {
    }

    public function word(string $text, float $left, float $top, float $right, float $bottom): void
    {
        $text = trim(mb_scrub($text));
        if ($text === '') {
            return;
        }
        if ($this->text !== '' && ! str_ends_with($this->text, "\n")) {
            $this->text .= ' ';
        }
        $this->words[] = new WordBox(strlen($this->text), strlen($text), $left, $top, $right, $bottom);
        $this->text .= $text;
    }

    public function endLine(): void
    {
        if ($this->text !== '' && ! str_ends_with($this->text, "\n")) {
            $this->text .= "\n";
        }
    }

    public function endParagraph(): void
    {
        $this->endLine();
        if ($this->text !== '' && ! str_ends_with($this->text, "\n\n")) {
            $this->text .= "\n";
        }
    }

    public function page(?float $confidence = null): TextPage
    {
        return new TextPage($this->width, $this->height, rtrim($this->text), $this->words, $confidence);
    }
}
