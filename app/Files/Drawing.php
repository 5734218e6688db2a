<?php

declare(strict_types=1);

namespace App\Files;

use App\Support\ExternalProgram;
use App\Support\Refused;
use Brenvic\Core\Capture\FileKind;
use Brenvic\Core\Capture\UnreadableFile;

/**
 * Files whose pages no browser shows (TIFF, HEIC, office files) as a PDF of the same pages: made once, beside the file, and
 * read, shown and redacted as any other PDF.
 */
final readonly class Drawing
{
    private const TIFF = ["II*\0", "MM\0*", "II+\0", "MM\0+"];

    /** What makes a picture of what a telephone takes. */
    private const HEIC = 'heif-convert';

    public function __construct(private FileStore $files)
    {
    }

    /** Whether the file that begins so is a picture that has to be drawn to be seen. */
    public static function isNeeded(string $head): bool
    {
        return in_array(substr($head, 0, 4), self::TIFF, true) || FileKind::isHeic($head);
    }

    /**
     * The path of the PDF of a stored file: of a picture, or of an office file of a kind.
     *
     * @throws UnreadableFile
     */
    public function of(string $sha256, FileKind $kind = FileKind::Image): string
    {
        $target = $this->files->drawing($sha256);
        if (! is_file($target)) {
            $source = $this->files->path($sha256);
            ExternalProgram::inFolder(function (string $folder) use ($sha256, $source, $kind): void {
                $kind->isOffice() ? OfficePages::make($source, $kind, "{$folder}/drawn.pdf") : self::make($source, "{$folder}/drawn.pdf");
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
        if (FileKind::isHeic((string) file_get_contents($source, length: 64))) {
            self::makeOfHeic($source, $target, $folder);

            return;
        }
        // It leaves with a fault for odd tags too, with a PDF that is whole.
        ExternalProgram::run(['tiff2pdf', '-o', $target, $source], $folder);
        [$code] = is_file($target) ? ExternalProgram::run(['pdfinfo', $target], $folder) : [1];
        if ($code !== 0) {
            throw new UnreadableFile('damaged', 'The image is damaged and cannot be opened. It is kept as it is.');
        }
    }

    /**
     * The first picture of a HEIC file: further ones are its depths, or takes of the same moment.
     *
     * @throws UnreadableFile
     */
    private static function makeOfHeic(string $source, string $target, string $folder): void
    {
        if (! ExternalProgram::isThere(self::HEIC)) {
            throw new UnreadableFile('unknown', 'HEIC images are not read on this server. The image is kept as it is.');
        }
        // It is turned upright as it is unpacked; what is told of it beside the picture (where it was taken) stays behind.
        ExternalProgram::run([self::HEIC, '-q', '90', $source, "{$folder}/picture.jpg"], $folder);
        $made = (glob("{$folder}/picture*.jpg") ?: [])[0] ?? null;
        $pdf = new PagePdf();
        if ($made === null || ! FilePages::add($pdf, $made, "{$folder}/upright.jpg")) {
            throw new UnreadableFile('damaged', 'The image is damaged and cannot be opened. It is kept as it is.');
        }
        file_put_contents($target, $pdf->Output('', 'S'));
    }
}
