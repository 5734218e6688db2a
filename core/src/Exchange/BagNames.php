<?php

declare(strict_types=1);

namespace Brenvic\Core\Exchange;

use Normalizer;

/**
 * Gives out names for files below one folder: free of what file systems do not take, and no two alike, also where case
 * does not count. Of the names given out only short marks are kept, so that there can be very many.
 */
final class BagNames
{
    /** @var array<string, true> */
    private array $taken = [];

    /** @param  string  $name  as it is wanted, with folders and all */
    public function take(string $name): string
    {
        $parts = array_map(self::safe(...), explode('/', $name));
        $name = implode('/', array_filter($parts, static fn (string $part): bool => $part !== '')) ?: 'unnamed';
        $dot = strrpos($name, '.');
        $slash = strrpos($name, '/');
        [$stem, $ending] =
            $dot !== false && $dot > ($slash === false ? 0 : $slash + 1) ? [substr($name, 0, $dot), substr($name, $dot)] : [$name, ''];
        for ($try = $name, $i = 2; isset($this->taken[self::mark($try)]); $i++) {
            $try = "{$stem} ({$i}){$ending}";
        }
        $this->taken[self::mark($try)] = true;

        return $try;
    }

    private static function mark(string $name): string
    {
        return md5(mb_strtolower($name), true);
    }

    private static function safe(string $part): string
    {
        $composed = Normalizer::normalize(mb_scrub($part));
        // Some systems take a letter with its accent and the two apart for one name (RFC 8493, section 5.2.2).
        $part = (string) preg_replace('/[\x00-\x1F\x7F<>:"\\\\|?*]+/u', '_', is_string($composed) ? $composed : mb_scrub($part));
        $part = rtrim(ltrim(mb_strcut($part, 0, 180), ' '), ' .');

        // Names that one family of systems keeps for devices.
        return preg_match('/^(con|prn|aux|nul|com\d|lpt\d)(\.|$)/i', $part) === 1 ? "_{$part}" : $part;
    }
}
