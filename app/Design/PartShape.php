<?php

declare(strict_types=1);

namespace App\Design;

use Brenvic\Core\Design\DesignKind;
use Brenvic\Core\Fields\Kinds\FieldKinds;
use Opis\JsonSchema\Errors\ErrorFormatter;
use Opis\JsonSchema\Errors\ValidationError;
use Opis\JsonSchema\Validator;
use stdClass;

/** The shape of the parts of a design, as docs/design.schema.json describes it: checked, and filled up with defaults. */
final class PartShape
{
    /** @var array<string, mixed>|null */
    private static ?array $schema = null;

    /**
     * The first fault of a whole design file; null when it is sound.
     *
     * @param  array<array-key, mixed>  $file
     * @return array{string, string}|null path, and what is wrong there
     */
    public static function faultOfFile(array $file): ?array
    {
        return self::fault(
            json_decode((string) json_encode((object) self::bare($file))),
            json_decode((string) json_encode(self::schema())),
        );
    }

    /**
     * The first fault of one part's content.
     *
     * @param  array<string, mixed>  $content
     * @return array{string, string}|null path within the part, and what is wrong there
     */
    public static function faultOfPart(DesignKind $kind, array $content): ?array
    {
        $schema = json_decode((string) json_encode(self::schema()['$defs'][$kind->value]));
        $schema->required = array_values(array_diff($schema->required, ['code']));

        return self::fault(json_decode((string) json_encode((object) self::bare($content))), $schema);
    }

    /**
     * Without what is empty, which is left to its default: empty lists and empty objects are one in PHP.
     *
     * @param  array<array-key, mixed>  $value
     * @return array<array-key, mixed>
     */
    private static function bare(array $value): array
    {
        $bare = array_map(static fn (mixed $item): mixed => is_array($item) ? self::bare($item) : $item, $value);

        return array_is_list($bare) ? $bare : array_filter($bare, static fn (mixed $item): bool => $item !== []);
    }

    /**
     * A part with every property there.
     *
     * @param  array<string, mixed>  $content
     * @return array<string, mixed>
     */
    public static function complete(DesignKind $kind, array $content): array
    {
        unset($content['code'], $content['lock_version'], $content['may_change'], $content['kept_by']);
        /** @var array<string, mixed> */
        $complete = self::filled($content, self::schema()['$defs'][$kind->value]);
        unset($complete['code']);

        return $complete;
    }

    /** @param  array<string, mixed>  $schema */
    private static function filled(mixed $value, array $schema): mixed
    {
        if ($value === null) {
            return $schema['default'] ?? (($schema['type'] ?? null) === 'string' ? '' : null);
        }
        if (is_array($value) && isset($schema['properties'])) {
            $filled = [];
            foreach ($schema['properties'] as $name => $of) {
                if (array_key_exists($name, $value) || array_key_exists('default', $of)) {
                    $filled[$name] = self::filled($value[$name] ?? null, $of);
                }
            }

            return $filled;
        }
        if (is_array($value) && isset($schema['items'])) {
            return array_map(static fn (mixed $item): mixed => self::filled($item, $schema['items']), array_values($value));
        }
        if (is_array($value) && is_array($schema['additionalProperties'] ?? null)) {
            return array_map(static fn (mixed $item): mixed => self::filled($item, $schema['additionalProperties']), $value);
        }

        return $value;
    }

    /** @return array{string, string}|null */
    private static function fault(mixed $data, stdClass $schema): ?array
    {
        $validator = new Validator();
        // Defaults are filled in afterwards: put into what is checked they would count as written there.
        $validator->parser()->setOption('allowDefaults', false);
        $error = $validator->validate($data, $schema)->error();
        if ($error === null) {
            return null;
        }
        while ($error->subErrors() !== []) {
            $error = $error->subErrors()[0];
        }

        return [self::path($error), self::told($error)];
    }

    private static function path(ValidationError $error): string
    {
        $path = $error->data()->fullPath();
        $missing = $error->args()['missing'] ?? null;
        if ($error->keyword() === 'required' && is_array($missing)) {
            $path[] = (string) reset($missing);
        }

        return '/'.implode('/', $path);
    }

    private static function told(ValidationError $error): string
    {
        if ($error->keyword() === 'pattern' && str_ends_with(self::path($error), 'code')) {
            return 'A code has lower-case letters, digits, - and _, and starts with a letter or digit.';
        }
        if ($error->keyword() === 'required' || $error->keyword() === 'minLength') {
            return match (basename(self::path($error))) {
                'code' => 'Give it a code.',
                'name' => 'Give it a name.',
                'label' => 'Give it a label.',
                'columns' => 'Choose at least one column.',
                'fields' => 'Choose at least one field.',
                'criterion' => 'Say which documents it is about.',
                default => 'This is missing.',
            };
        }

        if ($error->keyword() === 'type' && array_intersect((array) ($error->args()['expected'] ?? []), ['number', 'integer']) !== []) {
            return 'This is not a number. Write it like 12 or 0.75.';
        }

        return ucfirst((new ErrorFormatter())->formatErrorMessage($error)).'.';
    }

    /** @return array<string, mixed> */
    private static function schema(): array
    {
        if (self::$schema === null) {
            $schema = json_decode((string) file_get_contents(base_path('docs/design.schema.json')), true, 64, JSON_THROW_ON_ERROR);
            // A part has nothing else; what the API adds to it is described there.
            foreach (array_keys($schema['$defs']) as $of) {
                $schema['$defs'][$of]['additionalProperties'] = false;
            }
            // Each kind of field says itself that it is there.
            $schema['$defs']['fields']['properties']['kind']['enum'] = array_map(strval(...), array_keys(FieldKinds::all()));
            self::$schema = $schema;
        }

        return self::$schema ?? [];
    }
}
