<?php

declare(strict_types=1);

namespace App\Sorting;

use App\Files\FilePages;
use App\Files\PagePdf;
use App\Support\ExternalProgram;
use Brenvic\Core\Pages\SeparatorCode;

/**
 * Sheets to be laid between documents before a stack is scanned. The code is a QR code (ISO/IEC 18004), twice, so that a fold
 * spoils one only.
 */
final class SeparatorSheet
{
    private const SIDE = 150.0;

    private const QUIET = 150;

    /**
     * @param  list<string>  $lines  what people read on it
     */
    public static function pdf(SeparatorCode $code, array $lines, int $count): string
    {
        // The library chooses the mask of a QR code by chance: the same sheet is the same file all the same.
        mt_srand(crc32($code->text()));
        $pdf = new PagePdf();
        $pdf->setTitle('Separator sheet');
        $pdf->setDocCreationTimestamp(0);
        $pdf->setDocModificationTimestamp(0);
        for ($sheet = 0; $sheet < $count; $sheet++) {
            $pdf->AddPage('P', 'A4');
            $width = $pdf->getPageWidth();
            $pdf->setFont('dejavusans', 'B', 26);
            $pdf->Text(60, 70, 'Separator sheet');
            $pdf->setFont('dejavusans', '', 13);
            $pdf->Text(60, 112, 'A new document begins behind this sheet.');
            foreach ($lines as $i => $line) {
                $pdf->setFont('dejavusans', 'B', 15);
                $pdf->Text(60, 165 + 26 * $i, $line);
            }
            foreach ([320.0, 580.0] as $top) {
                $pdf->write2DBarcode($code->text(), 'QRCODE,Q', ($width - self::SIDE) / 2, $top, self::SIDE, self::SIDE);
            }
            $pdf->setFont('dejavusans', '', 9);
            $pdf->setTextColor(self::QUIET);
            $pdf->Text(60, 780, $code->text());
            $pdf->setTextColor(0);
        }

        mt_srand();

        return ExternalProgram::inFolder(static function (string $folder) use ($pdf): string {
            file_put_contents("{$folder}/sheets.pdf", $pdf->Output('', 'S'));
            // The same sheets are the same file, whenever they are made.
            FilePages::join([['source' => "{$folder}/sheets.pdf", 'range' => '1-z']], [], "{$folder}/same.pdf", $folder);

            return (string) file_get_contents("{$folder}/same.pdf");
        });
    }
}
