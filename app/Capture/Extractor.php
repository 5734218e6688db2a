<?php

declare(strict_types=1);

namespace App\Capture;

use App\Files\FileStore;
use Brenvic\Core\Capture\FileKind;
use Brenvic\Core\Capture\MarkupText;
use Brenvic\Core\Capture\PlainPages;
use Brenvic\Core\Capture\PopplerLayout;
use Brenvic\Core\Capture\TesseractTable;
use Brenvic\Core\Capture\TextPage;
use Brenvic\Core\Capture\UnreadableFile;
use ZipArchive;

/** Reads the text of a stored file, whatever its kind. */
final readonly class Extractor
{
    public function __construct(
        private FileStore $files,
        private MailReader $mail,
    ) {
    }

    /** @throws UnreadableFile */
    public function extract(string $sha256, FileKind $kind): Extracted
    {
        $path = $this->files->path($sha256);
        $bytes = (int) @filesize($path);
        if ($bytes === 0) {
            throw new UnreadableFile('empty', 'The file is empty (0 bytes).');
        }
        $limits = config('brenvic.limits');
        if ($bytes > $limits['read_bytes']) {
            throw new UnreadableFile('too_large', 'The file is larger than '.intdiv($limits['read_bytes'], 1024 * 1024).' MB. It is kept as it is; its text was not read.');
        }
        $extracted = match ($kind) {
            FileKind::Pdf => $this->pdf($path),
            FileKind::Image => new Extracted([$this->image($path)]),
            FileKind::Word => new Extracted(PlainPages::of(MarkupText::ofWordDocument($this->member($path, 'word/document.xml')))),
            FileKind::Mail => $this->mail->read($path),
            FileKind::Html => new Extracted(PlainPages::of(MarkupText::ofHtml($this->text($path)))),
            FileKind::Markdown, FileKind::Table, FileKind::Text => new Extracted(PlainPages::of($this->text($path))),
            FileKind::Other => throw new UnreadableFile('unknown', 'Brenvic does not know this kind of file, so its text was not read.'),
        };

        return new Extracted(array_slice($extracted->pages, 0, $limits['pages']), $extracted->attachments, $extracted->note, $extracted->exchange);
    }

    private function text(string $path): string
    {
        return (string) file_get_contents($path, length: config('brenvic.limits.text_bytes'));
    }

    private function pdf(string $path): Extracted
    {
        return ExternalProgram::inFolder(function (string $folder) use ($path): Extracted {
            $last = (string) config('brenvic.limits.pages');
            [$code, , $errors] = ExternalProgram::run(['pdftotext', '-q', '-bbox-layout', '-l', $last, $path, "{$folder}/layout.html"], $folder);
            if ($code !== 0) {
                throw $this->pdfFault($path, $folder, $errors);
            }
            $pages = [];
            foreach (PopplerLayout::pages((string) file_get_contents("{$folder}/layout.html")) as $page) {
                $pages[] = $page;
            }
            if ($pages === []) {
                throw new UnreadableFile('damaged', 'The PDF has no page that can be read.');
            }
            // The words stand where they are seen; the size is told as it was before the page was turned.
            foreach ($this->turned($path, count($pages), $folder) as $i) {
                $pages[$i] = new TextPage($pages[$i]->height, $pages[$i]->width, $pages[$i]->text, $pages[$i]->words);
            }
            $blank = array_keys(array_filter($pages, static fn (TextPage $page): bool => $page->text === ''));
            foreach ($blank as $i) {
                $pages[$i] = $this->scannedPage($path, $i + 1, $pages[$i], $folder);
            }

            return new Extracted(array_values($pages), note: $blank === [] ? '' : 'ocr');
        });
    }

    /** @return list<int> pages, from 0, that are turned by one quarter or three */
    private function turned(string $path, int $count, string $folder): array
    {
        [, $output] = ExternalProgram::run(['pdfinfo', '-f', '1', '-l', (string) $count, $path], $folder);
        preg_match_all('/^Page\s+(\d+) rot:\s+(90|270)$/m', $output, $m);

        return array_values(array_filter(array_map(static fn (string $n): int => (int) $n - 1, $m[1]), static fn (int $i): bool => $i < $count));
    }

    private function pdfFault(string $path, string $folder, string $errors): UnreadableFile
    {
        [, , $more] = ExternalProgram::run(['pdfinfo', $path], $folder);

        return stripos($errors.$more, 'password') !== false || stripos($errors.$more, 'encrypt') !== false
            ? new UnreadableFile('encrypted', 'The PDF is protected by a password. It is kept as it is; its text was not read.')
            : new UnreadableFile('damaged', 'The PDF is damaged and cannot be opened. It is kept as it is.');
    }

    /** A page without a text layer is drawn and read by OCR; its boxes are brought back to points. */
    private function scannedPage(string $path, int $number, TextPage $page, string $folder): TextPage
    {
        $dots = 150;
        ExternalProgram::run(['pdftoppm', '-q', '-r', (string) $dots, '-f', (string) $number, '-l', (string) $number, '-gray', '-png', '-singlefile', $path, "{$folder}/page"], $folder);
        if (! is_file("{$folder}/page.png")) {
            return $page;
        }
        $read = $this->ocr("{$folder}/page.png", 0, 0);
        @unlink("{$folder}/page.png");
        $scale = 72 / $dots;
        $words = array_map(static fn ($w) => new \Brenvic\Core\Capture\WordBox($w->offset, $w->length, $w->left * $scale, $w->top * $scale, $w->right * $scale, $w->bottom * $scale), $read->words);

        return new TextPage($page->width, $page->height, $read->text, $words);
    }

    private function image(string $path): TextPage
    {
        $size = @getimagesize($path);
        if ($size === false || $size[0] < 1 || $size[1] < 1) {
            throw new UnreadableFile('damaged', 'The image is damaged and cannot be opened. It is kept as it is.');
        }
        if (config('brenvic.limits.image_pixels') < $size[0] * $size[1]) {
            throw new UnreadableFile('too_large', 'The image has more points than are read by OCR.');
        }

        return $this->ocr($path, (float) $size[0], (float) $size[1]);
    }

    private function ocr(string $image, float $width, float $height): TextPage
    {
        return ExternalProgram::inFolder(static function (string $folder) use ($image, $width, $height): TextPage {
            [$code, , $errors] = ExternalProgram::run(['tesseract', $image, "{$folder}/read", '-l', 'eng', '--psm', '3', 'tsv'], $folder);
            if ($code !== 0) {
                throw new UnreadableFile(stripos($errors, 'image') !== false ? 'damaged' : 'failed', 'The text of the image could not be read.');
            }

            return TesseractTable::page((string) file_get_contents("{$folder}/read.tsv"), $width, $height);
        });
    }

    /** One member of a compressed file, never more than the limit however small it was packed. */
    private function member(string $path, string $name): string
    {
        $zip = new ZipArchive;
        if ($zip->open($path, ZipArchive::RDONLY) !== true) {
            throw new UnreadableFile('damaged', 'The document is damaged and cannot be opened. It is kept as it is.');
        }
        try {
            $limit = config('brenvic.limits.expanded_bytes');
            $stream = $zip->getStream($name);
            if ($stream === false) {
                throw new UnreadableFile('damaged', 'The document holds no text part, so it is not a Word document that can be read.');
            }
            $contents = (string) stream_get_contents($stream, $limit + 1);
            if (strlen($contents) > $limit) {
                throw new UnreadableFile('too_large', 'The document unpacks to more than the limit. It is kept as it is; its text was not read.');
            }

            return $contents;
        } finally {
            $zip->close();
        }
    }
}
