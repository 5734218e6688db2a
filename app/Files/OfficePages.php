<?php

declare(strict_types=1);

namespace App\Files;

use App\Support\ExternalProgram;
use Brenvic\Core\Capture\FileKind;
use Brenvic\Core\Capture\UnreadableFile;
use Symfony\Component\Process\ExecutableFinder;
use Symfony\Component\Process\Process;

/**
 * Office files as pages, drawn by LibreOffice where the machine has it. What the file links to elsewhere, on this machine or
 * another, is not fetched: a page would show whoever sent it what only the server can read.
 */
final class OfficePages
{
    /** Points of the longer side up to which a sheet of a workbook is one page; a larger one is cut as it would be printed. */
    private const LARGEST_SHEET = 2_400;

    /** No macros and no links: settings of the program’s profile, which is new each time. */
    private const SETTINGS = ['BlockUntrustedRefererLinks' => 'true', 'DisableMacrosExecution' => 'true', 'MacroSecurityLevel' => '3'];

    private const WHOLE_SHEETS = 'pdf:calc_pdf_Export:{"SinglePageSheets":{"type":"boolean","value":"true"}}';

    /** With this it leaves when its profile is ready and it wants to be started once more. */
    private const AGAIN = 81;

    /** In a network of its own, which leads nowhere. */
    private const APART = ['unshare', '--user', '--map-root-user', '--net', '--'];

    private static ?bool $isApart = null;

    /** Whether office files are drawn on this machine. */
    public static function areDrawn(): bool
    {
        return self::program() !== null;
    }

    /**
     * Writes a PDF of the pages of an office file.
     *
     * @throws UnreadableFile when it cannot be drawn
     */
    public static function make(string $source, FileKind $kind, string $target): void
    {
        $program = self::program() ?? throw new UnreadableFile('unknown', 'Office files are not drawn on this server.');
        ExternalProgram::inFolder(static function (string $folder) use ($program, $source, $kind, $target): void {
            self::profile($folder);
            // It tells what a file is by what is in it, so the name that somebody gave it stays outside.
            copy($source, "{$folder}/source");
            $isWorkbook = $kind === FileKind::Workbook || $kind === FileKind::OpenSheet;
            $isMade = self::convert($program, $isWorkbook ? self::WHOLE_SHEETS : 'pdf', $folder);
            if ($isMade && $isWorkbook && self::largest("{$folder}/source.pdf", $folder) > self::LARGEST_SHEET) {
                $isMade = self::convert($program, 'pdf', $folder);
            }
            if (! $isMade || ! rename("{$folder}/source.pdf", $target)) {
                throw new UnreadableFile('damaged', 'The pages of the document cannot be drawn. It is kept as it is.');
            }
        });
    }

    private static function convert(string $program, string $how, string $folder): bool
    {
        @unlink("{$folder}/source.pdf");
        $command = [
            ...self::isApart() ? self::APART : [],
            $program,
            "-env:UserInstallation=file://{$folder}/profile",
            '--headless',
            '--norestore',
            '--nolockcheck',
            '--convert-to',
            $how,
            '--outdir',
            $folder,
            "{$folder}/source",
        ];
        [$code] = ExternalProgram::run($command, $folder);
        if ($code === self::AGAIN) {
            ExternalProgram::run($command, $folder);
        }

        return is_file("{$folder}/source.pdf");
    }

    /** Whether the machine allows that; in some containers it does not. */
    private static function isApart(): bool
    {
        return self::$isApart ??= (new Process([...self::APART, 'true']))->run() === 0;
    }

    /** The program itself, not the script that starts it, so that what is stopped is stopped. */
    private static function program(): ?string
    {
        $set = config('brenvic.office');
        $script = $set === null ? (new ExecutableFinder())->find('soffice') : (string) $set;
        $program = $script === null || $script === '' ? false : realpath($script);

        return match (true) {
            $program === false => null,
            is_executable("{$program}.bin") => "{$program}.bin",
            is_executable($program) => $program,
            default => null,
        };
    }

    private static function profile(string $folder): void
    {
        mkdir("{$folder}/profile/user", 0700, true);
        $items = '';
        foreach (self::SETTINGS as $name => $value) {
            $items .=
                '<item oor:path="/org.openoffice.Office.Common/Security/Scripting">'.
                "<prop oor:name=\"{$name}\" oor:op=\"fuse\"><value>{$value}</value></prop></item>";
        }
        file_put_contents(
            "{$folder}/profile/user/registrymodifications.xcu",
            '<?xml version="1.0" encoding="UTF-8"?><oor:items xmlns:oor="http://openoffice.org/2001/registry" '.
                "xmlns:xs=\"http://www.w3.org/2001/XMLSchema\">{$items}</oor:items>",
        );
    }

    /** The longest side of all pages, in points. */
    private static function largest(string $pdf, string $folder): float
    {
        [, $output] = ExternalProgram::run(['pdfinfo', '-f', '1', '-l', '-1', $pdf], $folder);
        preg_match_all('/^Page\s+\d+ size:\s+([\d.]+) x ([\d.]+)/m', $output, $sizes);

        return (float) max([0, ...$sizes[1], ...$sizes[2]]);
    }
}
