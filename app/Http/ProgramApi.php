<?php

declare(strict_types=1);

namespace App\Http;

use Closure;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Http\Response as PlainResponse;
use Illuminate\Support\Facades\Cache;
use Illuminate\Support\Facades\RateLimiter;
use Symfony\Component\HttpFoundation\Response;

/**
 * `/api/v1`: the same API for programs, with what they expect of one. Only tokens are let in; faults are problem details (RFC 9457);
 * what is as it was is not sent again, and nothing is changed that is other than who asks knows (RFC 9110, ETag, If-None-Match,
 * If-Match); what creates something is done once, however often it is sent (Idempotency-Key); how much may be asked is said.
 */
final class ProgramApi
{
    public const PREFIX = '/api/v1';

    /** Requests of a token, a minute. */
    private const MOST = 600;

    /** Seconds that an answer is kept to be given again. */
    private const KEPT = 86_400;

    private const LONGEST_KEY = 200;

    /** What the head of a fault says besides. */
    private const KEPT_OF_FAULTS = [
        'Retry-After' => 'Retry-After',
        'Upload-Offset' => 'Upload-Offset',
        'Upload-Complete' => 'Upload-Complete',
    ];

    /** Bytes of an answer that is kept. */
    private const LARGEST = 1_000_000;

    public function handle(Request $request, Closure $next): Response
    {
        $path = $request->getPathInfo();
        if ($path !== self::PREFIX && ! str_starts_with($path, self::PREFIX.'/')) {
            return $next($request);
        }
        if ($path === self::PREFIX.'/openapi.json' && $request->isMethod('GET')) {
            return self::description();
        }
        $token = (string) $request->bearerToken();
        if ($token === '') {
            return self::problem(401, 'sign_in', 'Send a token: Authorization: Bearer …')->withHeaders(['WWW-Authenticate' => 'Bearer']);
        }
        $who = 'v1/'.hash('sha256', $token);
        if (RateLimiter::tooManyAttempts($who, self::MOST)) {
            $seconds = RateLimiter::availableIn($who);

            return self::limited(
                self::problem(429, 'too_many', "Ask again in {$seconds} seconds.")->withHeaders(['Retry-After' => (string) $seconds]),
                $who,
            );
        }
        RateLimiter::hit($who);

        return self::limited($this->once($request, $who, fn (): Response => $this->answered($request, $next)), $who);
    }

    /** The same request to what answers the interface. */
    private function answered(Request $request, Closure $next): Response
    {
        self::redirect($request);
        $match = trim((string) $request->headers->get('If-Match'));
        if ($match !== '' && preg_match('/^"(\d+)-/', $match, $known) === 1) {
            $request->merge(['lock_version' => (int) $known[1]]);
        }
        $response = $next($request);
        if ($response->getStatusCode() >= 400) {
            return self::asProblem($response, $match !== '');
        }
        $body = (string) $response->getContent();
        if (
            $request->isMethod('GET') &&
            str_starts_with((string) $response->headers->get('Content-Type'), 'application/json') &&
            $body !== ''
        ) {
            $lock = json_decode($body, true)['lock_version'] ?? null;
            $response->setEtag((is_int($lock) ? "{$lock}-" : '').substr(hash('sha256', $body), 0, 20));
            $response->headers->hasCacheControlDirective('no-store') || $response->headers->set('Cache-Control', 'private, no-cache');
            $response->isNotModified($request);
        }

        return $response;
    }

    /** What is sent with a key is done once: sent again, it is answered as it was. */
    private function once(Request $request, string $who, Closure $answer): Response
    {
        $key = (string) $request->headers->get('Idempotency-Key');
        if ($key === '' || ! $request->isMethod('POST')) {
            return $answer();
        }
        if (strlen($key) > self::LONGEST_KEY) {
            return self::problem(400, 'request', 'An Idempotency-Key has '.self::LONGEST_KEY.' characters at most.');
        }
        $name = 'once/'.hash('sha256', "{$who}\n{$key}");
        $asked = hash('sha256', "{$request->getRequestUri()}\n{$request->getContent()}\n".json_encode($request->request->all()));
        $lock = Cache::lock("{$name}/at-it", 300);
        if (! $lock->get()) {
            return self::problem(409, 'in_progress', 'A request with this Idempotency-Key is being answered.');
        }
        try {
            /** @var array{string, int, string, string}|null $known */
            $known = Cache::get($name);
            if ($known !== null) {
                return $known[0] === $asked
                    ? new PlainResponse($known[3], $known[1], ['Content-Type' => $known[2], 'Idempotency-Replayed' => 'true'])
                    : self::problem(422, 'key_reused', 'This Idempotency-Key was sent with another request.');
            }
            $response = $answer();
            $body = (string) $response->getContent();
            if ($response->getStatusCode() < 500 && strlen($body) <= self::LARGEST) {
                Cache::put(
                    $name,
                    [$asked, $response->getStatusCode(), (string) $response->headers->get('Content-Type'), $body],
                    self::KEPT,
                );
            }

            return $response;
        } finally {
            $lock->release();
        }
    }

    private static function redirect(Request $request): void
    {
        $server = $request->server->all();
        $server['REQUEST_URI'] =
            '/api'.substr((string) $request->server->get('REQUEST_URI', $request->getRequestUri()), strlen(self::PREFIX));
        $request->initialize(
            $request->query->all(),
            $request->request->all(),
            $request->attributes->all(),
            $request->cookies->all(),
            $request->files->all(),
            $server,
            $request->getContent(),
        );
    }

    private static function asProblem(Response $response, bool $isMatched): Response
    {
        $error = json_decode((string) $response->getContent(), true)['error'] ?? null;
        if (! is_array($error)) {
            return $response;
        }
        $status = $response->getStatusCode();
        $code = (string) ($error['code'] ?? 'request');
        if ($code === 'stale' && $isMatched) {
            $status = 412;
        }

        return self::problem(
            $status,
            $code,
            (string) ($error['message'] ?? ''),
            array_diff_key($error, ['code' => true, 'message' => true]),
        )->withHeaders(
            array_filter(
                array_map(static fn (string $name): ?string => $response->headers->get($name), self::KEPT_OF_FAULTS),
                is_string(...),
            ),
        );
    }

    /** @param  array<string, mixed>  $more */
    private static function problem(int $status, string $code, string $says, array $more = []): JsonResponse
    {
        return new JsonResponse(
            [
                'type' => "urn:brenvic:problem:{$code}",
                'title' => Response::$statusTexts[$status] ?? 'Fault',
                'status' => $status,
                'detail' => $says,
                ...$more,
            ],
            $status,
            ['Content-Type' => 'application/problem+json'],
        );
    }

    private static function limited(Response $response, string $who): Response
    {
        $response->headers->set('RateLimit-Limit', (string) self::MOST);
        $response->headers->set('RateLimit-Remaining', (string) RateLimiter::remaining($who, self::MOST));
        $response->headers->set('RateLimit-Reset', (string) RateLimiter::availableIn($who));

        return $response;
    }

    /** docs/openapi.json, for this address. */
    private static function description(): JsonResponse
    {
        $document = (array) json_decode((string) file_get_contents(base_path('docs/openapi.json')), false, 512, JSON_THROW_ON_ERROR);
        $document['servers'] = [['url' => self::PREFIX]];

        return new JsonResponse($document, 200, ['Cache-Control' => 'public, max-age=3600']);
    }
}
