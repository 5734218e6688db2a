<?php

declare(strict_types=1);

namespace App\Exchange;

use Brenvic\Core\Exchange\OdsSheet;
use RuntimeException;
use ZipArchive;

/** Packs a sheet as a spreadsheet file: OpenDocument 1.3, part 2, packages. */
final class OdsFile
{
    /**
     * @param  string  $content  path of the XML that OdsSheet wrote
     *
     * @throws RuntimeException when the file cannot be written
     */
    public static function pack(string $content, string $target): void
    {
        $zip = new ZipArchive;
        $zip->open($target, ZipArchive::CREATE | ZipArchive::OVERWRITE);
        $zip->addFromString('mimetype', OdsSheet::MIME);
        // The first entry says what the file is, and is stored as it stands.
        $zip->setCompressionName('mimetype', ZipArchive::CM_STORE);
        $zip->addFromString('META-INF/manifest.xml', OdsSheet::MANIFEST);
        $zip->addFile($content, 'content.xml');
        $zip->close() || throw new RuntimeException('The spreadsheet cannot be written.');
    }
}
