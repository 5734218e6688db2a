<?php

declare(strict_types=1);

namespace Brenvic\Core\Exchange\Escl;

/** What is asked of a scanner (eSCL, ScanSettings). */
final readonly class ScanSettings
{
    /**
     * @param  int  $dots  an inch
     * @param  bool  $isDuplex  both sides
     * @param  bool  $isFed  from the feeder; from the glass otherwise
     */
    public function __construct(public int $dots, public bool $isColour, public bool $isDuplex, public bool $isFed = true)
    {
    }

    public function xml(ScannerCapabilities $of): string
    {
        $source = $this->isFed ? 'Feeder' : 'Platen';
        $mode = $this->isColour ? 'RGB24' : 'Grayscale8';
        $duplex = $this->isFed && $of->hasDuplex ? '<scan:Duplex>'.($this->isDuplex ? 'true' : 'false').'</scan:Duplex>' : '';
        $region =
            $of->width > 0 && $of->height > 0
                ? '<pwg:ScanRegions><pwg:ScanRegion><pwg:ContentRegionUnits>escl:ThreeHundredthsOfInches</pwg:ContentRegionUnits>'.
                    '<pwg:XOffset>0</pwg:XOffset><pwg:YOffset>0</pwg:YOffset>'.
                    "<pwg:Width>{$of->width}</pwg:Width><pwg:Height>{$of->height}</pwg:Height></pwg:ScanRegion></pwg:ScanRegions>"
                : '';
        $version = htmlspecialchars($of->version, ENT_XML1);

        return '<?xml version="1.0" encoding="UTF-8"?>'.
            '<scan:ScanSettings xmlns:scan="http://schemas.hp.com/imaging/escl/2011/05/03" xmlns:pwg="http://www.pwg.org/schemas/2010/12/sm">'.
            "<pwg:Version>{$version}</pwg:Version><scan:Intent>Document</scan:Intent>{$region}".
            "<pwg:InputSource>{$source}</pwg:InputSource><scan:ColorMode>{$mode}</scan:ColorMode>".
            "<scan:XResolution>{$this->dots}</scan:XResolution><scan:YResolution>{$this->dots}</scan:YResolution>".
            "<pwg:DocumentFormat>image/jpeg</pwg:DocumentFormat><scan:DocumentFormatExt>image/jpeg</scan:DocumentFormatExt>{$duplex}".
            '</scan:ScanSettings>';
    }
}
