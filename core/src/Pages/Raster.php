<?php

declare(strict_types=1);

namespace Brenvic\Core\Pages;

use UnexpectedValueException;

/** A page as a grid of grey points, one byte each, 0 for black. */
final readonly class Raster
{
    public function __construct(public int $width, public int $height, public string $grey)
    {
        if ($width < 1 || $height < 1 || strlen($grey) !== $width * $height) {
            throw new UnexpectedValueException('The picture of the page is not whole.');
        }
    }

    /** Reads a portable graymap with one byte a point (PGM, “P5”). */
    public static function pgm(string $file): self
    {
        if (preg_match('/^P5\s(?:#[^\n]*\n)*\s*(\d+)\s+(\d+)\s+255\s/', $file, $m) !== 1) {
            throw new UnexpectedValueException('The picture of the page is no graymap.');
        }

        return new self((int) $m[1], (int) $m[2], substr($file, strlen($m[0])));
    }

    /** The tone of the paper: what most points of the page have. */
    public function paper(): int
    {
        $counts = count_chars($this->grey, 1);
        arsort($counts);
        $most = (int) array_key_first($counts);

        // Paper that is scanned has some tones beside each other.
        return min(255, max($most, $most === 255 ? 255 : $most + 2));
    }
}
