<?php

declare(strict_types=1);

namespace Brenvic\Core\Exchange;

use DateTimeImmutable;

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
}
