<?php

declare(strict_types=1);

namespace App\Intake\Sources;

use App\Support\Refused;
use JsonException;

/** The values that a file beside a document gives: `.json` with an object, or `.csv` with the field codes in its first line. */
final class SideValues
{
    /** A side file is a line or a page; what is larger is none. */
    private const LARGEST = 1_000_000;

    public const ENDINGS = ['json', 'csv'];

    /**
     * @return array{type: string, values: array<string, list<string>>} as given, by field code
     *
     * @throws Refused
     */
    public static function read(string $file): array
    {
        $name = basename($file);
        if (filesize($file) > self::LARGEST) {
            throw new Refused("The values in {$name} are more than 1 MB.");
        }
        $text = (string) preg_replace('/^\x{FEFF}/u', '', mb_scrub((string) file_get_contents($file)));
        $given = strtolower(pathinfo($file, PATHINFO_EXTENSION)) === 'json' ? self::json($text, $name) : self::csv($text, $name);
        $values = [];
        foreach ($given as $code => $value) {
            $list = array_map(
                static fn (mixed $one): string => is_bool($one) ? ($one ? 'yes' : 'no') : (is_scalar($one) ? trim((string) $one) : ''),
                is_array($value) ? array_values($value) : [$value],
            );
            $list = array_values(array_filter($list, static fn (string $one): bool => $one !== ''));
            if ($list !== []) {
                $values[(string) $code] = $list;
            }
        }
        $type = $values['type'][0] ?? '';
        unset($values['type']);

        return ['type' => $type, 'values' => $values];
    }

    /** @return array<array-key, mixed> */
    private static function json(string $text, string $name): array
    {
        try {
            $given = json_decode($text, true, 8, JSON_THROW_ON_ERROR);
        } catch (JsonException) {
            throw new Refused("The values in {$name} are no JSON.");
        }

        return is_array($given) && ! array_is_list($given) ? $given : throw new Refused("The values in {$name} are no object of fields.");
    }

    /** @return array<string, mixed> */
    private static function csv(string $text, string $name): array
    {
        $lines = preg_split('/\r\n|\r|\n/', trim($text)) ?: [];
        $head = $lines[0] ?? '';
        $sign = substr_count($head, ';') > substr_count($head, ',') ? ';' : ',';
        $codes = array_map(static fn (?string $code): string => trim((string) $code), str_getcsv($head, $sign, escape: ''));
        $cells = str_getcsv($lines[1] ?? '', $sign, escape: '');
        if (count($lines) !== 2 || count($codes) !== count($cells) || in_array('', $codes, true)) {
            throw new Refused("The values in {$name} are not two lines of CSV: field codes, and a value for each.");
        }

        return array_map(
            static fn (?string $cell): array => explode('|', (string) $cell),
            array_combine($codes, $cells),
        );
    }
}
