<?php

declare(strict_types=1);

namespace App\Sorting;

use App\Files\FilePages;
use App\Files\PagePdf;
use App\Support\ExternalProgram;
use App\Support\Refused;
use Throwable;

/** Turns what lies askew on pages by some degrees. The page itself is turned, not a picture of it, so nothing gets blurred. */
final class Straightening
{
    /** @param  array<int, float>  $angles  degrees clockwise that pages lie askew, by number */
    public static function of(string $pdf, array $angles, string $target): string
    {
        $folder = dirname($target);
        // The reader of pages knows no compressed objects.
        $plain = "{$target}.plain";
        ExternalProgram::run(['qpdf', '--warning-exit-0', '--object-streams=disable', $pdf, $plain], $folder);
        try {
            $straight = new PagePdf();
            $count = $straight->setSourceFile($plain);
            foreach ($angles as $number => $angle) {
                self::add($straight, $number, $angle);
            }
            file_put_contents("{$target}.turned", $straight->Output('', 'S'));
        } catch (Throwable $fault) {
            throw new Refused('A page could not be straightened. Choose it as it is; nothing was changed.', previous: $fault);
        }
        $runs = [];
        $place = array_flip(array_keys($angles));
        for ($number = 1; $number <= $count; $number++) {
            $runs[] = isset($place[$number])
                ? ['source' => "{$target}.turned", 'range' => (string) ($place[$number] + 1)]
                : ['source' => $pdf, 'range' => (string) $number];
        }

        if (! FilePages::join($runs, [], $target, $folder)) {
            throw new Refused('The pages could not be put together. Nothing was changed.');
        }

        return $target;
    }

    private static function add(PagePdf $pdf, int $number, float $angle): void
    {
        $template = $pdf->importPage($number);
        $size = $pdf->getTemplateSize($template);
        if (! is_array($size)) {
            throw new Refused("Page {$number} cannot be carried over.");
        }
        $pdf->AddPage($size['orientation'], [$size['width'], $size['height']]);
        $pdf->StartTransform();
        $pdf->Rotate($angle, $size['width'] / 2, $size['height'] / 2);
        $pdf->useTemplate($template);
        $pdf->StopTransform();
    }
}
