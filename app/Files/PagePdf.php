<?php

declare(strict_types=1);

namespace App\Files;

use Brenvic\Core\Capture\TextPage;
use Brenvic\Core\Pages\Box;
use setasign\Fpdi\Tcpdf\Fpdi;

/** A PDF that is written page by page in points, with nothing on its pages but what is put there. */
final class PagePdf extends Fpdi
{
    public function __construct()
    {
        parent::__construct('P', 'pt', 'A4', true, 'UTF-8');
        $this->tcpdflink = false;
        $this->setPrintHeader(false);
        $this->setPrintFooter(false);
        $this->setAutoPageBreak(false);
        $this->setMargins(0, 0, 0);
        $this->setCellPaddings(0, 0, 0, 0);
        $this->setCreator('Brenvic');
    }

    /** Puts the words of a page where they are, to be found and chosen, not to be seen. */
    public function layWords(TextPage $page): void
    {
        foreach (self::runs($page) as [$text, $box]) {
            $this->setFont('dejavusans', '', max(1.0, ($box->bottom - $box->top) * 0.8));
            $this->setFontStretching(100);
            $natural = $this->GetStringWidth($text);
            $this->setFontStretching($natural > 0 ? (int) max(10, min(400, (100 * ($box->right - $box->left)) / $natural)) : 100);
            // Neither filled nor drawn.
            $this->Text($box->left, $box->top, $text, 0, false, false);
        }
        $this->setFontStretching(100);
    }

    /**
     * Words that stand beside one another, as one piece of text each: far fewer than words, and where they were.
     *
     * @return list<array{string, Box}>
     */
    private static function runs(TextPage $page): array
    {
        $runs = [];
        foreach ($page->words as $word) {
            $text = substr($page->text, $word->offset, $word->length);
            $box = Box::ofWord($word);
            $last = array_key_last($runs);
            $height = $box->bottom - $box->top;
            if (
                $last !== null &&
                abs($runs[$last][1]->top - $box->top) < $height * 0.2 &&
                $box->left >= $runs[$last][1]->right &&
                $box->left - $runs[$last][1]->right < $height * 0.6
            ) {
                $runs[$last] = [
                    "{$runs[$last][0]} {$text}",
                    new Box($runs[$last][1]->left, $runs[$last][1]->top, $box->right, max($runs[$last][1]->bottom, $box->bottom)),
                ];
            } else {
                $runs[] = [$text, $box];
            }
        }

        return $runs;
    }
}
