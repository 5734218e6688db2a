<?php

declare(strict_types=1);

namespace App\Files;

use App\Support\ExternalProgram;
use App\Support\Refused;
use Brenvic\Core\Capture\FileKind;
use Brenvic\Core\Capture\UnreadableFile;

/** Files as pages: PDFs are, pictures are set on pages of their own size. */
final class FilePages
{
    /** Dots an inch that a picture is taken to have: a scan’s. */
    private const DOTS = 150;

    /** The longest side of a picture’s page, in points: that of A3. */
    private const LONGEST = 1_190;

    /** So a photograph that is turned upright is written, 0 to 100. */
    private const QUALITY = 88;

    /**
     * The path of a PDF with a file’s pages: its own, or one made in `target`.
     *
     * @throws Refused when it has no pages
     */
    public static function pdf(string $path, string $name, string $target): string
    {
        $head = (string) file_get_contents($path, length: 4096);
        $kind = FileKind::detect($head, $name);
        if ($kind === FileKind::Pdf) {
            return $path;
        }
        if ($kind !== FileKind::Image) {
            throw new Refused("“{$name}” has no pages. Pages come from PDFs and pictures.");
        }
        if (Drawing::isNeeded($head)) {
            try {
                Drawing::make($path, $target);
            } catch (UnreadableFile $fault) {
                throw new Refused("“{$name}”: {$fault->getMessage()}");
            }

            return $target;
        }
        $pdf = new PagePdf();
        if (! self::add($pdf, $path, "{$target}.jpg")) {
            throw new Refused("“{$name}” has no pages. Pages come from PDFs and pictures.");
        }
        file_put_contents($target, $pdf->Output('', 'S'));

        return $target;
    }

    /**
     * Adds a picture as a page.
     *
     * @param  string  $upright  where one that a camera held otherwise is written
     * @param  int|null  $dots  dots an inch that it was scanned with, where that is known
     * @return bool whether it is one that can be
     */
    public static function add(PagePdf $pdf, string $path, string $upright, ?int $dots = null): bool
    {
        $size = UprightPicture::size($path);
        if ($size === null || ! in_array(@exif_imagetype($path), [IMAGETYPE_JPEG, IMAGETYPE_PNG, IMAGETYPE_GIF], true)) {
            return false;
        }
        if (UprightPicture::orientation($path) !== 1) {
            $image = UprightPicture::image($path);
            if ($image === null || ! imagejpeg($image, $upright, self::QUALITY)) {
                return false;
            }
            $path = $upright;
        }
        $scale = min(72 / ($dots ?? self::DOTS), self::LONGEST / max($size));
        $pdf->AddPage($size[0] > $size[1] ? 'L' : 'P', [$size[0] * $scale, $size[1] * $scale]);
        $pdf->Image($path, 0, 0, $size[0] * $scale, $size[1] * $scale);

        return true;
    }

    /**
     * Draws a page as a picture.
     *
     * @param  list<string>  $how  options of pdftoppm: resolution, form, part
     * @param  string  $target  the path of the picture, with the ending that its form has
     * @return bool whether there is one
     */
    public static function draw(string $pdf, int $page, array $how, string $target, string $folder): bool
    {
        @unlink($target);
        $stem = substr($target, 0, -strlen(pathinfo($target, PATHINFO_EXTENSION)) - 1);
        ExternalProgram::run(['pdftoppm', '-q', ...$how, '-f', (string) $page, '-l', (string) $page, '-singlefile', $pdf, $stem], $folder);

        return is_file($target);
    }

    /** How many pages a PDF has; none when it cannot be opened. */
    public static function count(string $pdf, string $folder): int
    {
        [$code, $output] = ExternalProgram::run(['qpdf', '--warning-exit-0', '--show-npages', $pdf], $folder);

        return $code === 0 ? (int) trim($output) : 0;
    }

    /**
     * Writes a PDF of pages of others, as they are.
     *
     * @param  list<array{source: string, range: string}>  $runs  paths, and ranges as `1-3,7`
     * @param  array<int, string>  $turns  pages of the result to be turned, as ranges, by degrees clockwise
     * @return bool whether it could be made
     */
    public static function join(array $runs, array $turns, string $target, string $folder): bool
    {
        $arguments = [];
        foreach ($turns as $degrees => $range) {
            $arguments[] = "--rotate=+{$degrees}:{$range}";
        }
        $arguments[] = '--pages';
        foreach ($runs as ['source' => $source, 'range' => $range]) {
            array_push($arguments, $source, $range);
        }
        [$code] = ExternalProgram::run(['qpdf', '--warning-exit-0', '--deterministic-id', '--empty', ...$arguments, '--', $target], $folder);

        return $code === 0;
    }
}
