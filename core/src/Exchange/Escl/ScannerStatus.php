<?php

declare(strict_types=1);

namespace Brenvic\Core\Exchange\Escl;

use Brenvic\Core\Xml\InvalidXml;

/** How a scanner and its jobs fare (eSCL, ScannerStatus). */
final readonly class ScannerStatus
{
    /** What people have to do, by the state of the feeder. */
    private const TROUBLE = [
        'ScannerAdfJam' => 'Paper is jammed in the feeder. Take it out, lay what is left in again, and go on.',
        'ScannerAdfMispick' => 'The feeder could not take a sheet. Lay the stack in again, and go on.',
        'ScannerAdfMultipickDetected' => 'The feeder took two sheets at once. Lay both in again, and go on.',
        'ScannerAdfHatchOpen' => 'The lid of the feeder is open. Close it, and go on.',
        'ScannerAdfDuplexPageTooShort' => 'A sheet is too short for both sides. Take it out, and go on.',
        'ScannerAdfDuplexPageTooLong' => 'A sheet is too long for both sides. Take it out, and go on.',
        'ScannerAdfInputTrayFailed' => 'The feeder does not work. Look at the scanner, and go on.',
        'ScannerAdfInputTrayOverloaded' => 'There is too much paper in the feeder. Take some out, and go on.',
    ];

    /** @param  array<string, string>  $jobs  states by the address of the job */
    private function __construct(public string $state, public string $feeder, private array $jobs)
    {
    }

    /** @throws InvalidXml */
    public static function read(string $xml): self
    {
        $root = EsclXml::root($xml);
        if ($root->localName !== 'ScannerStatus') {
            throw new InvalidXml(false);
        }
        $jobs = [];
        foreach (EsclXml::all($root, 'JobInfo') as $job) {
            $jobs[self::last(EsclXml::text($job, 'JobUri'))] = EsclXml::text($job, 'JobState');
        }

        return new self(EsclXml::text($root, 'State'), EsclXml::text($root, 'AdfState'), $jobs);
    }

    /** What somebody has to do at the scanner; null when nothing is wrong. */
    public function trouble(): ?string
    {
        return self::TROUBLE[$this->feeder] ?? null;
    }

    public function isEmpty(): bool
    {
        return $this->feeder === 'ScannerAdfEmpty';
    }

    public function isBusy(): bool
    {
        return $this->state === 'Processing';
    }

    /** Pending, Processing, Completed, Canceled or Aborted; empty when the scanner no longer knows the job. */
    public function job(string $address): string
    {
        return $this->jobs[self::last($address)] ?? '';
    }

    private static function last(string $address): string
    {
        return basename(rtrim($address, '/'));
    }
}
