<?php

declare(strict_types=1);

namespace App\Remote;

use App\Support\OpenNetwork;
use Brenvic\Core\Exchange\Sru\SruExplain;
use Brenvic\Core\Exchange\Sru\SruFault;
use Brenvic\Core\Exchange\Sru\SruRequest;
use Illuminate\Http\Client\ConnectionException;
use Illuminate\Http\Client\Response;
use Illuminate\Support\Facades\Cache;
use Illuminate\Support\Facades\Http;

/**
 * Asks the server of a remote repository, and never waits for it long: every request has its limits of time and size,
 * one that has just failed is left alone for a while, and few wait for one at once. So however slow it is, those who
 * search on here find processes free.
 */
final readonly class RemoteServer
{
    /** Seconds to reach it, to have its answer, and to have a file. */
    private const CONNECT = 2;

    private const ANSWER = 4;

    private const FILE = 30;

    /** Bytes of an answer. */
    private const ANSWER_BYTES = 4 * 1024 * 1024;

    /** Seconds that what it says of itself holds, that it is not asked again for it, and that it is left alone after it failed. */
    private const EXPLAINED = 3600;

    private const UNEXPLAINED = 300;

    private const REST = 20;

    /** Seconds that it is remembered how it went. */
    private const NOTED = 604_800;

    /** How many wait for one server at once. */
    private const AT_ONCE = 2;

    /** cURL’s numbers for an answer that takes too long, and for one that was cut off here. */
    private const TIMED_OUT = 28;

    private const CUT_OFF = [42, 63];

    /**
     * What the server can do, by its own word; one that does not explain itself is asked as any server is.
     *
     * @throws RemoteFault
     */
    public function explain(RemoteRepository $repository): SruExplain
    {
        $key = 'remote/explain/'.md5($repository->address);
        $known = Cache::get($key);
        if (is_string($known)) {
            return $known === '' ? new SruExplain() : SruExplain::read($known);
        }
        $xml = $this->text($repository, SruRequest::explain($repository->address));
        try {
            $explain = SruExplain::read($xml);
        } catch (SruFault) {
            Cache::put($key, '', self::UNEXPLAINED);

            return new SruExplain();
        }
        Cache::put($key, $xml, self::EXPLAINED);

        return $explain;
    }

    /** Forgets what is known of a server, and that it failed. */
    public function forget(RemoteRepository $repository): void
    {
        Cache::forget('remote/explain/'.md5($repository->address));
        Cache::forget('remote/down/'.md5($repository->address));
    }

    /** @throws RemoteFault */
    public function text(RemoteRepository $repository, string $address): string
    {
        $key = 'remote/down/'.md5($repository->address);
        /** @var array{string, string}|null $down */
        $down = Cache::get($key);
        if ($down !== null) {
            throw new RemoteFault($down[0], RemoteState::from($down[1]));
        }
        $since = hrtime(true);
        try {
            $body = $this->get($repository, $address, self::ANSWER, self::ANSWER_BYTES)->body();
            self::note($repository, '', $since);

            return $body;
        } catch (RemoteFault $fault) {
            $fault->state === RemoteState::Busy || self::note($repository, $fault->getMessage(), $since);
            // That others wait for it is no failing of the server.
            if ($fault->state !== RemoteState::Busy) {
                Cache::put($key, [$fault->getMessage(), $fault->state->value], self::REST);
            }
            throw $fault;
        }
    }

    /**
     * Fetches what a record describes into a file.
     *
     * @throws RemoteFault
     */
    public function file(RemoteRepository $repository, string $address, string $path): void
    {
        if (! $repository->serves($address)) {
            throw new RemoteFault("It is not kept at {$repository->name} itself; open its address to download it.");
        }
        $this->get($repository, $address, self::FILE, (int) config('brenvic.limits.file_bytes'), $path);
    }

    /**
     * How it went when it was asked last.
     *
     * @return array{at: string, says: string, milliseconds: int}|null `says` is empty when it answered; null when nobody asked lately
     */
    public static function last(RemoteRepository $repository): ?array
    {
        /** @var array{at: string, says: string, milliseconds: int}|null */
        return Cache::get('remote/last/'.md5($repository->address));
    }

    private static function note(RemoteRepository $repository, string $says, int $since): void
    {
        $last = ['at' => now()->toIso8601String(), 'says' => $says, 'milliseconds' => (int) ((hrtime(true) - $since) / 1e6)];
        Cache::put('remote/last/'.md5($repository->address), $last, self::NOTED);
    }

    /**
     * Takes one of the few places of those who wait for the server, those for files apart from those for answers.
     *
     * @throws RemoteFault
     */
    private function get(RemoteRepository $repository, string $address, int $seconds, int $bytes, ?string $path = null): Response
    {
        $places = 'remote/'.($path === null ? 'answer' : 'file').'/'.md5($repository->address);
        for ($i = 0; $i < self::AT_ONCE; $i++) {
            $response = Cache::lock("{$places}/{$i}", self::CONNECT + $seconds)->get(
                fn (): Response => $this->fetch($repository, $address, $seconds, $bytes, $path),
            );
            if ($response instanceof Response) {
                return $response;
            }
        }
        throw new RemoteFault("{$repository->name} is still answering others. Try again in a moment.", RemoteState::Busy);
    }

    /** @throws RemoteFault */
    private function fetch(RemoteRepository $repository, string $address, int $seconds, int $bytes, ?string $path): Response
    {
        $isTooLarge = false;
        $options = $path === null ? [] : ['sink' => $path];
        $curl = [
            CURLOPT_MAXFILESIZE => $bytes,
            CURLOPT_NOPROGRESS => false,
            CURLOPT_XFERINFOFUNCTION => static function (mixed $handle, int $size, int $had) use ($bytes, &$isTooLarge): int {
                return ($isTooLarge = $had > $bytes) ? 1 : 0;
            },
        ];
        $host = strtolower((string) parse_url($address, PHP_URL_HOST));
        $standIn = (string) (config('brenvic.stand_ins')[$host] ?? '');
        if ($standIn !== '') {
            $curl[CURLOPT_CONNECT_TO] = ["{$host}::{$standIn}"];
            $options['proxy'] = '';
        } else {
            $curl +=
                OpenNetwork::pinned($address) ??
                throw new RemoteFault(
                    "{$repository->name} is on this machine or in a private network, where nothing is fetched from. Whoever runs Brenvic can allow it (BRENVIC_PRIVATE_NETWORKS).",
                );
        }
        try {
            $response = Http::connectTimeout(self::CONNECT)
                ->timeout($seconds)
                ->withoutRedirecting()
                ->withUserAgent('Brenvic')
                ->withOptions([...$options, 'curl' => $curl])
                ->get($address);
        } catch (ConnectionException $fault) {
            $number = preg_match('/cURL error (\d+)/', $fault->getMessage(), $m) === 1 ? (int) $m[1] : 0;
            throw match (true) {
                $isTooLarge || in_array($number, self::CUT_OFF, true) => new RemoteFault(
                    "{$repository->name} sends more than can be taken.",
                ),
                $number === self::TIMED_OUT => new RemoteFault(
                    "{$repository->name} did not answer within {$seconds} seconds.",
                    RemoteState::Slow,
                ),
                default => new RemoteFault("{$repository->name} cannot be reached."),
            };
        }
        if ($response->redirect()) {
            $to = (string) parse_url((string) $response->header('Location'), PHP_URL_HOST);
            throw new RemoteFault(
                "{$repository->name} sends requests on".
                    ($to === '' ? ' to another address' : " to {$to}").
                    ', which is not followed. If it has moved, its address is changed in Design.',
            );
        }
        if (! $response->successful()) {
            throw new RemoteFault("{$repository->name} answers with an error ({$response->status()}).");
        }

        return $response;
    }
}
