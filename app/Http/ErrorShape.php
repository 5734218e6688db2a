<?php

declare(strict_types=1);

namespace App\Http;

use App\Intake\InvalidSheet;
use App\Support\DiskFull;
use App\Support\NotYours;
use App\Support\Refused;
use App\Support\StaleWrite;
use Brenvic\Core\Fields\InvalidDefinition;
use Brenvic\Core\Fields\InvalidValue;
use Brenvic\Core\Query\SyntaxError;
use Brenvic\Core\Search\Asking\SearchError;
use Illuminate\Auth\Access\AuthorizationException;
use Illuminate\Auth\AuthenticationException;
use Illuminate\Database\Eloquent\ModelNotFoundException;
use Illuminate\Http\Exceptions\PostTooLargeException;
use Illuminate\Http\JsonResponse;
use Illuminate\Session\TokenMismatchException;
use Illuminate\Validation\ValidationException;
use Symfony\Component\HttpKernel\Exception\HttpExceptionInterface;
use Throwable;

/**
 * Every error of the API: `{"error": {"code", "message", "fields"?, "position"?, "suggestion"?, "current"?, "request"?}}`.
 * `fields` holds a sentence for each field at fault, `current` what a stale write would have overwritten.
 */
final class ErrorShape
{
    public static function response(Throwable $fault): JsonResponse
    {
        [$status, $code, $message, $more] = self::parts($fault);

        $headers = $fault instanceof HttpExceptionInterface ? array_intersect_key($fault->getHeaders(), ['Retry-After' => true]) : [];

        return new JsonResponse(['error' => ['code' => $code, 'message' => $message, ...$more]], $status, $headers);
    }

    /** @return array{int, string, string, array<string, mixed>} */
    private static function parts(Throwable $fault): array
    {
        $status = $fault instanceof HttpExceptionInterface ? $fault->getStatusCode() : 500;

        return match (true) {
            $fault instanceof ValidationException => [
                422,
                'invalid',
                'Some values were not accepted. Look at the fields marked.',
                ['fields' => array_map(static fn (array $messages): string => $messages[0], $fault->errors())],
            ],
            $fault instanceof InvalidSheet => [422, 'invalid', $fault->getMessage(), ['fields' => $fault->faults]],
            $fault instanceof InvalidDefinition => [
                422,
                'invalid',
                $fault->getMessage(),
                ['fields' => [$fault->property => $fault->getMessage()]],
            ],
            $fault instanceof InvalidValue => [422, 'invalid', $fault->getMessage(), ['fields' => ['value' => $fault->getMessage()]]],
            $fault instanceof SyntaxError => [
                422,
                'query',
                $fault->getMessage(),
                ['position' => $fault->position, 'suggestion' => $fault->suggestion],
            ],
            $fault instanceof SearchError => [422, 'query', $fault->getMessage(), ['suggestion' => $fault->suggestion]],
            $fault instanceof StaleWrite => [409, 'stale', $fault->getMessage(), ['current' => $fault->current]],
            $fault instanceof Refused => [422, 'refused', $fault->getMessage(), []],
            $fault instanceof NotYours => [403, 'forbidden', $fault->getMessage(), []],
            $fault instanceof AuthenticationException => [401, 'sign_in', 'Sign in to go on.', []],
            $fault instanceof AuthorizationException, $status === 403 => [
                403,
                'forbidden',
                'You may not do this. Ask the records librarian if you should.',
                [],
            ],
            $fault instanceof ModelNotFoundException, $status === 404 => [
                404,
                'not_found',
                'This does not exist, or you may not see it.',
                [],
            ],
            $fault instanceof TokenMismatchException, $status === 419 => [
                419,
                'expired',
                'The page was open for too long. Reload it; what you typed is kept.',
                [],
            ],
            $fault instanceof PostTooLargeException, $status === 413 => [
                413,
                'too_large',
                'What was sent is larger than the limit. Nothing was stored.',
                [],
            ],
            $status === 429 => [429, 'too_many', 'Too many attempts. Wait some minutes, then try again.', []],
            $status < 500 => [$status, 'request', 'The request cannot be answered.', []],
            DiskFull::isWhy($fault) => [
                507,
                'disk_full',
                'The disk of the server is full, so this could not be stored. What you typed is kept; tell whoever runs Brenvic, then try again.',
                [],
            ],
            default => [
                500,
                'fault',
                'Something went wrong here and was written to the log. What you typed is kept; try again.',
                // By this name it is found there.
                ['request' => (string) request()->headers->get(NamedRequest::HEADER)],
            ],
        };
    }
}
