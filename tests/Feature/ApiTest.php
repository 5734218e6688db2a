<?php

declare(strict_types=1);

use Illuminate\Routing\Route as RouteOfLaravel;
use Illuminate\Support\Facades\Route;
use Opis\JsonSchema\Validator;
use Tests\ApiDescription;

/** @return list<string> every route of the API, as `get /path` */
function describedRoutes(): array
{
    $routes = array_filter(
        Route::getRoutes()->getRoutes(),
        static fn (RouteOfLaravel $route): bool => str_starts_with($route->uri(), 'api/') && ! str_contains($route->uri(), '{any}'),
    );
    $all = [];
    foreach ($routes as $route) {
        foreach (array_diff($route->methods(), ['HEAD']) as $method) {
            $all[] = strtolower($method).' /'.preg_replace('/:\w+\}/', '}', substr($route->uri(), 4));
        }
    }
    sort($all);

    return $all;
}

it('is described route by route, and nothing is described that is not there', function () {
    $described = $named = [];
    foreach ((array) ApiDescription::document()->paths as $path => $operations) {
        foreach ((array) $operations as $method => $operation) {
            $described[] = "{$method} {$path}";
            $named[] = $operation->operationId;
            preg_match_all('/\{(\w+)\}/', (string) $path, $m);
            $parameters = array_filter($operation->parameters ?? [], static fn (stdClass $p): bool => $p->in === 'path');
            expect(array_column($parameters, 'name'))->toBe($m[1], "{$method} {$path}");
        }
    }
    sort($described);
    expect($described)->toBe(describedRoutes())->and(array_unique($named))->toBe($named);
});

it('has no reference in its description that leads nowhere', function () {
    $document = ApiDescription::document();
    $design = json_decode((string) file_get_contents(base_path('docs/design.schema.json')));
    $found = [];
    $walk = static function (mixed $of) use (&$walk, &$found): void {
        foreach (is_object($of) || is_array($of) ? (array) $of : [] as $key => $value) {
            $key === '$ref' && is_string($value) ? ($found[] = $value) : $walk($value);
        }
    };
    $walk($document);
    foreach (array_unique($found) as $ref) {
        [$file, $pointer] = explode('#', $ref);
        $at = $file === '' ? $document : $design;
        foreach (array_filter(explode('/', $pointer), static fn (string $part): bool => $part !== '') as $part) {
            $at = $at->{$part} ?? null;
        }
        expect($at)->not->toBeNull($ref);
    }
    expect(count(array_unique($found)))->toBeGreaterThan(60);
});

it('says of an answer what is not as described', function () {
    $schema = (object) ['$ref' => 'https://brenvic.invalid/openapi.json#/components/schemas/Refusal'];
    $validator = new Validator();
    $validator->resolver()?->registerRaw(ApiDescription::document(), 'https://brenvic.invalid/openapi.json');
    $refusal = $this->as('reader')->getJson('/api/removed')->assertForbidden()->json();
    expect($validator->validate(json_decode((string) json_encode($refusal)), $schema)->isValid())
        ->toBeTrue()
        ->and($validator->validate((object) ['error' => (object) ['code' => 'x']], $schema)->isValid())
        ->toBeFalse();
    // A part of the design as it is served, and with a property that is neither of the schema nor of the API.
    $field = json_decode((string) $this->as('librarian')->get('/api/design')->getContent())->fields[0];
    $of = (object) ['$ref' => 'https://brenvic.invalid/openapi.json#/components/schemas/Field'];
    $validator->resolver()?->registerFile('https://brenvic.invalid/design.schema.json', base_path('docs/design.schema.json'));
    $validator->parser()->setOption('allowDefaults', false);
    expect($validator->validate($field, $of)->isValid())->toBeTrue();
    $field->colour = 'red';
    expect($validator->validate($field, $of)->isValid())->toBeFalse();
});
