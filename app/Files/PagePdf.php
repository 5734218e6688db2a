<?php

declare(strict_types=1);

namespace App\Files;

use App\Support\ExternalProgram;
use setasign\Fpdi\Tcpdf\Fpdi;

/** A PDF that is written page by page in points, with nothing on its pages but what is put there. */
final class PagePdf extends Fpdi
{
    /** How many pages a PDF has; none when it cannot be opened. */
    public static function count(string $path, string $folder): int
    {
        [$code, $output] = ExternalProgram::run(['qpdf', '--warning-exit-0', '--show-npages', $path], $folder);

        return $code === 0 ? (int) trim($output) : 0;
    }

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
}
