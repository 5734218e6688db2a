<?php

declare(strict_types=1);

namespace Demo\Scanner;

/**
 * A network scanner that is not there: it speaks eSCL as real ones do, and has a stack of the Trust’s post in its feeder. In the
 * middle of it paper jams once; whoever goes on has taken it out. When the stack is through, the next one is laid in.
 */
final class OfficeScanner
{
    /** The sheet before which paper jams. */
    private const JAM = 9;

    private const DOTS = [100, 150, 200, 300];

    /** Of A4, in three-hundredths of an inch. */
    private const WIDTH = 2_480;

    private const HEIGHT = 3_508;

    public function __construct(private readonly string $folder)
    {
        is_dir($folder) || mkdir($folder, 0770, true);
    }

    /** @return array{int, array<string, string>, string} status, headers, body */
    public function answer(string $method, string $path, string $body): array
    {
        $lock = fopen("{$this->folder}/lock", 'c') ?: throw new \RuntimeException('No lock.');
        flock($lock, LOCK_EX);
        $job = preg_match('#^/eSCL/ScanJobs/([0-9a-f]+)(/NextDocument)?$#', $path, $m) === 1 ? $m : null;

        return match (true) {
            $method === 'GET' && $path === '/eSCL/ScannerCapabilities' => self::xml($this->capabilities()),
            $method === 'GET' && $path === '/eSCL/ScannerStatus' => self::xml($this->status()),
            $method === 'POST' && $path === '/eSCL/ScanJobs' => $this->begin($body),
            $method === 'GET' && isset($job[2]) => $this->next($job[1]),
            $method === 'DELETE' && $job !== null => $this->end($job[1]),
            default => [404, ['Content-Type' => 'text/plain'], 'Not found.'],
        };
    }

    /** @return array{sheet: int, jammed: bool, freed: bool, job: string, state: string, dots: int, colour: bool, duplex: bool, back: bool} */
    private function state(): array
    {
        $kept = json_decode((string) @file_get_contents("{$this->folder}/state.json"), true);
        $kept = is_array($kept) ? $kept : [];

        return [
            'sheet' => (int) ($kept['sheet'] ?? 0),
            'jammed' => (bool) ($kept['jammed'] ?? false),
            'freed' => (bool) ($kept['freed'] ?? false),
            'job' => (string) ($kept['job'] ?? ''),
            'state' => (string) ($kept['state'] ?? ''),
            'dots' => (int) ($kept['dots'] ?? 150),
            'colour' => (bool) ($kept['colour'] ?? true),
            'duplex' => (bool) ($kept['duplex'] ?? true),
            'back' => (bool) ($kept['back'] ?? false),
        ];
    }

    /** @param  array<string, mixed>  $state */
    private function keep(array $state): void
    {
        file_put_contents("{$this->folder}/state.json", json_encode($state, JSON_THROW_ON_ERROR));
    }

    /** @return array{int, array<string, string>, string} */
    private function begin(string $body): array
    {
        $state = $this->state();
        if ($state['state'] === 'Processing') {
            return [503, ['Content-Type' => 'text/plain'], 'Busy.'];
        }
        $said = static fn (string $name): string => preg_match("#<(?:\\w+:)?{$name}>([^<]+)<#", $body, $m) === 1 ? $m[1] : '';
        $dots = (int) $said('XResolution');
        if (! in_array($dots, self::DOTS, true) || ! in_array($said('InputSource'), ['Feeder', ''], true)) {
            return [409, ['Content-Type' => 'text/plain'], 'Not these settings.'];
        }
        // What was jammed is taken out by whoever goes on; a stack that is through is followed by the next.
        $state = [
            ...$state,
            'sheet' => $state['sheet'] >= count(Stack::sheets()) ? 0 : $state['sheet'],
            'freed' => $state['sheet'] >= count(Stack::sheets()) ? false : $state['freed'] || $state['jammed'],
            'jammed' => false,
            'back' => false,
            'job' => bin2hex(random_bytes(8)),
            'state' => 'Processing',
            'dots' => $dots,
            'colour' => str_starts_with($said('ColorMode'), 'RGB'),
            'duplex' => $said('Duplex') === 'true',
        ];
        $this->keep($state);

        return [201, ['Location' => "/eSCL/ScanJobs/{$state['job']}"], ''];
    }

    /** @return array{int, array<string, string>, string} */
    private function next(string $job): array
    {
        $state = $this->state();
        if ($state['job'] !== $job || $state['state'] !== 'Processing') {
            return [404, ['Content-Type' => 'text/plain'], 'No more pages.'];
        }
        if ($state['sheet'] === self::JAM && ! $state['back'] && ! $state['freed']) {
            $this->keep([...$state, 'jammed' => true, 'state' => 'Aborted']);

            return [409, ['Content-Type' => 'text/plain'], 'Jam.'];
        }
        $sheets = Stack::sheets();
        if ($state['sheet'] >= count($sheets)) {
            $this->keep([...$state, 'state' => 'Completed']);

            return [404, ['Content-Type' => 'text/plain'], 'No more pages.'];
        }
        $picture = Stack::picture("{$this->folder}/pages", $state['sheet'], $state['back'], $state['dots'], $state['colour']);
        $isFront = $state['duplex'] && ! $state['back'];
        $this->keep([...$state, 'back' => $isFront, 'sheet' => $isFront ? $state['sheet'] : $state['sheet'] + 1]);

        return [200, ['Content-Type' => 'image/jpeg', 'Content-Location' => "/eSCL/ScanJobs/{$job}/NextDocument"], $picture];
    }

    /** @return array{int, array<string, string>, string} */
    private function end(string $job): array
    {
        $state = $this->state();
        if ($state['job'] !== $job) {
            return [404, ['Content-Type' => 'text/plain'], 'No such job.'];
        }
        $this->keep([...$state, 'state' => $state['state'] === 'Processing' ? 'Canceled' : $state['state']]);

        return [200, [], ''];
    }

    private function status(): string
    {
        $state = $this->state();
        $feeder = match (true) {
            $state['jammed'] => 'ScannerAdfJam',
            $state['sheet'] >= count(Stack::sheets()) => 'ScannerAdfEmpty',
            default => 'ScannerAdfLoaded',
        };
        $jobs =
            $state['job'] === ''
                ? ''
                : "<scan:Jobs><scan:JobInfo><pwg:JobUri>/eSCL/ScanJobs/{$state['job']}</pwg:JobUri><pwg:JobUuid>{$state['job']}</pwg:JobUuid>".
                    "<scan:Age>1</scan:Age><pwg:JobState>{$state['state']}</pwg:JobState></scan:JobInfo></scan:Jobs>";

        return '<scan:ScannerStatus'.self::NAMES.'><pwg:Version>2.63</pwg:Version>'.
            '<pwg:State>'.($state['state'] === 'Processing' ? 'Processing' : ($state['jammed'] ? 'Stopped' : 'Idle')).'</pwg:State>'.
            "<scan:AdfState>{$feeder}</scan:AdfState>{$jobs}</scan:ScannerStatus>";
    }

    private function capabilities(): string
    {
        $resolutions = implode('', array_map(
            static fn (int $dots): string => "<scan:DiscreteResolution><scan:XResolution>{$dots}</scan:XResolution>".
                "<scan:YResolution>{$dots}</scan:YResolution></scan:DiscreteResolution>",
            self::DOTS,
        ));
        $input = '<scan:MinWidth>16</scan:MinWidth><scan:MaxWidth>'.self::WIDTH.'</scan:MaxWidth><scan:MinHeight>16</scan:MinHeight>'.
            '<scan:MaxHeight>'.self::HEIGHT.'</scan:MaxHeight><scan:MaxScanRegions>1</scan:MaxScanRegions><scan:SettingProfiles><scan:SettingProfile>'.
            '<scan:ColorModes><scan:ColorMode>Grayscale8</scan:ColorMode><scan:ColorMode>RGB24</scan:ColorMode></scan:ColorModes>'.
            '<scan:DocumentFormats><pwg:DocumentFormat>image/jpeg</pwg:DocumentFormat><scan:DocumentFormatExt>image/jpeg</scan:DocumentFormatExt>'.
            "</scan:DocumentFormats><scan:SupportedResolutions><scan:DiscreteResolutions>{$resolutions}</scan:DiscreteResolutions>".
            '</scan:SupportedResolutions></scan:SettingProfile></scan:SettingProfiles><scan:SupportedIntents><scan:Intent>Document</scan:Intent>'.
            '</scan:SupportedIntents>';

        return '<scan:ScannerCapabilities'.self::NAMES.'><pwg:Version>2.63</pwg:Version><pwg:MakeAndModel>Simulated office scanner</pwg:MakeAndModel>'.
            '<pwg:SerialNumber>0001</pwg:SerialNumber><scan:UUID>5f1c2b8e-0000-4000-8000-000000000001</scan:UUID>'.
            "<scan:Adf><scan:AdfSimplexInputCaps>{$input}</scan:AdfSimplexInputCaps><scan:AdfDuplexInputCaps>{$input}</scan:AdfDuplexInputCaps>".
            '<scan:FeederCapacity>50</scan:FeederCapacity><scan:AdfOptions><scan:AdfOption>DetectPaperLoaded</scan:AdfOption>'.
            '<scan:AdfOption>Duplex</scan:AdfOption></scan:AdfOptions></scan:Adf></scan:ScannerCapabilities>';
    }

    private const NAMES = ' xmlns:scan="http://schemas.hp.com/imaging/escl/2011/05/03" xmlns:pwg="http://www.pwg.org/schemas/2010/12/sm"';

    /** @return array{int, array<string, string>, string} */
    private static function xml(string $body): array
    {
        return [200, ['Content-Type' => 'text/xml'], '<?xml version="1.0" encoding="UTF-8"?>'.$body];
    }
}
