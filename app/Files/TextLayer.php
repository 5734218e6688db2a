<?php

declare(strict_types=1);

namespace App\Files;

use App\Support\ExternalProgram;
use Brenvic\Core\Capture\TextPage;

/** Puts the words that OCR read of pages into their PDF, unseen, so that they are found and chosen in any program. */
final class TextLayer
{
    /** Pages written at once: the memory they take is free again then. */
    private const CHUNK = 50;

    /**
     * @param  array<int, TextPage>  $pages  by number; those with a text of their own are left as they are
     * @return string|null the path of the new PDF; null when there was nothing to put into it, or it could not be done
     */
    public static function onto(string $pdf, array $pages, string $folder): ?string
    {
        $bare = self::withoutText($pdf, $folder);
        $pages = array_filter($pages, static fn (TextPage $page, int $n): bool => $page->words !== [] && isset($bare[$n]), ARRAY_FILTER_USE_BOTH);
        ksort($pages);
        $now = $pdf;
        foreach (array_chunk($pages, self::CHUNK, true) as $i => $chunk) {
            $layer = new PagePdf();
            foreach ($chunk as $page) {
                $layer->AddPage($page->width > $page->height ? 'L' : 'P', [$page->width, $page->height]);
                $layer->layWords($page);
            }
            file_put_contents("{$folder}/layer.pdf", $layer->Output('', 'S'));
            $to = implode(',', array_keys($chunk));
            $next = "{$folder}/layered-{$i}.pdf";
            [$code] = ExternalProgram::run(
                ['qpdf', '--warning-exit-0', '--deterministic-id', $now, '--overlay', "{$folder}/layer.pdf", "--to={$to}", '--', $next],
                $folder,
            );
            if ($code !== 0) {
                return null;
            }
            $now = $next;
        }

        return $now === $pdf ? null : $now;
    }

    /** @return array<int, true> the pages of a PDF that have no text of their own */
    private static function withoutText(string $pdf, string $folder): array
    {
        [$code, $text] = ExternalProgram::run(['pdftotext', '-enc', 'UTF-8', $pdf, '-'], $folder);
        $bare = [];
        // After each page stands a form feed.
        foreach ($code === 0 ? array_slice(explode("\f", $text), 0, -1) : [] as $i => $page) {
            if (trim($page) === '') {
                $bare[$i + 1] = true;
            }
        }

        return $bare;
    }
}
