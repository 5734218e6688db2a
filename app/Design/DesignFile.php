<?php

declare(strict_types=1);

namespace App\Design;

use App\Support\Refused;
use Brenvic\Core\Design\Design;
use Brenvic\Core\Design\DesignKind;
use JsonException;

/** The design as a JSON file (docs/design.schema.json). */
final readonly class DesignFile
{
    public const FORMAT = 2;

    private const MOST_BYTES = 20_000_000;

    /** @param  int|null  $version  the published version it was written from */
    private function __construct(
        public Design $design,
        public ?int $version,
    ) {
    }

    /** @return array<string, mixed> */
    public static function write(Design $design, ?int $version): array
    {
        $file = ['format' => self::FORMAT, 'version' => $version];
        foreach (DesignKind::cases() as $kind) {
            $file[$kind->value] = [];
            foreach ($design->all($kind) as $code => $content) {
                $file[$kind->value][] = ['code' => (string) $code, ...self::objects($content)];
            }
        }

        return $file;
    }

    /**
     * What is empty and an object is written as one.
     *
     * @param  array<string, mixed>  $content
     * @return array<string, mixed>
     */
    public static function objects(array $content): array
    {
        foreach ($content as $property => $value) {
            if ($value === [] && in_array($property, ['formats', 'labels'], true)) {
                $content[$property] = (object) [];
            } elseif (is_array($value)) {
                $content[$property] = array_map(static fn (mixed $item): mixed => is_array($item) ? self::objects($item) : $item, $value);
            }
        }

        return $content;
    }

    /** @throws Refused naming the place of the fault */
    public static function read(string $json): self
    {
        if (strlen($json) > self::MOST_BYTES) {
            throw new Refused('The file is larger than 20 MB.');
        }
        try {
            $parts = json_decode($json, true, 32, JSON_THROW_ON_ERROR);
        } catch (JsonException $fault) {
            throw new Refused("This is no JSON file: {$fault->getMessage()}.");
        }
        $fault = is_array($parts) ? PartShape::faultOfFile($parts) : ['/', 'A design is an object.'];
        if ($fault !== null) {
            throw new Refused("{$fault[0]}: {$fault[1]}");
        }
        $byKind = [];
        foreach (DesignKind::cases() as $kind) {
            foreach ($parts[$kind->value] ?? [] as $i => $part) {
                $code = (string) $part['code'];
                if (isset($byKind[$kind->value][$code])) {
                    throw new Refused("/{$kind->value}/{$i}/code: “{$code}” appears twice.");
                }
                $byKind[$kind->value][$code] = PartShape::complete($kind, $part);
            }
        }

        return new self(new Design($byKind), $parts['version'] ?? null);
    }
}
