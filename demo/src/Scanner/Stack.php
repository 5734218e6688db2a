<?php

declare(strict_types=1);

namespace Demo\Scanner;

use Brenvic\Core\Pages\SeparatorCode;
use GdImage;
use TCPDF2DBarcode;

/** The stack in the feeder: the post of a morning, with separator sheets, a page upside down, some askew, and blank backs. */
final class Stack
{
    private const FONT = '/usr/share/fonts/truetype/dejavu/DejaVuSans.ttf';

    private const SERIF = '/usr/share/fonts/truetype/dejavu/DejaVuSerif.ttf';

    /** Of A4 at the dots at which it is drawn. */
    private const DOTS = 150;

    private const WIDTH = 1_240;

    private const HEIGHT = 1_754;

    /**
     * @return list<array{separator?: array{string|null, string|null}, lines?: list<string>, back?: list<string>, askew?: float, turn?: int}>
     */
    public static function sheets(): array
    {
        return [
            ['separator' => ['waterways', 'lock_inspection']],
            ['lines' => ['Tarnwick Canal & Harbour Trust', 'Lock inspection', '', 'Structure: LK-0407-5', 'Inspected on: 12th May 2025',
                'Waterway: Sea lock pound', 'Inspector: Osric Vane', 'Condition grade: C', '',
                'Water runs under the lower gate at about a bucket a minute. The sill has lost two boards on the towpath side.',
                'The paddle gear was greased and works. The collar of the east gate is worn and should be turned in the winter.'], 'askew' => 1.8],
            ['lines' => ['', '', 'The boards can be had from the yard at Cray Wharf. Two men and half a day, with the pound drawn down by a foot.',
                '', 'Osric Vane', 'for the Waterways office'], 'back' => ['', 'Sketch of the sill, not to scale: see the drawing of 2011.']],
            ['separator' => ['harbour', 'mooring_permit']],
            ['lines' => ['Tarnwick Harbour', 'Mooring permit', '', 'Permit number: MP-2025-1187', 'Vessel: Marigold Ash', 'Holder: Tamsin Orrell',
                'Berth: 14', 'Document date: 2 June 2025', 'Valid until: 31 May 2026', '',
                'The holder keeps the berth clear of gear, and moves within the hour when the harbour master asks.'], 'turn' => 180],
            ['separator' => ['works', 'quotation']],
            ['lines' => ['Holm Masonry', 'Quotation', '', 'Contractor: Holm Masonry', 'Document date: 3 June 2025',
                'To: Tarnwick Canal & Harbour Trust, Works office', '',
                'For taking down and setting again eleven yards of coping at the Oxbeck aqueduct, in lime, with new stone where it is wanted:', '',
                'Amount: £4,860.00', '', 'The price holds for sixty days.'], 'askew' => -2.4],
            ['lines' => ['', 'Holm Masonry, page 2', '', 'Stone: 3,100.00', 'Labour: 1,420.00', 'Lime and carriage: 340.00'], 'askew' => -2.4],
            ['separator' => ['waterways', 'weed_silt_report']],
            ['lines' => ['Weed and silt report', '', 'Waterway: Cray cutting', 'Date: 5 June 2025', 'Author: Maud Ferris', '',
                'Hornwort from bank to bank for two hundred yards above the feeder. The silt at the intake measures 0.42 m.'], 'askew' => 0.9],
            ['separator' => ['waterways', 'stoppage_notice']],
            ['lines' => ['Stoppage notice', '', 'Waterway: Summit pound', 'Document date: 9 June 2025', 'Structure: LK-0412-B', '',
                'The navigation is shut from Monday to Thursday for the change of a balance beam. Boats wait above the lock.']],
            ['lines' => ['', 'Received with thanks, no date and no sheet before it:', '', 'Dear Sirs,', '',
                'my grandfather kept the toll house until 1931 and left a box of tickets. Do you want them?', '', 'Wilfred Ames']],
        ];
    }

    /** A side of a sheet as the scanner gives it, as a JPEG. */
    public static function picture(string $folder, int $sheet, bool $isBack, int $dots, bool $isColour): string
    {
        $file = "{$folder}/{$sheet}".($isBack ? 'b' : 'a')."-{$dots}-".($isColour ? 'colour' : 'grey').'.jpg';
        if (! is_file($file)) {
            is_dir($folder) || mkdir($folder, 0770, true);
            $image = self::drawn(self::sheets()[$sheet], $isBack);
            $scale = $dots / self::DOTS;
            $image = $scale === 1 ? $image : (imagescale($image, (int) (self::WIDTH * $scale), (int) (self::HEIGHT * $scale)) ?: $image);
            $isColour || imagefilter($image, IMG_FILTER_GRAYSCALE);
            imageresolution($image, $dots, $dots);
            imagejpeg($image, $file, 82);
        }

        return (string) file_get_contents($file);
    }

    /** @param  array{separator?: array{string|null, string|null}, lines?: list<string>, back?: list<string>, askew?: float, turn?: int}  $sheet */
    private static function drawn(array $sheet, bool $isBack): GdImage
    {
        $image = imagecreatetruecolor(self::WIDTH, self::HEIGHT) ?: throw new \RuntimeException('No picture.');
        $paper = (int) imagecolorallocate($image, 246, 243, 236);
        imagefill($image, 0, 0, $paper);
        $lines = $isBack ? $sheet['back'] ?? [] : $sheet['lines'] ?? [];
        isset($sheet['separator']) && ! $isBack ? self::separator($image, ...$sheet['separator']) : self::write($image, $lines);
        mt_srand(crc32(json_encode($sheet, JSON_THROW_ON_ERROR)));
        $dust = (int) imagecolorallocate($image, 120, 116, 110);
        for ($i = 0; $i < 40; $i++) {
            imagesetpixel($image, mt_rand(0, self::WIDTH - 1), mt_rand(0, self::HEIGHT - 1), $dust);
        }
        // Against the clock, and smoothly: the plain way turns by whole 256ths only.
        imagesetinterpolation($image, IMG_BICUBIC);
        foreach ([-($sheet['askew'] ?? 0.0), (float) -($sheet['turn'] ?? 0)] as $degrees) {
            $turned = $degrees === 0.0 ? $image : imagerotate($image, $degrees, $paper);
            $image = $turned === false ? $image : $turned;
        }
        $x = intdiv(imagesx($image) - self::WIDTH, 2);
        $y = intdiv(imagesy($image) - self::HEIGHT, 2);

        return imagecrop($image, ['x' => $x, 'y' => $y, 'width' => self::WIDTH, 'height' => self::HEIGHT]) ?: $image;
    }

    /** @param  list<string>  $lines */
    private static function write(GdImage $image, array $lines): void
    {
        $ink = (int) imagecolorallocate($image, 38, 35, 34);
        $y = 190;
        foreach ($lines as $i => $line) {
            foreach (explode("\n", wordwrap($line, 62)) as $row) {
                imagettftext($image, $i < 2 ? 30 : 21, 0, 140, $y, $ink, $i < 2 ? self::SERIF : self::FONT, $row);
                $y += $i < 2 ? 62 : 44;
            }
        }
    }

    private static function separator(GdImage $image, ?string $library, ?string $type): void
    {
        $ink = (int) imagecolorallocate($image, 20, 20, 20);
        imagettftext($image, 44, 0, 130, 220, $ink, self::SERIF, 'Separator sheet');
        $code = (new TCPDF2DBarcode((new SeparatorCode($library, $type))->text(), 'QRCODE,Q'))->getBarcodeArray();
        $side = 10;
        foreach ([560, 1_100] as $top) {
            foreach ($code['bcode'] as $y => $row) {
                foreach ($row as $x => $isDark) {
                    if ($isDark) {
                        imagefilledrectangle($image, 420 + $x * $side, $top + $y * $side, 420 + ($x + 1) * $side - 1, $top + ($y + 1) * $side - 1, $ink);
                    }
                }
            }
        }
    }
}
