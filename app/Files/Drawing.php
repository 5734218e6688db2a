<?php

declare(strict_types=1);

namespace App\Files;

use App\Support\ExternalProgram;
use App\Support\Refused;
use Brenvic\Core\Capture\UnreadableFile;

/**
 * Pictures that no browser shows and that may have many pages (TIFF), as a PDF of the same pages: made once, beside the file,
 * and read, shown and redacted as any other PDF.
 */
final readonly class Drawing
{
    private const TIFF = ["II*\0", "MM\0*", "II+\0", "MM\0+"];

    public function __construct(private FileStore $files)
    {
    }

    public static function isNeeded(string $head): bool
    {
        return in_array(substr($head, 0, 4), self::TIFF, true);
    }

    /**
     * The path of the PDF of a stored picture.
     *
     * @throws UnreadableFile
     */
    public function of(string $sha256): string
    {
        $target = $this->files->drawing($sha256);
        if (! is_file($target)) {
            $source = $this->files->path($sha256);
            ExternalProgram::inFolder(function (string $folder) use ($sha256, $source): void {
                self::make($source, "{$folder}/drawn.pdf");
                $this->files->takeDrawing($sha256, "{$folder}/drawn.pdf");
            });
        }

        return $target;
    }

    /**
     * The path of a PDF with the pages of a stored file: its own, the one drawn of it, or one made in `target`.
     *
     * @throws Refused|UnreadableFile when it has none
     */
    public function pages(string $sha256, string $name, string $target): string
    {
        return self::isNeeded($this->files->head($sha256))
            ? $this->of($sha256)
            : FilePages::pdf($this->files->path($sha256), $name, $target);
    }

    /**
     * Writes a PDF of a picture’s pages.
     *
     * @throws UnreadableFile
     */
    public static function make(string $source, string $target): void
    {
        $folder = dirname($target);
        // It leaves with a fault for odd tags too, with a PDF that is whole.
        ExternalProgram::run(['tiff2pdf', '-o', $target, $source], $folder);
        [$code] = is_file($target) ? ExternalProgram::run(['pdfinfo', $target], $folder) : [1];
        if ($code !== 0) {
            throw new UnreadableFile('damaged', 'The image is damaged and cannot be opened. It is kept as it is.');
        }
    }
}
