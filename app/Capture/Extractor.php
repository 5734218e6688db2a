<?php

declare(strict_types=1);

namespace App\Capture;

use App\Files\Drawing;
use App\Files\FilePages;
use App\Files\FileStore;
use App\Files\UprightPicture;
use App\Support\ExternalProgram;
use Brenvic\Core\Capture\BesidePages;
use Brenvic\Core\Capture\FileKind;
use Brenvic\Core\Capture\MarkupText;
use Brenvic\Core\Capture\PlainPages;
use Brenvic\Core\Capture\PopplerLayout;
use Brenvic\Core\Capture\RtfText;
use Brenvic\Core\Capture\TesseractTable;
use Brenvic\Core\Capture\TextEncoding;
use Brenvic\Core\Capture\TextPage;
use Brenvic\Core\Capture\UnreadableFile;
use Closure;

/** Reads the text of a stored file, whatever its kind. */
final readonly class Extractor
{
    /** So much of a text is looked at to tell its encoding, in bytes. */
    private const SAMPLE = 1_048_576;

    /** What is said of a PDF some pages of which were read by OCR. */
    public const OCR = 'Pages without text were read by OCR.';

    /** What makes a mail of an MSG file. */
    private const MESSAGES = 'msgconvert';

    /** Kinds that are read as text, up to a length. */
    private const PLAIN = [FileKind::Rtf, FileKind::Html, FileKind::Markdown, FileKind::Table, FileKind::Text];

    public function __construct(private FileStore $files, private MailReader $mail, private OfficeFile $office, private Drawing $drawing)
    {
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
            throw new UnreadableFile(
                'too_large',
                'The file is larger than '.
                    intdiv($limits['read_bytes'], 1024 * 1024).
                    ' MB. It is kept as it is; its text was not read.',
            );
        }
        if ($kind === FileKind::OldOffice) {
            // Nothing but what draws its pages knows how it is written.
            return $this->drawn($sha256, $kind);
        }
        $extracted = match ($kind) {
            FileKind::Pdf => $this->pdf($path),
            FileKind::Image => Drawing::isNeeded($this->files->head($sha256))
                ? $this->pdf($this->drawing->of($sha256))
                : new Extracted([$this->image($path)]),
            FileKind::Word,
            FileKind::Workbook,
            FileKind::Slides,
            FileKind::OpenText,
            FileKind::OpenSheet,
            FileKind::OpenSlides => new Extracted(PlainPages::of($this->office->text($path, $kind))),
            FileKind::Rtf => new Extracted(PlainPages::of(RtfText::of($this->bytes($path)))),
            FileKind::Mail => $this->mail->read($path),
            FileKind::Message => $this->message($path),
            FileKind::Mailbox => $this->mail->readMailbox($path),
            FileKind::Html => $this->decoded($path, MarkupText::ofHtml(...)),
            FileKind::Markdown, FileKind::Table, FileKind::Text => $this->decoded($path, static fn (string $text): string => $text),
            FileKind::Other => throw new UnreadableFile('unknown', 'Brenvic does not know this kind of file, so its text was not read.'),
        };

        $left = trim("{$extracted->left} ".$this->part($path, $kind, $bytes, count($extracted->pages)));

        return new Extracted(
            array_slice($extracted->pages, 0, $limits['pages']),
            $extracted->attachments,
            trim("{$extracted->note} {$left}"),
            $extracted->exchange,
            $extracted->title,
            $left,
        );
    }

    /**
     * An office file as its pages are drawn, and behind them what they do not show.
     *
     * @throws UnreadableFile
     */
    public function drawn(string $sha256, FileKind $kind): Extracted
    {
        $pdf = $this->drawing->of($sha256, $kind);
        $drawn = $this->pdf($pdf);
        $text = $kind === FileKind::OldOffice ? '' : $this->extract($sha256, $kind)->text();
        $beside = BesidePages::of($text, $drawn->pages);
        $all = $beside === '' ? $drawn->pages : [...$drawn->pages, ...PlainPages::of($beside)];
        $left = $this->part($pdf, FileKind::Pdf, 0, count($drawn->pages));

        return new Extracted($all, note: trim("{$drawn->note} {$left}"), left: $left, drawn: count($drawn->pages));
    }

    /**
     * Some pages of a PDF.
     *
     * @param  int  $first  from 1
     * @param  float  $seconds  after which no further page is read by OCR; there is one at least
     * @return array{pages: list<TextPage>, ocr: bool} fewer pages than asked for when the time was over, or there are no more
     *
     * @throws UnreadableFile
     */
    public function pages(string $sha256, int $first, int $count, float $seconds): array
    {
        return $this->pdfPages($this->files->path($sha256), $first, $first + $count - 1, microtime(true) + $seconds);
    }

    /** What is said of a PDF whose first pages were read. */
    public function leftOf(string $sha256, int $read): string
    {
        return $this->part($this->files->path($sha256), FileKind::Pdf, 0, $read);
    }

    /** How many pages a PDF has; 0 when that cannot be told. */
    public function pageCount(string $path): int
    {
        return ExternalProgram::inFolder(static function (string $folder) use ($path): int {
            [$code, $output] = ExternalProgram::run(['pdfinfo', $path], $folder);

            return $code === 0 && preg_match('/^Pages:\s+(\d+)$/m', $output, $m) === 1 ? (int) $m[1] : 0;
        });
    }

    /** How much of a file was read, where that is not all of it. */
    private function part(string $path, FileKind $kind, int $bytes, int $pages): string
    {
        $limits = config('brenvic.limits');
        $spaced = static fn (int $number): string => number_format($number, 0, '.', "\u{202F}");
        $all = match ($kind) {
            // pdftotext was told where to stop.
            FileKind::Pdf => $pages < $limits['pages'] ? $pages : $this->pageCount($path),
            default => $pages,
        };
        if ($all > $limits['pages']) {
            return "Only the first {$spaced($limits['pages'])} of {$spaced($all)} pages were read; words further on are not found.";
        }
        if (in_array($kind, self::PLAIN, true) && $bytes > $limits['text_bytes']) {
            $mb = static fn (int $bytes): string => $spaced((int) round($bytes / 1_000_000));

            return "Only the first {$mb($limits['text_bytes'])} of {$mb($bytes)} MB were read; words further on are not found.";
        }

        return '';
    }

    private function bytes(string $path): string
    {
        return (string) file_get_contents($path, length: config('brenvic.limits.text_bytes'));
    }

    /** @param  Closure(string): string  $read */
    private function decoded(string $path, Closure $read): Extracted
    {
        $decoded = TextEncoding::decoded($this->bytes($path), self::guess(...));

        return new Extracted(PlainPages::of($read($decoded->text)), note: $decoded->note());
    }

    /** The encoding that a text is in by the frequencies of its letters; empty when they do not tell. */
    private static function guess(string $bytes): string
    {
        return ExternalProgram::inFolder(static function (string $folder) use ($bytes): string {
            file_put_contents("{$folder}/text", substr($bytes, 0, self::SAMPLE));
            [$code, $name] = ExternalProgram::run(['uchardet', "{$folder}/text"], $folder);
            $name = trim($name);

            return $code === 0 && preg_match('/^[A-Za-z][\w.:-]*$/D', $name) === 1 && strcasecmp($name, 'unknown') !== 0 ? $name : '';
        });
    }

    private function pdf(string $path): Extracted
    {
        ['pages' => $pages, 'ocr' => $isOcr] = $this->pdfPages($path, 1, (int) config('brenvic.limits.pages'), INF);

        return new Extracted($pages, note: $isOcr ? self::OCR : '');
    }

    /** @throws UnreadableFile */
    private function message(string $path): Extracted
    {
        if (! ExternalProgram::isThere(self::MESSAGES)) {
            throw new UnreadableFile('unknown', 'MSG mails are not read on this server. The mail is kept as it is.');
        }

        return ExternalProgram::inFolder(function (string $folder) use ($path): Extracted {
            [$code] = ExternalProgram::run([self::MESSAGES, '--outfile', "{$folder}/message.eml", $path], $folder);
            // Of what is damaged it makes a mail that says nothing.
            $mail = $code === 0 ? (string) @file_get_contents("{$folder}/message.eml", length: 65_536) : '';
            [$head, $body] = [...explode("\n\n", str_replace("\r", '', $mail), 2), ''];
            if (trim($body) === '' && preg_match('/^(?:From|To|Cc|Subject|Message-ID): /mi', $head) !== 1) {
                throw new UnreadableFile('damaged', 'The mail is damaged and cannot be opened. It is kept as it is.');
            }

            return $this->mail->read("{$folder}/message.eml");
        });
    }

    /** @return array{pages: list<TextPage>, ocr: bool} */
    private function pdfPages(string $path, int $first, int $last, float $until): array
    {
        return ExternalProgram::inFolder(function (string $folder) use ($path, $first, $last, $until): array {
            [$code, , $errors] = ExternalProgram::run(
                [
                    'pdftotext',
                    '-q',
                    '-cropbox',
                    '-bbox-layout',
                    '-f',
                    (string) $first,
                    '-l',
                    (string) $last,
                    $path,
                    "{$folder}/layout.html",
                ],
                $folder,
            );
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
            // A page is what its crop box shows of it, as on the screen. The words stand where they are seen; the size is told as it was before the page was turned.
            foreach ($this->turned($path, $first, count($pages), $folder) as $i) {
                $pages[$i] = new TextPage($pages[$i]->height, $pages[$i]->width, $pages[$i]->text, $pages[$i]->words);
            }
            $isOcr = false;
            foreach ($pages as $i => $page) {
                if ($page->text !== '') {
                    continue;
                }
                if ($i > 0 && microtime(true) > $until) {
                    return ['pages' => array_slice($pages, 0, $i), 'ocr' => $isOcr];
                }
                $pages[$i] = $this->scannedPage($path, $first + $i, $page, $folder);
                $isOcr = true;
            }

            return ['pages' => array_values($pages), 'ocr' => $isOcr];
        });
    }

    /** @return list<int> which of some pages are turned by one quarter or three, counted from 0 */
    private function turned(string $path, int $first, int $count, string $folder): array
    {
        [, $output] = ExternalProgram::run(['pdfinfo', '-f', (string) $first, '-l', (string) ($first + $count - 1), $path], $folder);
        preg_match_all('/^Page\s+(\d+) rot:\s+(90|270)$/m', $output, $m);

        return array_values(
            array_filter(
                array_map(static fn (string $n): int => (int) $n - $first, $m[1]),
                static fn (int $i): bool => $i >= 0 && $i < $count,
            ),
        );
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
        if (! FilePages::draw($path, $number, ['-cropbox', '-r', (string) $dots, '-gray', '-png'], "{$folder}/page.png", $folder)) {
            return $page;
        }
        $read = $this->ocr("{$folder}/page.png", 0, 0);
        @unlink("{$folder}/page.png");
        $scale = 72 / $dots;
        $words = array_map(
            static fn ($w) => new \Brenvic\Core\Capture\WordBox(
                $w->offset,
                $w->length,
                $w->left * $scale,
                $w->top * $scale,
                $w->right * $scale,
                $w->bottom * $scale,
            ),
            $read->words,
        );

        return new TextPage($page->width, $page->height, $read->text, $words, $read->confidence);
    }

    private function image(string $path): TextPage
    {
        $size = UprightPicture::size($path);
        if ($size === null) {
            throw new UnreadableFile('damaged', 'The image is damaged and cannot be opened. It is kept as it is.');
        }
        if (config('brenvic.limits.image_pixels') < $size[0] * $size[1]) {
            throw new UnreadableFile('too_large', 'The image has more points than are read by OCR.');
        }

        if (UprightPicture::orientation($path) === 1) {
            return $this->ocr($path, (float) $size[0], (float) $size[1]);
        }

        return ExternalProgram::inFolder(function (string $folder) use ($path, $size): TextPage {
            $image = UprightPicture::image($path);
            if ($image === null || ! imagepng($image, "{$folder}/upright.png", 1)) {
                throw new UnreadableFile('damaged', 'The image is damaged and cannot be opened. It is kept as it is.');
            }

            return $this->ocr("{$folder}/upright.png", (float) $size[0], (float) $size[1]);
        });
    }

    private function ocr(string $image, float $width, float $height): TextPage
    {
        return ExternalProgram::inFolder(static function (string $folder) use ($image, $width, $height): TextPage {
            [$code, , $errors] = ExternalProgram::run(['tesseract', $image, "{$folder}/read", '-l', 'eng', '--psm', '3', 'tsv'], $folder);
            if ($code !== 0) {
                throw new UnreadableFile(
                    stripos($errors, 'image') !== false ? 'damaged' : 'failed',
                    'The text of the image could not be read.',
                );
            }

            return TesseractTable::page((string) file_get_contents("{$folder}/read.tsv"), $width, $height);
        });
    }
}
