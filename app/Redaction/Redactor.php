<?php

declare(strict_types=1);

namespace App\Redaction;

use App\Files\Drawing;
use App\Files\FileStore;
use App\Files\PagePdf;
use App\Files\PageStore;
use App\Files\UprightPicture;
use App\Index\RedactedTexts;
use App\Models\Document;
use App\Models\Page;
use App\Models\Redaction;
use App\Support\ExternalProgram;
use App\Support\Refused;
use Brenvic\Core\Capture\FileKind;
use Brenvic\Core\Capture\UnreadableFile;
use Brenvic\Core\Index\Tokenizer;
use Brenvic\Core\Redaction\RedactedPage;
use GdImage;

/**
 * Makes redacted copies from which nothing that was removed can be got back. A page of a PDF that something is removed
 * from becomes a picture with the rectangles burnt in, under a text layer of the words that are left; other pages are
 * carried over by what they show alone, so that attachments, forms, scripts, hidden data, earlier revisions and the
 * document's own metadata stay behind. Pictures are drawn anew; of everything else the text is the copy.
 */
final readonly class Redactor
{
    /** Dots an inch of a burnt page. */
    private const DOTS = 200;

    /** A page is drawn coarser when it would have more pixels. */
    private const PIXELS = 40_000_000;

    /** Pages made at once: what is held in memory. */
    private const CHUNK = 25;

    private const FONT = '/usr/share/fonts/truetype/dejavu/DejaVuSans.ttf';

    public function __construct(private FileStore $files, private Redactions $redactions, private Drawing $drawing)
    {
    }

    public function make(Document $document): void
    {
        $stamp = $this->redactions->stamp($document);
        try {
            if (Redaction::query()->where('document_id', $document->id)->where('is_lost', true)->exists()) {
                throw new UnreadableFile('failed', 'What was removed from an earlier version was not found in this one.');
            }
            ExternalProgram::inFolder(
                fn (string $folder) => $this->redactions->keep(
                    $document,
                    $stamp,
                    $this->copy($document, $folder),
                    self::nameOf($document),
                    '',
                ),
            );
        } catch (UnreadableFile|Refused $fault) {
            $this->redactions->keep($document, $stamp, null, '', $fault->getMessage());
        }
    }

    /** What the redacted copy of a document is called as a file. */
    public static function nameOf(Document $document): string
    {
        $ending = match (FileKind::from($document->file_kind)) {
            FileKind::Pdf => 'pdf',
            FileKind::Image => preg_match('/\.(?:tiff?|hei[cf])$/i', $document->file_name) === 1 ? 'pdf' : 'png',
            default => $document->drawn_pages > 0 ? 'pdf' : 'txt',
        };

        return pathinfo($document->file_name, PATHINFO_FILENAME)." (redacted).{$ending}";
    }

    private function copy(Document $document, string $folder): string
    {
        $source = $this->files->whole($document->sha256);
        $pages = $this->pages($document);
        $kind = FileKind::from($document->file_kind);
        if ($document->drawn_pages > 0) {
            // What is on no page of it is in no copy.
            $drawn = array_filter($pages, static fn (int $number): bool => $number <= $document->drawn_pages, ARRAY_FILTER_USE_KEY);

            return $this->pdf($this->drawing->of($document->sha256, $kind), $drawn, $document->drawn_pages, $folder);
        }

        return match ($kind) {
            FileKind::Pdf => $this->pdf($source, $pages, $document->page_count, $folder),
            FileKind::Image => Drawing::isNeeded($this->files->head($document->sha256))
                ? $this->pdf($this->drawing->of($document->sha256), $pages, $document->page_count, $folder)
                : $this->picture($source, $pages[1] ?? throw new UnreadableFile('failed', 'The picture has no page.'), $folder),
            default => $this->text($document, $pages, $folder),
        };
    }

    /** @return array<int, RedactedPage> those that something is removed from, by number */
    private function pages(Document $document): array
    {
        $pages = [];
        $marks = Redaction::query()->where('document_id', $document->id)->get()->groupBy('page');
        foreach (Page::query()->where('document_id', $document->id)->whereIn('number', $marks->keys())->orderBy('number')->get() as $row) {
            $pages[$row->number] = RedactedPage::of(PageStore::page($row), RedactedTexts::marks($marks->get($row->number, collect())));
        }

        return $pages;
    }

    /** @param  array<int, RedactedPage>  $pages */
    private function text(Document $document, array $pages, string $folder): string
    {
        $texts = [];
        foreach (
            Page::query()
                ->where('document_id', $document->id)
                ->orderBy('number')
                ->get(['number', 'text']) as $row
        ) {
            $texts[] = isset($pages[$row->number]) ? $pages[$row->number]->page->text : $row->text;
        }
        file_put_contents("{$folder}/copy.txt", implode("\n\n", $texts)."\n");

        return "{$folder}/copy.txt";
    }

    private function picture(string $source, RedactedPage $page, string $folder): string
    {
        $image = UprightPicture::image($source);
        if ($image === null) {
            throw new UnreadableFile('failed', 'The picture cannot be drawn, so no redacted copy can be made of it.');
        }
        $this->burn($image, $page);
        imagepng($image, "{$folder}/copy.png", 6);

        return "{$folder}/copy.png";
    }

    /** @param  array<int, RedactedPage>  $pages */
    private function pdf(string $source, array $pages, int $count, string $folder): string
    {
        $clean = array_values(array_diff(range(1, $count), array_keys($pages)));
        if ($clean !== []) {
            // First by their numbers, so that pictures and fonts of the other pages are no part of what is carried over.
            $this->run(
                [
                    'qpdf',
                    '--warning-exit-0',
                    '--flatten-annotations=all',
                    '--remove-unreferenced-resources=yes',
                    '--object-streams=disable',
                    '--empty',
                    '--pages',
                    $source,
                    implode(',', $clean),
                    '--',
                    "{$folder}/clean.pdf",
                ],
                $folder,
            );
        }
        $placeOfClean = array_flip($clean);
        $parts = [];
        foreach (array_chunk(range(1, $count), self::CHUNK) as $i => $chunk) {
            $pdf = new PagePdf();
            $hasClean = array_intersect_key($placeOfClean, array_flip($chunk)) !== [];
            if ($hasClean) {
                $pdf->setSourceFile("{$folder}/clean.pdf");
            }
            foreach ($chunk as $number) {
                if (isset($pages[$number])) {
                    $this->burntPage($pdf, $source, $number, $pages[$number], $folder);
                } else {
                    $template = $pdf->importPage($placeOfClean[$number] + 1);
                    $size = $pdf->getTemplateSize($template);
                    if (! is_array($size)) {
                        throw new UnreadableFile('failed', "Page {$number} cannot be carried over.");
                    }
                    $pdf->AddPage($size['orientation'], [$size['width'], $size['height']]);
                    $pdf->useTemplate($template);
                }
            }
            $parts[] = "{$folder}/part-{$i}.pdf";
            file_put_contents("{$folder}/part-{$i}.pdf", $pdf->Output('', 'S'));
            unset($pdf);
        }
        $this->run(['qpdf', '--warning-exit-0', '--empty', '--pages', ...$parts, '--', "{$folder}/copy.pdf"], $folder);
        $this->readBack("{$folder}/copy.pdf", $pages, $folder);

        return "{$folder}/copy.pdf";
    }

    private function burntPage(PagePdf $pdf, string $source, int $number, RedactedPage $page, string $folder): void
    {
        [$width, $height] = [$page->page->width, $page->page->height];
        $dots = (int) min(self::DOTS, 72 * sqrt(self::PIXELS / max(1, $width * $height)));
        $image = $this->drawn($source, $number, $dots, ['-cropbox'], $folder);
        if ($image !== false && abs(imagesx($image) * $height - imagesy($image) * $width) > 0.02 * imagesx($image) * $height) {
            // Read before pages were read by their crop boxes: then its words stand by the whole sheet.
            $image = $this->drawn($source, $number, $dots, [], $folder);
        }
        if ($image === false) {
            throw new UnreadableFile('failed', "Page {$number} cannot be drawn, so no redacted copy can be made.");
        }
        $this->burn($image, $page);
        imagejpeg($image, "{$folder}/page.jpg", 82);
        unset($image);
        $pdf->AddPage($width > $height ? 'L' : 'P', [$width, $height]);
        $pdf->Image("{$folder}/page.jpg", 0, 0, $width, $height, 'JPG', resize: false);
        $pdf->layWords($page->page);
        @unlink("{$folder}/page.png");
        @unlink("{$folder}/page.jpg");
    }

    /** @param  list<string>  $options */
    private function drawn(string $source, int $number, int $dots, array $options, string $folder): GdImage|false
    {
        $this->run(
            [
                'pdftoppm',
                '-q',
                ...$options,
                '-r',
                (string) $dots,
                '-f',
                (string) $number,
                '-l',
                (string) $number,
                '-png',
                '-singlefile',
                $source,
                "{$folder}/page",
            ],
            $folder,
        );

        return @imagecreatefrompng("{$folder}/page.png");
    }

    /** Black rectangles, with the reason where there is room for it. */
    private function burn(GdImage $image, RedactedPage $page): void
    {
        [$x, $y] = [imagesx($image) / max(1, $page->page->width), imagesy($image) / max(1, $page->page->height)];
        $black = (int) imagecolorallocate($image, 0, 0, 0);
        foreach ($page->burnt as [$box]) {
            $box = $box->times($x, $y);
            imagefilledrectangle(
                $image,
                (int) floor($box->left),
                (int) floor($box->top),
                (int) ceil($box->right),
                (int) ceil($box->bottom),
                $black,
            );
        }
        $labels = $this->redactions->reasons();
        $white = (int) imagecolorallocate($image, 255, 255, 255);
        foreach ($page->burnt as [$box, $reason]) {
            $box = $box->times($x, $y);
            $reason = $labels[$reason] ?? $reason;
            $size = ($box->bottom - $box->top) * 0.42;
            $room = $reason === '' || $size < 5 || ! is_file(self::FONT) ? false : imagettfbbox(min($size, 24), 0, self::FONT, $reason);
            if ($room !== false && $room[2] - $room[0] < ($box->right - $box->left) * 0.92) {
                imagettftext(
                    $image,
                    min($size, 24),
                    0,
                    (int) ($box->left + ($box->right - $box->left - $room[2] + $room[0]) / 2),
                    (int) (($box->top + $box->bottom) / 2 + min($size, 24) / 2),
                    $white,
                    self::FONT,
                    $reason,
                );
            }
        }
    }

    /**
     * Reads the copy and holds it against what should be left: a page that says more is not let out.
     *
     * @param  array<int, RedactedPage>  $pages
     */
    private function readBack(string $copy, array $pages, string $folder): void
    {
        foreach ($pages as $number => $page) {
            [, $text] = $this->run(['pdftotext', '-q', '-f', (string) $number, '-l', (string) $number, $copy, '-'], $folder);
            $left = implode('', Tokenizer::words($page->page->text));
            foreach (Tokenizer::words($text) as $word) {
                // Words may be read as run together, but never as ones that are not there.
                if (mb_strlen($word) > 3 && ! str_contains($left, $word)) {
                    throw new UnreadableFile('failed', "Page {$number} of the redacted copy still showed removed text, so the copy was not kept.");
                }
            }
        }
    }

    /**
     * @param  list<string>  $command
     * @return array{int, string}
     */
    private function run(array $command, string $folder): array
    {
        [$code, $output, $errors] = ExternalProgram::run($command, $folder);
        if ($code !== 0) {
            throw stripos($errors, 'password') !== false
                ? new UnreadableFile('encrypted', 'The PDF is protected by a password, so no redacted copy can be made of it.')
                : new UnreadableFile('failed', "The redacted copy cannot be made ({$command[0]} gave up).");
        }

        return [$code, $output];
    }
}
