<?php

declare(strict_types=1);

namespace Demo;

use GdImage;
use Symfony\Component\Process\Process;
use ZipArchive;

/** Makes real files of the kinds a records office gets. */
final class FileMaker
{
    private const FONT = '/usr/share/fonts/truetype/dejavu/DejaVuSans.ttf';

    private const SERIF = '/usr/share/fonts/truetype/dejavu/DejaVuSerif.ttf';

    /**
     * A PDF with a text layer.
     *
     * @param  list<array{string, list<string>}>  $pages  heading and paragraphs
     */
    public static function pdf(string $path, string $letterhead, array $pages): void
    {
        $pdf = new UndatedPdf('P', 'mm', 'A4');
        $pdf->SetMargins(25, 22, 22);
        $pdf->SetAutoPageBreak(true, 22);
        foreach ($pages as $i => [$heading, $paragraphs]) {
            $pdf->AddPage();
            $pdf->SetFont('Times', 'I', 9);
            $pdf->SetTextColor(90, 90, 90);
            $pdf->Cell(0, 5, self::latin($letterhead), 0, 0);
            $pdf->Cell(0, 5, (string) ($i + 1), 0, 1, 'R');
            $pdf->Line(25, 28, 188, 28);
            $pdf->Ln(8);
            $pdf->SetTextColor(0, 0, 0);
            $pdf->SetFont('Times', 'B', $i === 0 ? 17 : 13);
            $pdf->MultiCell(0, 8, self::latin($heading));
            $pdf->Ln(3);
            $pdf->SetFont('Times', '', 11);
            foreach ($paragraphs as $paragraph) {
                $pdf->MultiCell(0, 5.6, self::latin($paragraph));
                $pdf->Ln(2.5);
            }
        }
        $pdf->Output('F', $path);
    }

    /**
     * A page as it comes from a scanner: text as an image, a little askew, with specks.
     *
     * @param  list<string>  $lines
     */
    public static function scan(string $path, array $lines, Chance $chance, int $width = 1000, int $height = 640): void
    {
        $image = self::sheet($width, $height, [247, 243, 232]);
        $ink = (int) imagecolorallocate($image, 40, 36, 34);
        $y = 70;
        foreach ($lines as $i => $line) {
            foreach (explode("\n", wordwrap($line, (int) ($width / 15))) as $row) {
                imagettftext($image, $i === 0 ? 24 : 18, 0, 60, $y, $ink, $i === 0 ? self::SERIF : self::FONT, $row);
                $y += $i === 0 ? 46 : 33;
            }
        }
        for ($i = 0; $i < 120; $i++) {
            imagesetpixel($image, $chance->int(0, $width - 1), $chance->int(0, $height - 1), $ink);
        }
        self::save($image, $path);
    }

    /**
     * A drawing with lines, hatching and a title block.
     *
     * @param  list<string>  $title
     */
    public static function drawing(string $path, array $title, Chance $chance): void
    {
        [$width, $height] = [1000, 720];
        $image = self::sheet($width, $height, [238, 240, 234]);
        $ink = (int) imagecolorallocate($image, 52, 58, 82);
        $water = (int) imagecolorallocate($image, 196, 212, 216);
        imagesetthickness($image, 2);
        imagerectangle($image, 20, 20, $width - 20, $height - 20, $ink);
        $left = $chance->int(120, 260);
        $top = $chance->int(120, 220);
        imagefilledrectangle($image, $left, $top, $left + 640, $top + 160, $water);
        foreach ([0, 40, 120, 160] as $offset) {
            imageline($image, $left - 40, $top + $offset, $left + 700, $top + $offset, $ink);
        }
        foreach ([180, 470] as $gate) {
            imageline($image, $left + $gate, $top, $left + $gate + 50, $top + 80, $ink);
            imageline($image, $left + $gate, $top + 160, $left + $gate + 50, $top + 80, $ink);
        }
        for ($i = 0; $i < 24; $i++) {
            $x = $left + $i * 28;
            imageline($image, $x, $top + 300, $x + 30, $top + 300 - $chance->int(10, 90), $ink);
        }
        imagerectangle($image, $width - 520, $height - 200, $width - 20, $height - 20, $ink);
        foreach ($title as $i => $line) {
            imagettftext(
                $image,
                $i === 0 ? 20 : 15,
                0,
                $width - 500,
                $height - 155 + $i * 38,
                $ink,
                self::SERIF,
                mb_strimwidth($line, 0, 38, '…'),
            );
        }
        self::save($image, $path);
    }

    /** @return int<0, 255> */
    private static function shade(float $value): int
    {
        return max(0, min(255, (int) $value));
    }

    /** A view over water, drawn; a name on the bow if there is a vessel. */
    public static function photograph(string $path, string $caption, ?string $vessel, Chance $chance): void
    {
        [$width, $height] = [900, 620];
        $image = imagecreatetruecolor($width, $height);
        $grey = $chance->oneIn(2);
        $horizon = $chance->int(230, 330);
        for ($y = 0; $y < $height; $y++) {
            $t = $y < $horizon ? $y / $horizon : ($y - $horizon) / ($height - $horizon);
            [$r, $g, $b] = $y < $horizon ? [180 + 50 * $t, 196 + 40 * $t, 214 + 20 * $t] : [110 - 50 * $t, 128 - 50 * $t, 134 - 44 * $t];
            $mean = self::shade(($r + $g + $b) / 3);
            imageline(
                $image,
                0,
                $y,
                $width,
                $y,
                (int) ($grey ? imagecolorallocate($image, $mean, $mean, $mean) : imagecolorallocate($image, self::shade($r), self::shade($g), self::shade($b))),
            );
        }
        $dark = (int) imagecolorallocate($image, 52, 48, 46);
        $hill = [0, $horizon];
        for ($x = 0; $x <= $width; $x += 90) {
            array_push($hill, $x, $horizon - $chance->int(8, 70));
        }
        array_push($hill, $width, $horizon);
        imagefilledpolygon($image, $hill, (int) imagecolorallocate($image, 96, 104, 92));
        if ($vessel !== null) {
            $x = $chance->int(160, 420);
            imagefilledpolygon($image, [$x, 400, $x + 340, 400, $x + 300, 460, $x + 40, 460], $dark);
            imagefilledrectangle($image, $x + 90, 350, $x + 230, 400, (int) imagecolorallocate($image, 150, 60, 50));
            imagettftext($image, 17, 0, $x + 70, 437, (int) imagecolorallocate($image, 240, 236, 226), self::SERIF, $vessel);
        }
        imagefilledrectangle($image, 0, $height - 46, $width, $height, (int) imagecolorallocate($image, 246, 242, 234));
        imagettftext($image, 22, 0, 18, $height - 14, $dark, self::SERIF, $caption);
        self::save($image, $path);
    }

    /** A PDF whose pages are images only. */
    public static function imagePdf(string $path, string $image): void
    {
        $pdf = new UndatedPdf('P', 'mm', 'A4');
        $pdf->AddPage();
        $pdf->Image($image, 10, 15, 190);
        $pdf->Output('F', $path);
    }

    /** @param  list<string>  $paragraphs */
    public static function word(string $path, array $paragraphs): void
    {
        $body = '';
        foreach ($paragraphs as $paragraph) {
            $body .= '<w:p><w:r><w:t xml:space="preserve">'.htmlspecialchars($paragraph, ENT_XML1).'</w:t></w:r></w:p>';
        }
        $zip = new ZipArchive();
        $zip->open($path, ZipArchive::CREATE | ZipArchive::OVERWRITE);
        $zip->addFromString(
            '[Content_Types].xml',
            '<?xml version="1.0" encoding="UTF-8"?><Types xmlns="http://schemas.openxmlformats.org/package/2006/content-types"><Default Extension="rels" ContentType="application/vnd.openxmlformats-package.relationships+xml"/><Override PartName="/word/document.xml" ContentType="application/vnd.openxmlformats-officedocument.wordprocessingml.document.main+xml"/></Types>',
        );
        $zip->addFromString(
            '_rels/.rels',
            '<?xml version="1.0" encoding="UTF-8"?><Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships"><Relationship Id="r1" Type="http://schemas.openxmlformats.org/officeDocument/2006/relationships/officeDocument" Target="word/document.xml"/></Relationships>',
        );
        $zip->addFromString(
            'word/document.xml',
            '<?xml version="1.0" encoding="UTF-8"?><w:document xmlns:w="http://schemas.openxmlformats.org/wordprocessingml/2006/main"><w:body>'.
                $body.
                '</w:body></w:document>',
        );
        foreach (['[Content_Types].xml', '_rels/.rels', 'word/document.xml'] as $member) {
            $zip->setMtimeName($member, 1_700_000_000);
        }
        $zip->close();
    }

    /**
     * @param  list<string>  $attachments  files
     * @param  string  $id  before the “@” of its identifier; none when empty
     * @param  string  $answers  the same of the mail that it answers
     */
    public static function mail(
        string $path,
        string $from,
        string $to,
        string $subject,
        string $date,
        string $body,
        array $attachments,
        string $id = '',
        string $answers = '',
    ): void {
        $mark = 'part-'.substr(hash('sha256', $path.$subject), 0, 16);
        $text =
            "From: {$from}\r\nTo: {$to}\r\nSubject: {$subject}\r\nDate: ".
            gmdate('r', (int) strtotime($date.' 09:00 UTC')).
            "\r\nMIME-Version: 1.0\r\n";
        $text .= $id === '' ? '' : "Message-ID: <{$id}@tarnwick.example>\r\n";
        $text .= $answers === '' ? '' : "In-Reply-To: <{$answers}@tarnwick.example>\r\nReferences: <{$answers}@tarnwick.example>\r\n";
        if ($attachments === []) {
            $text .= "Content-Type: text/plain; charset=utf-8\r\nContent-Transfer-Encoding: 8bit\r\n\r\n{$body}\r\n";
        } else {
            $text .= "Content-Type: multipart/mixed; boundary=\"{$mark}\"\r\n\r\n--{$mark}\r\nContent-Type: text/plain; charset=utf-8\r\nContent-Transfer-Encoding: 8bit\r\n\r\n{$body}\r\n";
            foreach ($attachments as $file) {
                $name = basename($file);
                $text .=
                    "--{$mark}\r\nContent-Type: application/octet-stream; name=\"{$name}\"\r\nContent-Disposition: attachment; filename=\"{$name}\"\r\nContent-Transfer-Encoding: base64\r\n\r\n".
                    chunk_split(base64_encode((string) file_get_contents($file)));
            }
            $text .= "--{$mark}--\r\n";
        }
        file_put_contents($path, $text);
    }

    /** Weakly, because only the old way gives the same file every time. */
    public static function lock(string $path, string $target): void
    {
        (new Process([
            'qpdf',
            '--allow-weak-crypto',
            '--static-id',
            '--encrypt',
            'opens',
            'owns',
            '128',
            '--use-aes=n',
            '--',
            $path,
            $target,
        ]))->mustRun();
    }

    /** @param  array{int<0, 255>, int<0, 255>, int<0, 255>}  $colour */
    private static function sheet(int $width, int $height, array $colour): GdImage
    {
        $image = imagecreatetruecolor(max(1, $width), max(1, $height));
        imagefill($image, 0, 0, (int) imagecolorallocate($image, ...$colour));

        return $image;
    }

    private static function save(GdImage $image, string $path): void
    {
        str_ends_with($path, '.png') ? imagepng($image, $path, 2) : imagejpeg($image, $path, 80);
    }

    public static function latin(string $text): string
    {
        return (string) iconv('UTF-8', 'windows-1252//TRANSLIT//IGNORE', $text);
    }
}
