<?php

declare(strict_types=1);

namespace App\Design;

use App\Support\Refused;
use Brenvic\Core\Design\Design;
use Brenvic\Core\Design\DesignKind;
use JsonException;
use Opis\JsonSchema\Errors\ErrorFormatter;
use Opis\JsonSchema\Errors\ValidationError;
use Opis\JsonSchema\Validator;

/** The design as a JSON file (docs/design.schema.json). */
final class DesignFile
{
    public const FORMAT = 1;

    private const MOST_BYTES = 20_000_000;

    /** @return array<string, mixed> */
    public static function write(Design $design): array
    {
        $file = ['format' => self::FORMAT];
        foreach (DesignKind::cases() as $kind) {
            $file[$kind->value] = [];
            foreach ($design->all($kind) as $code => $content) {
                $file[$kind->value][] = ['code' => (string) $code, ...$content];
            }
        }

        return $file;
    }

    /** @throws Refused naming the place of the fault */
    public static function read(string $json): Design
    {
        if (strlen($json) > self::MOST_BYTES) {
            throw new Refused('The file is larger than 20 MB.');
        }
        try {
            $file = json_decode($json, false, 32, JSON_THROW_ON_ERROR);
        } catch (JsonException $fault) {
            throw new Refused("This is no JSON file: {$fault->getMessage()}.");
        }
        $validator = new Validator;
        $error = $validator->validate($file, (string) file_get_contents(base_path('docs/design.schema.json')))->error();
        if ($error !== null) {
            throw new Refused(self::told($error));
        }
        /** @var array<string, list<array<string, mixed>>> $parts */
        $parts = json_decode($json, true, 32, JSON_THROW_ON_ERROR);
        $byKind = [];
        foreach (DesignKind::cases() as $kind) {
            foreach ($parts[$kind->value] ?? [] as $i => $part) {
                $code = (string) $part['code'];
                if (isset($byKind[$kind->value][$code])) {
                    throw new Refused("/{$kind->value}/{$i}/code: “{$code}” stands there twice.");
                }
                $byKind[$kind->value][$code] = DesignTables::content($part);
            }
        }

        return new Design($byKind);
    }

    private static function told(ValidationError $error): string
    {
        while ($error->subErrors() !== []) {
            $error = $error->subErrors()[0];
        }
        $path = '/'.implode('/', $error->data()->fullPath());

        return "{$path}: ".lcfirst((new ErrorFormatter)->formatErrorMessage($error)).'.';
    }
}
