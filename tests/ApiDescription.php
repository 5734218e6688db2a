<?php

declare(strict_types=1);

namespace Tests;

use Illuminate\Http\Request;
use Opis\JsonSchema\Errors\ErrorFormatter;
use Opis\JsonSchema\Validator;
use stdClass;
use Symfony\Component\HttpFoundation\Response;

/** The description of the API (docs/openapi.json), which every answer that a test gets is held against. */
final class ApiDescription
{
    private const BASE = 'https://brenvic.invalid/';

    private static ?stdClass $document = null;

    private static ?Validator $validator = null;

    public static function document(): stdClass
    {
        return self::$document ??= json_decode((string) file_get_contents(base_path('docs/openapi.json')), false, 64, JSON_THROW_ON_ERROR);
    }

    /** What is wrong with an answer; null when it is as described, or not of the API. */
    public static function fault(Request $request, Response $response): ?string
    {
        $route = $request->route();
        $uri = is_object($route) ? $route->uri() : '';
        $isJson = str_starts_with((string) $response->headers->get('Content-Type'), 'application/json');
        if (! str_starts_with($uri, 'api/') || ! $isJson || str_contains($uri, '{any}')) {
            return null;
        }
        $path = '/'.preg_replace('/:\w+\}/', '}', substr($uri, 4));
        // What HEAD answers is what GET does, without the body.
        $isHead = $request->method() === 'HEAD';
        $method = $isHead ? 'get' : strtolower($request->method());
        $named = strtoupper($method)." {$path} answered {$response->getStatusCode()}";
        $schema = self::schema($path, $method, $response->getStatusCode());
        if ($schema === null) {
            return "{$named}, which docs/openapi.json does not describe.";
        }
        if ($isHead) {
            return null;
        }
        $body = json_decode((string) $response->getContent());
        $error = self::validator()->validate($body, (object) ['$ref' => self::BASE.'openapi.json#'.$schema])->error();
        if ($error === null) {
            return null;
        }
        $faults = (new ErrorFormatter())->formatFlat(
            $error,
            static fn ($e): string => '/'.implode('/', $e->data()->fullPath()).': '.(new ErrorFormatter())->formatErrorMessage($e),
        );

        return "{$named} otherwise than docs/openapi.json describes:\n".implode("\n", array_slice($faults, -1));
    }

    /** A JSON pointer to the schema of an answer. */
    private static function schema(string $path, string $method, int $status): ?string
    {
        $operation = self::document()->paths->{$path}->{$method} ?? null;
        if ($operation === null) {
            return null;
        }
        if ($status >= 300) {
            return '/components/schemas/Refusal';
        }
        $escaped = strtr($path, ['~' => '~0', '/' => '~1', '{' => '%7B', '}' => '%7D']);
        foreach (['2XX', (string) $status] as $key) {
            if (isset($operation->responses->{$key}->content->{'application/json'}->schema)) {
                return "/paths/{$escaped}/{$method}/responses/{$key}/content/application~1json/schema";
            }
        }

        return null;
    }

    private static function validator(): Validator
    {
        if (self::$validator === null) {
            self::$validator = new Validator();
            self::$validator->setMaxErrors(1);
            // What is left out of an answer is not there, whatever a design file would mean by that.
            self::$validator->parser()->setOption('allowDefaults', false);
            $resolver = self::$validator->resolver();
            $resolver?->registerRaw(self::document(), self::BASE.'openapi.json');
            $resolver?->registerFile(self::BASE.'design.schema.json', base_path('docs/design.schema.json'));
        }

        return self::$validator;
    }
}
