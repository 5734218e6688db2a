<?php

declare(strict_types=1);

namespace Brenvic\Core\Exchange;

use DateTimeImmutable;
use Normalizer;

/**
 * The tag files of a BagIt bag (RFC 8493, version 1.0): what stands beside `data/`. Paths in manifests are relative to the
 * bag, with `/` between their parts; line ends and `%` in them are written as percent signs (section 2.1.3).
 */
final class Bag
{
    public const ALGORITHMS = ['sha256', 'sha512'];

    public const DECLARATION = "BagIt-Version: 1.0\nTag-File-Character-Encoding: UTF-8\n";

    public static function manifestLine(string $sum, string $path): string
    {
        return $sum.'  '.str_replace(['%', "\n", "\r"], ['%25', '%0A', '%0D'], $path)."\n";
    }

    /**
     * @param  array<string, string>  $more  labels of section 2.2.2 and others, with their values
     */
    public static function info(int $bytes, int $files, DateTimeImmutable $date, array $more = []): string
    {
        $text = '';
        foreach (['Bagging-Date' => $date->format('Y-m-d'), 'Payload-Oxum' => "{$bytes}.{$files}", ...$more] as $label => $value) {
            // A value of several lines goes on after a space.
            $value = trim((string) preg_replace('/\R/u', "\n ", $value));
            $text .= $value === '' ? '' : "{$label}: {$value}\n";
        }

        return $text;
    }

    /**
     * Names for files below one folder: free of what file systems do not take, and no two alike, also where case does not
     * count.
     *
     * @param  list<string>  $names
     * @return list<string>
     */
    public static function names(array $names): array
    {
        $taken = $safe = [];
        foreach ($names as $name) {
            $parts = array_map(self::safe(...), explode('/', $name));
            $name = implode('/', array_filter($parts, static fn (string $part): bool => $part !== '')) ?: 'unnamed';
            $dot = strrpos($name, '.');
            $slash = strrpos($name, '/');
            [$stem, $ending] = $dot !== false && $dot > ($slash === false ? 0 : $slash + 1) ? [substr($name, 0, $dot), substr($name, $dot)] : [$name, ''];
            for ($try = $name, $i = 2; isset($taken[mb_strtolower($try)]); $i++) {
                $try = "{$stem} ({$i}){$ending}";
            }
            $taken[mb_strtolower($try)] = true;
            $safe[] = $try;
        }

        return $safe;
    }

    private static function safe(string $part): string
    {
        $composed = Normalizer::normalize(mb_scrub($part));
        // Some systems take a letter with its accent and the two apart for one name (section 5.2.2).
        $part = (string) preg_replace('/[\x00-\x1F\x7F<>:"\\\\|?*]+/u', '_', is_string($composed) ? $composed : mb_scrub($part));
        $part = rtrim(ltrim(mb_strcut($part, 0, 180), ' '), ' .');

        // Names that one family of systems keeps for devices.
        return preg_match('/^(con|prn|aux|nul|com\d|lpt\d)(\.|$)/i', $part) === 1 ? "_{$part}" : $part;
    }
}
