<?php

declare(strict_types=1);

use Brenvic\Core\Exchange\Escl\ScannerCapabilities;
use Brenvic\Core\Exchange\Escl\ScannerStatus;
use Brenvic\Core\Exchange\Escl\ScanSettings;
use Brenvic\Core\Xml\InvalidXml;

const ESCL = 'xmlns:scan="http://schemas.hp.com/imaging/escl/2011/05/03" xmlns:pwg="http://www.pwg.org/schemas/2010/12/sm"';

function capabilities(string $inside): string
{
    return '<?xml version="1.0"?><scan:ScannerCapabilities '.ESCL.'><pwg:Version>2.6</pwg:Version>'.
        "<pwg:MakeAndModel>Some scanner</pwg:MakeAndModel>{$inside}</scan:ScannerCapabilities>";
}

it('reads what a scanner with a feeder can do', function () {
    $caps = '<scan:MaxWidth>2550</scan:MaxWidth><scan:MaxHeight>4200</scan:MaxHeight><scan:ColorMode>RGB24</scan:ColorMode>';
    $some = implode('', array_map(static fn (int $d): string => "<scan:XResolution>{$d}</scan:XResolution>", [300, 100, 300]));
    $can = ScannerCapabilities::read(capabilities("<scan:Platen/><scan:Adf><scan:AdfSimplexInputCaps>{$caps}{$some}</scan:AdfSimplexInputCaps>".
        '<scan:AdfDuplexInputCaps/></scan:Adf>'));
    expect($can)->toEqual(new ScannerCapabilities('2.6', 'Some scanner', [100, 300], true, true, true, true, 2550, 4200));
});

it('reads one with a glass only, whatever prefixes it uses, and offers what is usual of a range', function () {
    $xml = '<ScannerCapabilities xmlns="urn:escl"><Platen><PlatenInputCaps><MaxWidth>2480</MaxWidth><MaxHeight>3508</MaxHeight>'.
        '<ColorMode>Grayscale8</ColorMode><XResolutionRange><Min>75</Min><Max>300</Max><Step>1</Step></XResolutionRange>'.
        '</PlatenInputCaps></Platen></ScannerCapabilities>';
    expect(ScannerCapabilities::read($xml))
        ->toEqual(new ScannerCapabilities('2.0', '', [100, 150, 200, 300], false, true, false, false, 2480, 3508));
});

it('asks for what was chosen, and for both sides only where there are any', function () {
    $can = new ScannerCapabilities('2.63', 'S', [200], true, false, true, true, 2480, 3508);
    $xml = (new ScanSettings(200, true, true))->xml($can);
    $document = new DOMDocument();
    expect($document->loadXML($xml))->toBeTrue();
    $said = static fn (string $name): string => $document->getElementsByTagNameNS('*', $name)->item(0)->textContent ?? '–';
    expect([$said('Version'), $said('InputSource'), $said('ColorMode'), $said('XResolution'), $said('Duplex'), $said('Width')])
        ->toBe(['2.63', 'Feeder', 'RGB24', '200', 'true', '2480']);
    $simple = (new ScanSettings(200, false, true, false))->xml(new ScannerCapabilities('2.0', 'S', [200], false, true, false, false, 0, 0));
    expect($simple)->toContain('Platen', 'Grayscale8')->not->toContain('Duplex', 'ScanRegion');
});

it('tells what somebody has to do at the scanner, and how a job fares', function () {
    $status = static fn (string $state, string $feeder, string $job): ScannerStatus => ScannerStatus::read(
        '<scan:ScannerStatus '.ESCL."><pwg:State>{$state}</pwg:State><scan:AdfState>{$feeder}</scan:AdfState><scan:Jobs><scan:JobInfo>".
        "<pwg:JobUri>/eSCL/ScanJobs/17</pwg:JobUri><pwg:JobState>{$job}</pwg:JobState></scan:JobInfo></scan:Jobs></scan:ScannerStatus>",
    );
    $jam = $status('Stopped', 'ScannerAdfJam', 'Aborted');
    expect($jam->trouble())->toContain('jammed')
        ->and($jam->job('http://elsewhere.example/eSCL/ScanJobs/17/'))->toBe('Aborted')
        ->and($jam->job('/eSCL/ScanJobs/18'))->toBe('');
    $empty = $status('Idle', 'ScannerAdfEmpty', 'Completed');
    expect([$empty->trouble(), $empty->isEmpty(), $empty->isBusy()])->toBe([null, true, false]);
    expect($status('Processing', 'ScannerAdfProcessing', 'Processing')->isBusy())->toBeTrue();
});

it('takes nothing for a scanner that is none', function (string $xml) {
    expect(static fn () => ScannerCapabilities::read($xml))->toThrow(InvalidXml::class)
        ->and(static fn () => ScannerStatus::read($xml))->toThrow(InvalidXml::class);
})->with(['', 'Not found.', '<html/>', '<!DOCTYPE a [<!ENTITY b "c">]><ScannerCapabilities>&b;</ScannerCapabilities>']);
