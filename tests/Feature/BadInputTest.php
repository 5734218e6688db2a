<?php

declare(strict_types=1);

use App\Models\Document;
use Illuminate\Support\Facades\Http;
use Illuminate\Support\Facades\Route;
use Illuminate\Support\Str;

/** Something of another kind than what is expected, or of the right kind and senseless. */
function junk(int $depth = 0): mixed
{
    $values = [
        '',
        'x',
        '"',
        '(',
        'D-00001-X',
        'operations',
        'cql.allRecords = 1',
        "\u{202E}é\0",
        str_repeat('long ', 500),
        -1,
        0,
        1,
        2.5,
        99999999999,
        true,
        null,
        [],
        ['x'],
        ['a' => 'b'],
        [null],
        [[]],
        [['cql' => []]],
        [['code' => 'x', 'field' => 'vessel', 'page' => -1, 'value' => 'x', 'source' => 'x']],
    ];

    return $depth < 2 && mt_rand(0, 5) === 0 ? [junk($depth + 1), junk($depth + 1)] : $values[mt_rand(0, count($values) - 1)];
}

it('answers senseless input with an error of its own, never with a fault', function () {
    seeded(22);
    Http::preventStrayRequests();
    Http::fake(fn () => Http::response('x'));
    $ref = $this->filed('Text', 'a.txt', 'stoppage_notice', ['waterway' => ['tarn-sea'], 'document_date' => ['2024']]);
    $list = $this->as('librarian')
        ->postJson('/api/lists', ['name' => 'Mine'])
        ->json('id');
    $dossier =
        $this->postJson('/api/dossiers', ['kind' => 'stoppage', 'library' => 'waterways', 'values' => []])->json('ref') ?? 'DS-00001-X';
    // What any of the routes takes, by the rules it names.
    preg_match_all(
        "/'([a-z_]+)(?:\.\*)?(?:\.[a-z_]+)?' => /",
        implode(
            '',
            array_map(file_get_contents(...), [...glob(app_path('Http/Controllers/*.php')), ...glob(app_path('Http/Requests/*.php'))]),
        ),
        $m,
    );
    $keys = array_values(array_unique($m[1]));
    $faults = [];
    foreach (Route::getRoutes()->getRoutes() as $route) {
        if (
            ! str_starts_with($route->uri(), 'api/') ||
            $route->uri() === 'api/session' ||
            ! str_contains($route->getActionName(), 'Controller')
        ) {
            continue;
        }
        // The keys that stand in the action itself come up most.
        [$class, $method] = Str::parseCallback($route->getActionName(), '__invoke');
        $reflection = new ReflectionMethod($class, $method);
        $source = implode(
            '',
            array_slice(
                (array) file((string) $reflection->getFileName()),
                $reflection->getStartLine() - 1,
                $reflection->getEndLine() - $reflection->getStartLine() + 1,
            ),
        );
        foreach ($reflection->getParameters() as $parameter) {
            $type = $parameter->getType();
            if ($type instanceof ReflectionNamedType && is_subclass_of($type->getName(), Illuminate\Foundation\Http\FormRequest::class)) {
                $source .= file_get_contents((string) (new ReflectionClass($type->getName()))->getFileName());
            }
        }
        preg_match_all("/'([a-z_]+)(?:\.\*)?(?:\.[a-z_]+)?' => ['\[]/", $source, $m);
        $own = array_values(array_unique($m[1]));
        for ($try = 0; $try < 10; $try++) {
            $path = preg_replace_callback(
                '/\{(\w+)(?::\w+)?\??\}/',
                static fn (array $p): string => (string) match (true) {
                    $try > 7 => [0, 1, 999999, 'x', '%00', 'D-00001-X'][mt_rand(0, 5)],
                    $p[1] === 'document' => $ref,
                    $p[1] === 'list' => $list,
                    $p[1] === 'dossier' => $dossier,
                    $p[1] === 'kind' => [
                        'fields',
                        'types',
                        'views',
                        'repositories',
                        'libraries',
                        'vocabularies',
                        'tables',
                        'forms',
                        'dossier_kinds',
                        'access',
                    ][mt_rand(0, 9)],
                    $p[1] === 'code' => ['survey_exchange', 'vessel', 'subject', 'suppliers'][mt_rand(0, 3)],
                    default => 1,
                },
                $route->uri(),
            );
            $body = [];
            foreach ([...$own, ...array_map(static fn (int $i): string => $keys[$i], (array) array_rand($keys, 3))] as $key) {
                if (mt_rand(0, 4) > 0) {
                    $body[$key] = junk();
                }
            }
            $method = collect($route->methods())->first(fn (string $m): bool => $m !== 'HEAD');
            $answer = $this->as(mt_rand(0, 3) === 0 ? 'clerk' : 'librarian')->json(
                $method,
                '/'.($method === 'GET' ? $path.'?'.http_build_query($body) : $path),
                $method === 'GET' ? [] : $body,
            );
            if ($answer->getStatusCode() >= 500) {
                $fault = $answer->exception;
                $faults["{$method} {$route->uri()}"] =
                    ($fault === null
                        ? ''
                        : get_class($fault).
                            ': '.
                            mb_substr($fault->getMessage(), 0, 160).
                            ' at '.
                            basename($fault->getFile()).
                            ':'.
                            $fault->getLine()).
                    '  '.
                    mb_substr((string) json_encode($body, JSON_PARTIAL_OUTPUT_ON_ERROR), 0, 300);
            }
        }
    }
    expect($faults)
        ->toBe([])
        ->and(Document::query()->where('ref', $ref)->exists())
        ->toBeTrue();
});
