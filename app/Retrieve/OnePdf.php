<?php

declare(strict_types=1);

namespace App\Retrieve;

use App\Files\Drawing;
use App\Files\FilePages;
use App\Files\PagePdf;
use App\Files\UprightPicture;
use App\Models\Delivery;
use App\Models\Document;
use App\Support\ExternalProgram;
use App\Support\Refused;
use Brenvic\Core\Capture\FileKind;
use Brenvic\Core\Capture\UnreadableFile;
use Brenvic\Core\Pdf\PdfJoin;
use Brenvic\Core\Pdf\PdfOutline;
use Brenvic\Core\Pdf\PdfPart;
use Illuminate\Support\Facades\DB;
use RuntimeException;

/**
 * Joins the documents of a delivery into one PDF: a contents page whose lines lead to the documents, bookmarks by folder,
 * and for printing a cover sheet before each document. Pages of PDFs are carried over as they are; pictures and texts
 * are set; what cannot be shown has a sheet that says why, and goes along as an attached file. Everything is done in
 * batches and what is known of each document is written down, so that no memory grows with their number.
 */
final class OnePdf
{
    /** Of photographs that are turned upright, in per cent. */
    private const QUALITY = 92;

    /** Documents that are joined at a time; less when they have very many pages. */
    private const BATCH = 100;

    private const PAGES = 2_000;

    /** Bytes of pictures that are held until they are added. */
    private const PICTURES = 16 * 1024 * 1024;

    /** Lines on one page of contents. */
    private const LINES = 40;

    /** Pages of contents that are set at a time. */
    private const SET = 10;

    private const MARGIN = 56;

    /** Bytes of text that are set; the rest is in the attached file. */
    private const TEXT = 2_000_000;

    private readonly string $work;

    private readonly PdfJoin $join;

    /** Where pages are set until they are added: a PDF for each document would take its fonts anew. */
    private ?PagePdf $set = null;

    private int $pictures = 0;

    /** The page that each document begins with. */
    private readonly NumberFile $starts;

    /** The objects of the pages of the documents. */
    private readonly NumberFile $pages;

    /**
     * @param  string  $folder  where the files lie, and where there is room to work
     * @param  bool  $covers  whether each document has a cover sheet
     */
    public function __construct(private readonly Delivery $delivery, private readonly string $folder, private readonly bool $covers)
    {
        $this->work = "{$folder}/pages";
        @mkdir($this->work, 0700, true);
        $this->join = new PdfJoin("{$folder}/all.pdf");
        $this->starts = new NumberFile("{$this->work}/starts");
        $this->pages = new NumberFile("{$this->work}/objects");
    }

    /**
     * @param  \Closure(): bool  $goesOn  asked after each batch
     * @return string|null the path of the PDF; null when it was stopped
     */
    public function make(\Closure $goesOn): ?string
    {
        $documents = $this->delivery->items()->count();
        $documents > 0 || throw new Refused('There is no document in the list that you may take away.');
        $first = intdiv($documents + self::LINES - 1, self::LINES);
        $page = $first + 1;
        $parts = [];
        $held = 0;
        foreach ($this->delivery->batches(self::BATCH) as $chunk) {
            $known = Document::query()
                ->whereIn('ref', array_column($chunk, 'ref'))
                ->where('file_kind', 'pdf')
                ->where('page_count', '<', (int) config('brenvic.limits.pages'))
                ->pluck('page_count', 'ref')
                ->all();
            foreach ($chunk as $i => $item) {
                // What was read of a PDF is known; asking each file again would take most of the time.
                [$part, $count] = $this->part($item, (int) ($known[$item['ref']] ?? 0));
                if ($this->covers) {
                    $parts[] = $this->pages(
                        static fn (PagePdf $pdf) => self::sheet(
                            $pdf,
                            $item,
                            basename($item['file']).
                                "\n".
                                ($count === 1 ? '1 page' : "{$count} pages").
                                ($item['remark'] === '' ? '' : "\n\n{$item['remark']}"),
                        ),
                    )[0];
                    $count++;
                }
                $parts[] = $part;
                $this->starts->add($page);
                $page += $count;
                $held += $count;
                if ($held >= self::PAGES || $this->pictures >= self::PICTURES || $i === array_key_last($chunk)) {
                    $this->add($parts);
                    [$parts, $held] = [[], 0];
                }
            }
            if (! $goesOn()) {
                return null;
            }
        }
        $this->addContents($first);
        $outline = new PdfOutline($this->join);
        foreach ($this->documents() as $document => $item) {
            $folders = $item['file'] === '' ? [] : array_slice(explode('/', $item['file']), 1, -1);
            $outline->add([...$folders, $item['title']], $this->pages->at($this->starts->at($document) - 1 - $first));
        }
        $this->join->end($this->delivery->name, $outline->end());

        return "{$this->folder}/all.pdf";
    }

    /** @return \Generator<int, array{ref: string, title: string, file: string, sha256: string, remark: string}> by their place in the whole */
    private function documents(): \Generator
    {
        foreach ($this->delivery->batches(self::BATCH) as $from => $chunk) {
            foreach ($chunk as $i => $item) {
                yield $from + $i => $item;
            }
        }
    }

    /**
     * What was set by some work.
     *
     * @param  \Closure(PagePdf): void  $work
     * @return array{array{string, string}, int} the file and which of its pages, and how many
     */
    private function pages(\Closure $work): array
    {
        $set = $this->set ??= new PagePdf();
        $first = $set->getNumPages() + 1;
        $work($set);
        $last = $set->getNumPages();

        return [["{$this->work}/set.pdf", "{$first}-{$last}"], $last - $first + 1];
    }

    /**
     * One document as pages of a PDF.
     *
     * @param  array{ref: string, title: string, file: string, sha256: string, remark: string}  $item
     * @param  int  $known  pages that were read of a PDF; 0 when none were
     * @return array{array{string, string}, int} as `pages`
     */
    private function part(array $item, int $known): array
    {
        $path = "{$this->folder}/bag/{$item['file']}";
        $says = fn (string $says): array => $this->pages(static fn (PagePdf $pdf) => self::sheet($pdf, $item, $says));
        if ($item['file'] === '') {
            return $says($item['remark']);
        }
        $kind = FileKind::detect((string) file_get_contents($path, length: 4096), basename($path));
        if ($kind === FileKind::Pdf) {
            $count = $known > 0 ? $known : FilePages::count($path, $this->folder);
            if ($count > 0) {
                return [[$path, '1-z'], $count];
            }
            $this->join->attach($path, basename($path));
            $reason = (string) Document::query()->where('ref', $item['ref'])->value('text_reason');

            return $says(($reason === '' ? 'The PDF cannot be opened.' : $reason).' It goes along as an attached file, as it is.');
        }
        $drawn = $this->drawn($item, $kind, $path);
        if ($drawn !== null) {
            // The pages show what it looks like; who is to work on it has the file.
            $this->join->attach($path, basename($path));

            return [[$drawn, '1-z'], FilePages::count($drawn, $this->folder)];
        }
        $size = $kind === FileKind::Image ? @getimagesize($path) : false;
        if ($size !== false && $size[0] > 0 && $size[1] > 0 && in_array($size[2], [IMAGETYPE_JPEG, IMAGETYPE_PNG, IMAGETYPE_GIF], true)) {
            $this->pictures += (int) filesize($path);

            return $this->pages(fn (PagePdf $pdf) => $this->picture($pdf, $path));
        }
        $text = match (true) {
            $kind === FileKind::Image => '',
            in_array($kind, [FileKind::Text, FileKind::Markdown, FileKind::Table], true) => (string) file_get_contents(
                $path,
                length: self::TEXT,
            ),
            default => mb_strcut(
                DB::table('pages')
                    ->where('document_id', Document::query()->where('ref', $item['ref'])->value('id'))
                    ->orderBy('number')
                    ->pluck('text')
                    ->implode("\n\n"),
                0,
                self::TEXT,
            ),
        };
        $isShown = trim($text) !== '';
        // A letter or a mail is more than its words.
        if (! $isShown || ! in_array($kind, [FileKind::Text, FileKind::Markdown], true)) {
            $this->join->attach($path, basename($path));
        }

        return $isShown
            ? $this->pages(static fn (PagePdf $pdf) => self::text($pdf, $item, mb_scrub($text)))
            : $says('This kind of file has no pages to show. It goes along as an attached file, as it is.');
    }

    /**
     * The pages that were drawn of a file: of a picture that cannot be set as it is, or of an office file.
     *
     * @param  array{ref: string, title: string, file: string, sha256: string, remark: string}  $item
     */
    private function drawn(array $item, FileKind $kind, string $path): ?string
    {
        $isPicture = $kind === FileKind::Image && Drawing::isNeeded((string) file_get_contents($path, length: 64));
        if (! $isPicture && ! $kind->isOffice()) {
            return null;
        }
        $document = Document::query()->where('ref', $item['ref'])->first(['sha256', 'drawn_pages']);
        // What goes out may be another form of the document than what was drawn.
        if ($document === null || (! $isPicture && ! $document->drawn_pages) || $item['sha256'] !== $document->sha256) {
            return null;
        }
        try {
            return app(Drawing::class)->of($document->sha256, $kind);
        } catch (UnreadableFile) {
            return null;
        }
    }

    private function picture(PagePdf $pdf, string $path): void
    {
        [$width, $height] = UprightPicture::size($path) ?? [1, 1];
        if (UprightPicture::orientation($path) !== 1 && ($image = UprightPicture::image($path)) !== null) {
            $path = "{$this->folder}/upright.jpg";
            imagejpeg($image, $path, self::QUALITY);
        }
        $pdf->AddPage($width > $height ? 'L' : 'P', 'A4');
        $scale = min(($pdf->getPageWidth() - 2 * self::MARGIN) / $width, ($pdf->getPageHeight() - 2 * self::MARGIN) / $height);
        $pdf->Image($path, self::MARGIN, self::MARGIN, $width * $scale, $height * $scale);
    }

    /** @param  array{ref: string, title: string, file: string, remark: string}  $item */
    private static function text(PagePdf $pdf, array $item, string $text): void
    {
        $pdf->setMargins(self::MARGIN, self::MARGIN, self::MARGIN);
        $pdf->setAutoPageBreak(true, self::MARGIN);
        $pdf->AddPage('P', 'A4');
        $pdf->setFont('dejavusans', 'B', 11);
        $pdf->MultiCell(0, 0, $item['title'], 0, 'L');
        $pdf->Ln(8);
        $pdf->setFont('dejavusans', '', 9);
        // In pieces: setting a long text at once takes time that grows with its square.
        foreach (preg_split('/(?<=\n)/', $text) ?: [] as $line) {
            $pdf->MultiCell(0, 0, rtrim($line, "\n") === '' ? ' ' : rtrim($line, "\n"), 0, 'L');
        }
        $pdf->setAutoPageBreak(false);
    }

    /** @param  array{ref: string, title: string, file: string, remark: string}  $item */
    private static function sheet(PagePdf $pdf, array $item, string $says): void
    {
        $pdf->setMargins(self::MARGIN, self::MARGIN, self::MARGIN);
        $pdf->AddPage('P', 'A4');
        $pdf->setFont('dejavusans', 'B', 14);
        $pdf->MultiCell(0, 0, $item['title'], 0, 'L');
        $pdf->setFont('dejavusans', '', 10);
        $pdf->Ln(10);
        $pdf->MultiCell(0, 0, "{$item['ref']}\n\n{$says}", 0, 'L');
    }

    /** Sets the pages of contents, whose lines lead to the documents. */
    private function addContents(int $first): void
    {
        $document = 0;
        foreach ($this->delivery->batches(self::LINES * self::SET) as $from => $items) {
            $pdf = new PagePdf();
            foreach (array_chunk($items, self::LINES) as $i => $lines) {
                $pdf->AddPage('P', 'A4');
                $pdf->setFont('dejavusans', 'B', 14);
                $from + $i === 0 && $pdf->Text(self::MARGIN, self::MARGIN - 16, $this->delivery->name);
                foreach ($lines as $row => $item) {
                    $y = self::lineTop($row);
                    $pdf->setFont('dejavusans', '', 7);
                    $pdf->Text(self::MARGIN, $y + 2, $item['ref']);
                    $pdf->setFont('dejavusans', '', 9);
                    $pdf->Text(self::MARGIN + 66, $y, mb_strimwidth($item['title'], 0, 78, '…'));
                    $pdf->setXY($pdf->getPageWidth() - self::MARGIN - 40, $y);
                    $pdf->Cell(40, 0, (string) $this->starts->at($from + $i * self::LINES + $row), 0, 0, 'R');
                }
            }
            $height = $pdf->getPageHeight();
            file_put_contents("{$this->work}/contents.pdf", $pdf->Output('', 'S'));
            $this->add([["{$this->work}/contents.pdf", '1-z']], function () use (&$document, $first, $from, $items, $height): string {
                $links = [];
                for ($row = 0; $row < self::LINES && $document < $from + count($items); $row++, $document++) {
                    $top = $height - self::lineTop($row);
                    $to = $this->pages->at($this->starts->at($document) - 1 - $first);
                    $this->join->put(
                        $links[] = $this->join->reserve(),
                        sprintf(
                            '<< /Type /Annot /Subtype /Link /Rect [ %d %.2F 540 %.2F ] /Border [ 0 0 0 ] /Dest [ %d 0 R /Fit ] >>',
                            self::MARGIN,
                            $top - 14,
                            $top + 2,
                            $to,
                        ),
                    );
                }

                return '/Annots [ '.PdfJoin::references($links).'] ';
            });
        }
    }

    private static function lineTop(int $row): float
    {
        return self::MARGIN + 14 + 17.2 * $row;
    }

    /**
     * Adds pages, those that were set among them.
     *
     * @param  list<array{string, string}>  $parts  files, and which of their pages
     * @param  (\Closure(): string)|null  $contents  what is to be added to each page, when they are pages of contents
     */
    private function add(array $parts, ?\Closure $contents = null): void
    {
        if ($parts === []) {
            return;
        }
        $this->set === null || file_put_contents("{$this->work}/set.pdf", $this->set->Output('', 'S'));
        $this->set = null;
        $this->pictures = 0;
        [$code, , $errors] = ExternalProgram::run(
            [
                'qpdf',
                '--warning-exit-0',
                '--object-streams=disable',
                '--empty',
                '--pages',
                ...array_merge(...$parts),
                '--',
                "{$this->work}/joined.pdf",
            ],
            $this->folder,
        );
        if ($code !== 0) {
            throw new RuntimeException('The pages could not be joined: '.trim(strtok($errors, "\n") ?: 'qpdf gave up'));
        }
        $this->join->add(
            new PdfPart("{$this->work}/joined.pdf"),
            $contents ??
                function (int $page): string {
                    $this->pages->add($page);

                    return '';
                },
            $contents !== null,
        );
        unlink("{$this->work}/joined.pdf");
    }
}
