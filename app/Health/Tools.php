<?php

declare(strict_types=1);

namespace App\Health;

use App\Support\ExternalProgram;
use App\Support\OfficeSetting;
use Brenvic\Core\Capture\UnreadableFile;
use Illuminate\Support\Facades\DB;
use PDO;

/** The programs that this machine has for Brenvic, and which versions they are. They are asked now and then, not when somebody looks. */
final class Tools
{
    private const NOTED = 'tools';

    /** What each is for, how it tells its version; null where it tells none. */
    private const PROGRAMS = [
        'tesseract' => ['reads scans by OCR', '--version'],
        'pdftotext' => ['reads the text of PDFs', '-v'],
        'pdftoppm' => ['draws the pages of PDFs', '-v'],
        'qpdf' => ['puts PDFs together and checks them', '--version'],
        'tiff2pdf' => ['shows TIFF pictures', '-h'],
        'heif-convert' => ['shows HEIC pictures', null],
        'uchardet' => ['tells the encoding of old texts', '--version'],
        'zbarimg' => ['reads the codes of separator sheets', '--version'],
        'msgconvert' => ['reads MSG mails', null],
        'soffice' => ['draws the pages of office files', '--version'],
        'python3' => ['reads and writes RDF', '--version'],
        'rapper' => ['writes large schemes as Turtle', '--version'],
    ];

    /** Asks all of them. */
    public static function note(): void
    {
        $found = [
            ['name' => 'PHP', 'for' => 'runs Brenvic', 'version' => PHP_VERSION],
            [
                'name' => DB::connection()->getDriverName(),
                'for' => 'keeps what is known of documents',
                'version' => (string) DB::connection()->getPdo()->getAttribute(PDO::ATTR_SERVER_VERSION),
            ],
        ];
        foreach (self::PROGRAMS as $program => [$for, $how]) {
            $found[] = ['name' => $program, 'for' => $for, 'version' => self::version($program, $how)];
        }
        OfficeSetting::put(self::NOTED, $found);
    }

    /** @return list<array{name: string, for: string, version: string|null}> null where the machine does not have it; empty before they were asked */
    public static function noted(): array
    {
        $noted = OfficeSetting::get(self::NOTED);
        $tools = [];
        foreach (is_array($noted) ? $noted : [] as $tool) {
            if (is_array($tool)) {
                $version = $tool['version'] ?? null;
                $tools[] = [
                    'name' => (string) $tool['name'],
                    'for' => (string) $tool['for'],
                    'version' => $version === null ? null : (string) $version,
                ];
            }
        }

        return $tools;
    }

    /** The first thing that looks like a version in what a program says of itself; empty where it does not say. */
    public static function versionIn(string $said): string
    {
        return preg_match('/\d+(?:\.\d+)+\S*/', $said, $m) === 1 ? rtrim($m[0], '.,;:)') : '';
    }

    private static function version(string $program, ?string $how): ?string
    {
        if (! ExternalProgram::isThere($program)) {
            return null;
        }
        try {
            $said =
                $how === null
                    ? ['', '', '']
                    : ExternalProgram::inFolder(static fn (string $folder): array => ExternalProgram::run([$program, $how], $folder));
        } catch (UnreadableFile) {
            return '';
        }

        return self::versionIn((string) $said[1]) ?: self::versionIn((string) $said[2]);
    }
}
