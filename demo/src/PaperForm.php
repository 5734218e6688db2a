<?php

declare(strict_types=1);

namespace Demo;

/**
 * A paper form: the same particulars in one of five arrangements, as offices and contractors have forms of their own. Each arrangement
 * has words of its own beside the values, and its own way of writing dates and sums.
 */
final readonly class PaperForm
{
    private const LEFT = 25.0;

    private const WIDTH = 163.0;

    /**
     * @param  int<0, 4>  $arrangement
     * @param  string  $opening  a sentence with the particulars, for the arrangement that has no fields
     * @param  list<array{non-empty-list<string>, string, 2?: bool}>  $particulars  printed words, one for all or one for each
     *                                                                              arrangement; value; whether the opening says it
     * @param  list<array{string, list<string>}>  $pages  heading and paragraphs; the first has the particulars
     */
    public function __construct(
        private int $arrangement,
        private string $letterhead,
        private string $opening,
        private array $particulars,
        private array $pages,
        private string $signed,
    ) {
    }

    /** @param  int<0, 4>  $arrangement */
    public static function date(string $date, int $arrangement): string
    {
        return date([2 => 'd/m/Y', 3 => 'd.m.Y', 0 => 'j M Y'][$arrangement] ?? 'j F Y', (int) strtotime("{$date} 12:00 UTC"));
    }

    /** @param  int<0, 4>  $arrangement */
    public static function sum(string $pounds, int $arrangement): string
    {
        return match ($arrangement) {
            0, 3 => number_format((int) $pounds).' pounds',
            1 => '£'.number_format((int) $pounds, 2),
            2 => 'GBP '.$pounds,
            4 => '£'.number_format((int) $pounds),
        };
    }

    public function write(string $path): void
    {
        $pdf = new UndatedPdf('P', 'mm', 'A4');
        $pdf->SetMargins(self::LEFT, 22, 22);
        $pdf->SetAutoPageBreak(true, 22);
        foreach ($this->pages as $i => [$heading, $paragraphs]) {
            $pdf->AddPage();
            $this->head($pdf, $i + 1);
            $this->heading($pdf, $heading, $i === 0);
            if ($i > 0) {
                self::text($pdf, $paragraphs);

                continue;
            }
            match ($this->arrangement) {
                0 => self::text($pdf, [$this->opening]),
                1 => $this->table($pdf),
                2 => $this->boxes($pdf),
                4 => $this->leaders($pdf),
                default => null,
            };
            self::text($pdf, $paragraphs);
            match ($this->arrangement) {
                0 => self::text($pdf, [$this->rest()]),
                3 => $this->particulars($pdf),
                default => null,
            };
            $this->signature($pdf);
        }
        $pdf->Output('F', $path);
    }

    private function label(int $particular): string
    {
        $labels = $this->particulars[$particular][0];

        return $labels[$this->arrangement] ?? $labels[0];
    }

    private function head(UndatedPdf $pdf, int $page): void
    {
        $pdf->SetTextColor(90, 90, 90);
        if ($this->arrangement >= 3) {
            $pdf->SetFont('Helvetica', 'B', 12);
            $pdf->MultiCell(0, 5.5, FileMaker::latin(str_replace('  ', "\n", $this->letterhead)), 0, $this->arrangement === 3 ? 'C' : 'R');
            $pdf->Ln(4);
        } else {
            $pdf->SetFont($this->arrangement === 0 ? 'Times' : 'Helvetica', 'I', 9);
            $pdf->Cell(0, 5, FileMaker::latin($this->letterhead), 0, 0);
            $pdf->Cell(0, 5, (string) $page, 0, 1, 'R');
            $pdf->Line(self::LEFT, 28, self::LEFT + self::WIDTH, 28);
            $pdf->Ln(8);
        }
        $pdf->SetTextColor(0, 0, 0);
    }

    private function heading(UndatedPdf $pdf, string $heading, bool $isFirst): void
    {
        $pdf->SetFont($this->arrangement % 2 === 0 ? 'Times' : 'Helvetica', 'B', $isFirst ? 16 : 12);
        $pdf->MultiCell(0, 8, FileMaker::latin($this->arrangement === 4 && $isFirst ? "Re: {$heading}" : $heading), 0, $this->arrangement === 3 ? 'C' : 'L');
        $pdf->Ln(3);
    }

    /** @param  list<string>  $paragraphs */
    private static function text(UndatedPdf $pdf, array $paragraphs): void
    {
        $pdf->SetFont('Times', '', 11);
        foreach (array_filter($paragraphs, static fn (string $text): bool => $text !== '') as $paragraph) {
            $pdf->MultiCell(0, 5.6, FileMaker::latin($paragraph));
            $pdf->Ln(2.5);
        }
    }

    /** What the opening does not say, in a line. */
    private function rest(): string
    {
        $rest = [];
        foreach ($this->particulars as $i => $of) {
            if (! ($of[2] ?? false) && $of[1] !== '') {
                $rest[] = "{$this->label($i)}: {$of[1]}.";
            }
        }

        return implode(' ', $rest);
    }

    private function table(UndatedPdf $pdf): void
    {
        foreach ($this->particulars as $i => [, $value]) {
            $pdf->SetFont('Helvetica', 'B', 9);
            $pdf->Cell(48, 6.5, FileMaker::latin($this->label($i)), 1);
            $pdf->SetFont('Helvetica', '', 10);
            $pdf->Cell(0, 6.5, FileMaker::latin($value), 1, 1);
        }
        $pdf->Ln(4);
    }

    private function boxes(UndatedPdf $pdf): void
    {
        $half = self::WIDTH / 2;
        foreach (array_chunk($this->particulars, 2, true) as $row) {
            $top = $pdf->GetY();
            $x = self::LEFT;
            foreach ($row as $i => [, $value]) {
                $pdf->Rect($x, $top, $half, 12);
                $pdf->SetFont('Helvetica', '', 7);
                $pdf->SetXY($x + 1, $top + 0.5);
                $pdf->Cell($half, 4.5, FileMaker::latin($this->label($i)));
                $pdf->SetFont('Courier', '', 11);
                $pdf->SetXY($x + 1, $top + 5);
                $pdf->Cell($half, 6, FileMaker::latin($value));
                $x += $half;
            }
            $pdf->SetXY(self::LEFT, $top + 12);
        }
        $pdf->Ln(4);
    }

    private function leaders(UndatedPdf $pdf): void
    {
        foreach ($this->particulars as $i => [, $value]) {
            $pdf->SetFont('Times', '', 11);
            $label = FileMaker::latin($this->label($i).' ');
            $pdf->Cell(60, 6, $label.str_repeat('.', max(3, (int) ((58 - $pdf->GetStringWidth($label)) / $pdf->GetStringWidth('.')))));
            $pdf->SetFont('Times', 'B', 11);
            $pdf->Cell(0, 6, FileMaker::latin($value), 0, 1);
        }
        $pdf->Ln(4);
    }

    private function particulars(UndatedPdf $pdf): void
    {
        $pdf->Ln(2);
        foreach ($this->particulars as $i => [, $value]) {
            $pdf->SetFont('Helvetica', '', 10);
            $pdf->Cell(70, 6, FileMaker::latin($this->label($i).':'), 0, 0, 'R');
            $pdf->SetFont('Helvetica', 'B', 10);
            $pdf->Cell(0, 6, '  '.FileMaker::latin($value), 0, 1);
        }
    }

    private function signature(UndatedPdf $pdf): void
    {
        $pdf->Ln(4);
        $pdf->SetFont('Times', 'I', 15);
        $pdf->Cell(0, 8, FileMaker::latin($this->signed), 0, 1, $this->arrangement % 2 === 0 ? 'L' : 'R');
    }
}
