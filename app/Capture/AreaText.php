<?php

declare(strict_types=1);

namespace App\Capture;

use App\Files\Drawing;
use App\Files\FilePages;
use App\Models\Document;
use App\Support\ExternalProgram;
use Brenvic\Core\Capture\UnreadableFile;

/** Reads a part of a page by OCR there and then, for who points at words that were not read. */
final readonly class AreaText
{
    /** Dots an inch, and points of the part’s picture at most: a line or a block, not a page. */
    private const DOTS = 200;

    private const MOST = 1_500_000;

    public function __construct(private Drawing $drawing)
    {
    }

    /**
     * @param  float  $left  as a share of the page’s width or height, as it is seen
     * @return string the words, on one line; empty when there are none
     */
    public function of(Document $document, int $page, float $left, float $top, float $right, float $bottom): string
    {
        return ExternalProgram::inFolder(function (string $folder) use ($document, $page, $left, $top, $right, $bottom): string {
            $pdf = $this->drawing->pages($document->sha256, $document->file_name, "{$folder}/pages.pdf");
            [$width, $height] = self::size($pdf, $page, $folder);
            [$x, $y] = [(int) ($left * $width), (int) ($top * $height)];
            [$w, $h] = [(int) (($right - $left) * $width), (int) (($bottom - $top) * $height)];
            if ($w < 4 || $h < 4 || $w * $h > self::MOST) {
                return '';
            }
            $area = ['-x', (string) $x, '-y', (string) $y, '-W', (string) $w, '-H', (string) $h];
            $how = ['-cropbox', '-gray', '-png', '-r', (string) self::DOTS, ...$area];
            if (! FilePages::draw($pdf, $page, $how, "{$folder}/area.png", $folder)) {
                return '';
            }
            [, $text] = ExternalProgram::run(
                ['tesseract', "{$folder}/area.png", '-', '-l', 'eng', '--psm', '6', '--dpi', (string) self::DOTS],
                $folder,
            );

            return trim((string) preg_replace('/\s+/u', ' ', mb_scrub($text)));
        });
    }

    /** @return array{float, float} width and height of a page as it is seen, in dots */
    private static function size(string $pdf, int $page, string $folder): array
    {
        [, $said] = ExternalProgram::run(['pdfinfo', '-f', (string) $page, '-l', (string) $page, '-box', $pdf], $folder);
        if (preg_match('/^Page\s+\d+ CropBox:\s+([-\d.]+)\s+([-\d.]+)\s+([-\d.]+)\s+([-\d.]+)/m', $said, $m) !== 1) {
            throw new UnreadableFile('failed', 'There is no such page.');
        }
        [$width, $height] = [((float) $m[3] - (float) $m[1]) * self::DOTS / 72, ((float) $m[4] - (float) $m[2]) * self::DOTS / 72];

        return preg_match('/^Page\s+\d+ rot:\s+(90|270)/m', $said) === 1 ? [$height, $width] : [$width, $height];
    }
}
