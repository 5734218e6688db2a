<?php

declare(strict_types=1);

namespace Brenvic\Core\Capture;

/** Reads the table `tesseract … tsv` writes: one row a word, in pixels of the image, with how sure it is of each in per cent. */
final class TesseractTable
{
    private const WORD = 5;

    /** Words it is less sure of than this (per cent) are mostly specks and lines. */
    private const LEAST_SURE = 20.0;

    public static function page(string $table, float $width, float $height): TextPage
    {
        $builder = new PageBuilder($width, $height);
        $line = $paragraph = null;
        $sure = 0.0;
        $letters = 0;
        foreach (explode("\n", $table) as $row) {
            $cells = explode("\t", rtrim($row, "\r"));
            if (count($cells) < 12 || (int) $cells[0] !== self::WORD) {
                continue;
            }
            // What is left out for being too unsure tells of the page, too.
            $length = mb_strlen(trim($cells[11]));
            $sure += $length * max(0.0, (float) $cells[10]);
            $letters += $length;
            if ((float) $cells[10] < self::LEAST_SURE) {
                continue;
            }
            [, , $block, $par, $ln, , $left, $top, $w, $h, , $text] = $cells;
            if ($paragraph !== null && $paragraph !== "{$block}.{$par}") {
                $builder->endParagraph();
            } elseif ($line !== null && $line !== "{$block}.{$par}.{$ln}") {
                $builder->endLine();
            }
            [$paragraph, $line] = ["{$block}.{$par}", "{$block}.{$par}.{$ln}"];
            $builder->word($text, (float) $left, (float) $top, (float) $left + (float) $w, (float) $top + (float) $h);
        }

        return $builder->page($letters === 0 ? null : $sure / $letters);
    }
}
