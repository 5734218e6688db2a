<?php

declare(strict_types=1);

namespace App\Scanning;

use App\Support\Refused;
use Brenvic\Core\Design\SourcePart;
use Brenvic\Core\Exchange\Escl\ScannerCapabilities;
use Brenvic\Core\Exchange\Escl\ScannerStatus;
use Brenvic\Core\Exchange\Escl\ScanSettings;
use Brenvic\Core\Xml\InvalidXml;
use Illuminate\Http\Client\ConnectionException;
use Illuminate\Http\Client\PendingRequest;
use Illuminate\Http\Client\Response;
use Illuminate\Support\Facades\Http;

/** A network scanner, spoken to by eSCL. Where it is says the server’s settings, so nobody can have anything else fetched. */
final readonly class Scanner
{
    /** Seconds to reach it, to have an answer, and to have a page: it may be drawing a sheet in. */
    private const CONNECT = 3;

    private const ANSWER = 6;

    private const PAGE = 60;

    private string $address;

    public function __construct(private SourcePart $source)
    {
        $address = config("brenvic.scanners.{$source->scanner}");
        if (! is_string($address) || preg_match('#^https?://[^/\s]+#', $address) !== 1) {
            throw new Refused("The server’s settings name no scanner “{$source->scanner}” (BRENVIC_SCANNERS).");
        }
        $this->address = rtrim($address, '/');
    }

    public function capabilities(): ScannerCapabilities
    {
        return $this->read(fn (): ScannerCapabilities => ScannerCapabilities::read($this->get('ScannerCapabilities')->body()));
    }

    public function status(): ScannerStatus
    {
        return $this->read(fn (): ScannerStatus => ScannerStatus::read($this->get('ScannerStatus')->body()));
    }

    /** Begins to scan. Returns the scanner’s address of the job. */
    public function begin(ScanSettings $settings, ScannerCapabilities $of): string
    {
        $response = $this->asked(
            fn (): Response => self::http()
                ->withBody($settings->xml($of), 'text/xml')
                ->post("{$this->address}/ScanJobs"),
        );
        if ($response->status() === 503) {
            throw new Refused("The scanner “{$this->source->name}” is in use. Try again in a moment.");
        }
        if ($response->status() === 409) {
            throw new Refused("The scanner “{$this->source->name}” does not take these settings. Choose others.");
        }
        $path = parse_url($response->header('Location'), PHP_URL_PATH);
        if ($response->status() !== 201 || ! is_string($path) || $path === '') {
            throw new Refused("The scanner “{$this->source->name}” did not begin (answer {$response->status()}).");
        }

        // Only its path: many scanners give a host name that only they know.
        return $this->root().$path;
    }

    /** The next page, into a file; null when there is none now, for whatever reason. */
    public function next(string $job, string $file): ?string
    {
        $response = $this->asked(
            fn (): Response => self::http(self::PAGE)
                ->withOptions(['sink' => $file])
                ->get(rtrim($job, '/').'/NextDocument'),
        );

        return $response->status() === 200 && filesize($file) > 0 ? $file : null;
    }

    public function end(string $job): void
    {
        // One that is over needs no end.
        $this->asked(fn (): Response => self::http()->delete($job));
    }

    private static function http(int $seconds = self::ANSWER): PendingRequest
    {
        return Http::connectTimeout(self::CONNECT)->timeout($seconds)->withoutRedirecting();
    }

    private function root(): string
    {
        return (string) preg_replace('#^(https?://[^/]+).*$#', '$1', $this->address);
    }

    private function get(string $what): Response
    {
        $response = $this->asked(
            fn (): Response => self::http()->get("{$this->address}/{$what}"),
        );
        if ($response->status() !== 200) {
            throw new Refused("The scanner “{$this->source->name}” answers {$response->status()}.");
        }

        return $response;
    }

    /** @param  \Closure(): Response  $ask */
    private function asked(\Closure $ask): Response
    {
        try {
            return $ask();
        } catch (ConnectionException) {
            throw new Refused("The scanner “{$this->source->name}” does not answer. Is it on?");
        }
    }

    /**
     * @template T
     *
     * @param  \Closure(): T  $read
     * @return T
     */
    private function read(\Closure $read): mixed
    {
        try {
            return $read();
        } catch (InvalidXml) {
            throw new Refused("What answers at the address of the scanner “{$this->source->name}” is no scanner.");
        }
    }
}
