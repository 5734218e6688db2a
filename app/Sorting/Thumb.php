<?php

declare(strict_types=1);

namespace App\Sorting;

use App\Files\Drawing;
use App\Files\FilePages;
use App\Files\FileStore;
use App\Files\UprightPicture;
use App\Models\Document;
use App\Support\ExternalProgram;
use Brenvic\Core\Capture\FileKind;

/** First pages in small, made when they are first seen and kept beside the file. */
final readonly class Thumb
{
    /** Points of the longer side. */
    private const SIDE = 320;

    private const QUALITY = 78;

    public function __construct(private FileStore $files, private Drawing $drawing)
    {
    }

    /** The path of the picture; null where there is no page to draw. */
    public function of(Document $document): ?string
    {
        $target = $this->files->thumb($document->sha256);
        if (! is_file($target)) {
            ExternalProgram::inFolder(function (string $folder) use ($document): void {
                $made = $this->draw($document, $folder);
                $made === null || $this->files->takeThumb($document->sha256, $made);
            });
        }

        return is_file($target) ? $target : null;
    }

    private function draw(Document $document, string $folder): ?string
    {
        $path = $this->files->path($document->sha256);
        $kind = FileKind::from($document->file_kind);
        $isDrawn = $document->drawn_pages > 0 || ($kind === FileKind::Image && Drawing::isNeeded($this->files->head($document->sha256)));
        if ($isDrawn || $kind === FileKind::Pdf) {
            $path = $isDrawn ? $this->drawing->of($document->sha256, $kind) : $path;
            $how = ['-cropbox', '-jpeg', '-scale-to', (string) self::SIDE];

            return FilePages::draw($path, 1, $how, "{$folder}/page.jpg", $folder) ? "{$folder}/page.jpg" : null;
        }
        $size = $kind === FileKind::Image ? UprightPicture::size($path) : null;
        if ($size === null || config('brenvic.limits.image_pixels') < $size[0] * $size[1]) {
            return null;
        }
        $image = UprightPicture::image($path);
        $scale = self::SIDE / max($size);
        $small = $image === null ? false : imagescale($image, max(1, (int) ($size[0] * $scale)), max(1, (int) ($size[1] * $scale)));

        return $small !== false && imagejpeg($small, "{$folder}/page.jpg", self::QUALITY) ? "{$folder}/page.jpg" : null;
    }
}
