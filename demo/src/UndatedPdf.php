<?php

declare(strict_types=1);

namespace Demo;

use FPDF;

/** A PDF that says the same of itself whenever it is made. */
final class UndatedPdf extends FPDF
{
    public function _putinfo(): void
    {
        $this->CreationDate = 1_700_000_000;
        parent::_putinfo();
    }
}
