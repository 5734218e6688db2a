<?php

declare(strict_types=1);

namespace App\Retrieve;

use App\Capture\ExternalProgram;
use App\Files\PagePdf;
use App\Models\Document;
use Brenvic\Core\Capture\FileKind;
use Brenvic\Core\Exchange\PdfOutline;
use Illuminate\Support\Facades\DB;
use RuntimeException;

/**
 * Joins the documents of a delivery into one PDF: a contents page whose lines lead to the documents, bookmarks by folder,
 * and for printing a cover sheet before each document. Pages of PDFs are carried over as they are; pictures and texts
 * are set; what cannot be shown has a sheet that says why, and goes along as an attached file. Documents are joined in
 * batches, so that what is held in memory does not grow with their files.
 */
final class OnePdf
{
    private const BATCH = 200;

    /** Lines on one page of contents. */
    private const LINES = 40;

    private const MARGIN = 56;

    /** Bytes of text that are set; the rest is in the attached file. */
    private const TEXT = 2_000_000;

    /**
     * @param  list<array{ref: string, title: string, file: string, remark: string}>  $contents  files relative to the folder
     * @param  string  $folder  where the files lie, and where there is room to work
     * @param  \Closure(): bool  $goesOn  asked after each batch
     * @return string|null the path of the PDF; null when it was stopped
     */
    public static function make(string $name, array $contents, string $folder, bool $covers, \Closure $goesOn): ?string
    {
        $work = "{$folder}/pages";
        @mkdir($work, 0700, true);
        $first = intdiv(count($contents) + self::LINES - 1, self::LINES);
        $batches = [];
        $entries = [];
        $attached = [];
        $page = $first + 1;
        foreach (array_chunk($contents, self::BATCH, true) as $b => $chunk) {
            $parts = [];
            $known = Document::query()->whereIn('ref', array_column($chunk, 'ref'))->where('file_kind', 'pdf')->where('page_count', '<', (int) config('brenvic.limits.pages'))->pluck('page_count', 'ref')->all();
            foreach ($chunk as $i => $item) {
                $part = self::part($item, $folder, "{$work}/{$i}.pdf", $attached, $known[$item['ref']] ?? 0);
                // What was read of a PDF is known; asking each file again would take most of the time.
                $count = str_starts_with($part, $work) || ($known[$item['ref']] ?? 0) === 0 ? PagePdf::count($part, $folder) : (int) $known[$item['ref']];
                if ($covers) {
                    self::cover($item, $count, "{$work}/{$i}-cover.pdf");
                    $parts[] = "{$work}/{$i}-cover.pdf";
                    $count++;
                }
                $parts[] = $part;
                $entries[] = ['item' => $item, 'page' => $page];
                $page += $count;
            }
            self::join($parts, "{$work}/batch-{$b}.pdf", $folder);
            array_map(static fn (string $p) => str_starts_with($p, $work) && unlink($p), $parts);
            $batches[] = "{$work}/batch-{$b}.pdf";
            if (! $goesOn()) {
                return null;
            }
        }
        self::contentsPages($name, $entries, "{$work}/contents.pdf");
        self::join(["{$work}/contents.pdf", ...$batches], "{$work}/joined.pdf", $folder);
        array_map(unlink(...), $batches);
        self::linked("{$work}/joined.pdf", $entries, $first, "{$work}/linked.pdf", $folder);
        unlink("{$work}/joined.pdf");

        return self::attached("{$work}/linked.pdf", $attached, "{$work}/all.pdf", $folder);
    }

    /**
     * One document as pages of a PDF.
     *
     * @param  array{ref: string, title: string, file: string, remark: string}  $item
     * @param  array<string, string>  $attached  path => name of files that go along as they are
     * @param  int  $known  pages that were read of a PDF; 0 when none were
     */
    private static function part(array $item, string $folder, string $target, array &$attached, int $known): string
    {
        $path = "{$folder}/bag/{$item['file']}";
        if ($item['file'] === '') {
            return self::sheet($item, $item['remark'], $target);
        }
        $kind = FileKind::detect((string) file_get_contents($path, length: 4096), basename($path));
        if ($kind === FileKind::Pdf) {
            if ($known > 0 || PagePdf::count($path, $folder) > 0) {
                return $path;
            }
            $attached[$path] = basename($path);
            $reason = (string) Document::query()->where('ref', $item['ref'])->value('text_reason');

            return self::sheet($item, ($reason === '' ? 'The PDF cannot be opened.' : $reason).' It goes along as an attached file, as it is.', $target);
        }
        if ($kind === FileKind::Image) {
            $set = self::picture($path, $target);
        } else {
            $text = in_array($kind, [FileKind::Text, FileKind::Markdown, FileKind::Table], true)
                ? (string) file_get_contents($path, length: self::TEXT)
                : mb_strcut(DB::table('pages')->where('document_id', Document::query()->where('ref', $item['ref'])->value('id'))->orderBy('number')->pluck('text')->implode("\n\n"), 0, self::TEXT);
            $set = trim($text) !== '' && self::text($item, mb_scrub($text), $target);
            // A letter or a mail is more than its words.
            if (! in_array($kind, [FileKind::Text, FileKind::Markdown], true)) {
                $attached[$path] = basename($path);
            }
        }
        if (! $set) {
            $attached[$path] = basename($path);

            return self::sheet($item, 'This kind of file has no pages to show. It goes along as an attached file, as it is.', $target);
        }

        return $target;
    }

    private static function picture(string $path, string $target): bool
    {
        $size = @getimagesize($path);
        if ($size === false || $size[0] < 1 || $size[1] < 1 || ! in_array($size[2], [IMAGETYPE_JPEG, IMAGETYPE_PNG, IMAGETYPE_GIF], true)) {
            return false;
        }
        $pdf = new PagePdf;
        $pdf->AddPage($size[0] > $size[1] ? 'L' : 'P', 'A4');
        $scale = min(($pdf->getPageWidth() - 2 * self::MARGIN) / $size[0], ($pdf->getPageHeight() - 2 * self::MARGIN) / $size[1]);
        $pdf->Image($path, self::MARGIN, self::MARGIN, $size[0] * $scale, $size[1] * $scale);
        file_put_contents($target, $pdf->Output('', 'S'));

        return true;
    }

    /** @param  array{ref: string, title: string, file: string, remark: string}  $item */
    private static function text(array $item, string $text, string $target): bool
    {
        $pdf = new PagePdf;
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
        file_put_contents($target, $pdf->Output('', 'S'));

        return true;
    }

    /** @param  array{ref: string, title: string, file: string, remark: string}  $item */
    private static function sheet(array $item, string $says, string $target): string
    {
        $pdf = new PagePdf;
        $pdf->setMargins(self::MARGIN, self::MARGIN, self::MARGIN);
        $pdf->AddPage('P', 'A4');
        $pdf->setFont('dejavusans', 'B', 14);
        $pdf->MultiCell(0, 0, $item['title'], 0, 'L');
        $pdf->setFont('dejavusans', '', 10);
        $pdf->Ln(10);
        $pdf->MultiCell(0, 0, "{$item['ref']}\n\n{$says}", 0, 'L');
        file_put_contents($target, $pdf->Output('', 'S'));

        return $target;
    }

    /** @param  array{ref: string, title: string, file: string, remark: string}  $item */
    private static function cover(array $item, int $count, string $target): void
    {
        self::sheet($item, basename($item['file'])."\n".($count === 1 ? '1 page' : "{$count} pages").($item['remark'] === '' ? '' : "\n\n{$item['remark']}"), $target);
    }

    /** @param  list<array{item: array{ref: string, title: string, file: string, remark: string}, page: int}>  $entries */
    private static function contentsPages(string $name, array $entries, string $target): void
    {
        $pdf = new PagePdf;
        foreach (array_chunk($entries, self::LINES) as $i => $lines) {
            $pdf->AddPage('P', 'A4');
            $pdf->setFont('dejavusans', 'B', 14);
            $i === 0 && $pdf->Text(self::MARGIN, self::MARGIN - 16, $name);
            foreach ($lines as $row => ['item' => $item, 'page' => $page]) {
                $y = self::lineTop($row);
                $pdf->setFont('dejavusans', '', 7);
                $pdf->Text(self::MARGIN, $y + 2, $item['ref']);
                $pdf->setFont('dejavusans', '', 9);
                $pdf->Text(self::MARGIN + 66, $y, mb_strimwidth($item['title'], 0, 78, '…'));
                $pdf->setXY($pdf->getPageWidth() - self::MARGIN - 40, $y);
                $pdf->Cell(40, 0, (string) $page, 0, 0, 'R');
            }
        }
        file_put_contents($target, $pdf->Output('', 'S'));
    }

    private static function lineTop(int $row): float
    {
        return self::MARGIN + 14 + 17.2 * $row;
    }

    /**
     * Gives the PDF its bookmarks and the lines of the contents their links.
     *
     * @param  list<array{item: array{ref: string, title: string, file: string, remark: string}, page: int}>  $entries
     * @param  int  $first  how many pages of contents there are
     */
    private static function linked(string $source, array $entries, int $first, string $target, string $folder): void
    {
        $json = static fn (string ...$options): array => (array) json_decode(self::run(['qpdf', '--warning-exit-0', '--json=2', ...array_values($options), $source], $folder), true);
        $pages = self::pages($source, $folder);
        $named = static fn (string $id): string => '--json-object='.str_replace(' ', ',', substr($id, 0, -2));
        $trailer = $json('--json-key=qpdf', '--json-object=trailer')['qpdf'];
        $root = (string) $trailer[1]['trailer']['value']['/Root'];
        $known = $json('--json-key=qpdf', $named($root), ...array_map($named, array_slice($pages, 0, $first)))['qpdf'];
        $bookmarks = [];
        foreach ($entries as ['item' => $item, 'page' => $page]) {
            $folders = $item['file'] === '' ? [] : array_slice(explode('/', $item['file']), 1, -1);
            $bookmarks[] = ['path' => [...$folders, $item['title']], 'page' => $pages[$page - 1]];
        }
        ['objects' => $objects, 'root' => $outline, 'highest' => $highest] = PdfOutline::of($bookmarks, (int) $known[0]['maxobjectid']);
        $objects["obj:{$root}"] = ['value' => [...$known[1]["obj:{$root}"]['value'], '/Outlines' => $outline, '/PageMode' => '/UseOutlines']];
        foreach (array_chunk($entries, self::LINES) as $i => $lines) {
            $links = [];
            foreach ($lines as $row => ['page' => $page]) {
                $top = 841.89 - self::lineTop($row);
                $link = (++$highest).' 0 R';
                $objects["obj:{$link}"] = ['value' => ['/Type' => '/Annot', '/Subtype' => '/Link', '/Rect' => [self::MARGIN, round($top - 14, 2), 540, round($top + 2, 2)], '/Border' => [0, 0, 0], '/Dest' => [$pages[$page - 1], '/Fit']]];
                $links[] = $link;
            }
            $objects["obj:{$pages[$i]}"] = ['value' => [...$known[1]["obj:{$pages[$i]}"]['value'], '/Annots' => $links]];
        }
        file_put_contents("{$folder}/outline.json", json_encode(['qpdf' => [['jsonversion' => 2, 'pushedinheritedpageresources' => false, 'calledgetallpages' => false, 'maxobjectid' => $highest], $objects]], JSON_UNESCAPED_SLASHES | JSON_UNESCAPED_UNICODE | JSON_THROW_ON_ERROR));
        self::run(['qpdf', '--warning-exit-0', '--object-streams=generate', $source, "--update-from-json={$folder}/outline.json", $target], $folder);
        unlink("{$folder}/outline.json");
    }

    /**
     * The objects of the pages in order, read line by line: of very many pages what is said of each is large.
     *
     * @return list<string>
     */
    private static function pages(string $source, string $folder): array
    {
        $target = "{$folder}/pages.json";
        self::run(['qpdf', '--warning-exit-0', '--json=2', '--json-key=pages', $source, $target], $folder);
        $lines = fopen($target, 'rb') ?: throw new RuntimeException('The pages could not be read.');
        $pages = [];
        while (($line = fgets($lines)) !== false) {
            // A page stands three levels deep, its pictures deeper.
            if (preg_match('/^ {6}"object": "(\d+ \d+ R)"/', $line, $m) === 1) {
                $pages[] = $m[1];
            }
        }
        fclose($lines);
        unlink($target);

        return $pages;
    }

    /** @param  array<string, string>  $attached */
    private static function attached(string $source, array $attached, string $target, string $folder): string
    {
        if ($attached === []) {
            return $source;
        }
        $options = [];
        $used = [];
        foreach ($attached as $path => $name) {
            $key = isset($used[$name]) ? (count($used)."-{$name}") : $name;
            $used[$key] = true;
            array_push($options, '--add-attachment', $path, "--key={$key}", "--filename={$name}", '--');
        }
        self::run(['qpdf', '--warning-exit-0', $source, ...$options, $target], $folder);
        unlink($source);

        return $target;
    }

    /** @param  list<string>  $parts */
    private static function join(array $parts, string $target, string $folder): void
    {
        self::run(['qpdf', '--warning-exit-0', '--keep-files-open=n', '--empty', '--pages', ...$parts, '--', $target], $folder);
    }

    /** @param  list<string>  $command */
    private static function run(array $command, string $folder): string
    {
        [$code, $output, $errors] = ExternalProgram::run($command, $folder);
        if ($code !== 0) {
            throw new RuntimeException('The pages could not be joined: '.trim(strtok($errors, "\n") ?: 'qpdf gave up'));
        }

        return $output;
    }
}
