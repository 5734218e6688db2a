<?php

declare(strict_types=1);

namespace App\Templates;

use App\Support\Refused;
use Brenvic\Core\Capture\FileKind;
use Brenvic\Core\Templates\OpenTextTemplate;
use Brenvic\Core\Templates\Placeholders;
use Brenvic\Core\Templates\WordTemplate;
use Brenvic\Core\Xml\InvalidXml;
use ZipArchive;

/** Fills the file of a template. The template itself is only read. */
final class TemplateFile
{
    private const KINDS = [FileKind::Word, FileKind::OpenText, FileKind::Markdown, FileKind::Text];

    /** Whether values can be set into files of a kind; others are taken as they are. */
    public static function takes(FileKind $kind): bool
    {
        return in_array($kind, self::KINDS, true);
    }

    /**
     * Writes a copy of a template with values set into it.
     *
     * @param  string  $target  a path; nothing may be there yet
     *
     * @throws Refused when it cannot be opened
     */
    public static function fill(string $template, FileKind $kind, Placeholders $values, string $target): void
    {
        if (! copy($template, $target)) {
            throw new Refused('The template cannot be read.');
        }
        match ($kind) {
            FileKind::Word => self::package($target, WordTemplate::isPart(...), WordTemplate::filled(...), $values),
            FileKind::OpenText => self::package($target, OpenTextTemplate::isPart(...), OpenTextTemplate::filled(...), $values),
            FileKind::Markdown, FileKind::Text => file_put_contents($target, $values->inText((string) file_get_contents($target))),
            default => null,
        };
    }

    /**
     * @param  \Closure(string): bool  $isPart
     * @param  \Closure(string, Placeholders): string  $filled
     */
    private static function package(string $file, \Closure $isPart, \Closure $filled, Placeholders $values): void
    {
        $zip = new ZipArchive();
        if ($zip->open($file) !== true) {
            throw new Refused('The template is damaged and cannot be filled in.');
        }
        try {
            for ($i = 0; $i < $zip->numFiles; $i++) {
                $part = $zip->statIndex($i);
                if ($part === false || ! $isPart($part['name'])) {
                    continue;
                }
                if ($part['size'] > config('brenvic.limits.expanded_bytes')) {
                    throw new Refused('The template is too large to be filled in.');
                }
                $xml = $zip->getFromIndex($i);
                if ($xml !== false) {
                    $zip->addFromString($part['name'], $filled($xml, $values));
                }
            }
        } catch (InvalidXml) {
            throw new Refused('The template is damaged and cannot be filled in.');
        } finally {
            $zip->close();
        }
    }
}
