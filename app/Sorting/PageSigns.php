<?php

declare(strict_types=1);

namespace App\Sorting;

use App\Files\Drawing;
use App\Files\FilePages;
use App\Jobs\Urgency;
use App\Models\Document;
use App\Support\ExternalProgram;
use Brenvic\Core\Pages\PageLook;
use Brenvic\Core\Pages\Raster;
use Brenvic\Core\Pages\SeparatorCode;
use Illuminate\Support\Facades\DB;

/** Looks at the pages of files before they are read: which are blank, askew, upside down or separator sheets. Kept by file. */
final readonly class PageSigns
{
    /** Dots an inch: enough for lines and codes, and for the writing that tells which way is up. */
    private const DOTS = 100;

    private const DOTS_OF_WRITING = 150;

    /** How sure Tesseract must be which way is up; below it says anything. */
    private const SURE = 2.0;

    public function __construct(private Drawing $drawing)
    {
    }

    /** Has a file looked at in the background, if it was not. */
    public function ask(Document $document): void
    {
        if ($document->page_count === 0 || $this->isKnown($document)) {
            return;
        }
        $isNew = DB::table('page_looks')->insertOrIgnore([
            'sha256' => $document->sha256,
            'pages' => $document->page_count,
            'asked_at' => now(),
        ]);
        if ($isNew > 0) {
            $id = (int) DB::table('page_looks')->where('sha256', $document->sha256)->value('id');
            LookAtPages::dispatch($id)->onQueue(Urgency::Awaited->value)->afterCommit();
        }
    }

    private function isKnown(Document $document): bool
    {
        return DB::table('page_signs')->where('sha256', $document->sha256)->count() >= $document->page_count;
    }

    /** @return list<PageSign> of the pages that were looked at, in their order */
    public function of(string $sha256): array
    {
        return array_values(
            DB::table('page_signs')
                ->where('sha256', $sha256)
                ->orderBy('number')
                ->get()
                ->map(
                    static fn ($row): PageSign => new PageSign(
                        (int) $row->number,
                        (bool) $row->is_blank,
                        (float) $row->skew,
                        (int) $row->turn,
                        $row->separator === null ? null : SeparatorCode::read((string) $row->separator),
                    ),
                )
                ->all(),
        );
    }

    /** Why a file could not be looked at; empty when it was, or will be. */
    public function fault(string $sha256): string
    {
        return (string) DB::table('page_looks')->where('sha256', $sha256)->value('says');
    }

    /** Looks at the pages of a file that were not looked at yet. */
    public function look(string $sha256, int $pages): void
    {
        $known = array_map(static fn (PageSign $sign): int => $sign->number, $this->of($sha256));
        $wanted = array_diff(range(1, max(1, $pages)), $known);
        ExternalProgram::inFolder(function (string $folder) use ($sha256, $wanted): void {
            $pdf = $this->drawing->pages($sha256, '', "{$folder}/pages.pdf");
            foreach ($wanted as $number) {
                $sign = $this->sign($pdf, $number, $folder);
                DB::table('page_signs')->insertOrIgnore([
                    'sha256' => $sha256,
                    'number' => $number,
                    'is_blank' => $sign->isBlank,
                    'skew' => $sign->skew,
                    'turn' => $sign->turn,
                    'separator' => $sign->separator?->text(),
                ]);
            }
        });
    }

    private function sign(string $pdf, int $number, string $folder): PageSign
    {
        $file = self::drawn($pdf, $number, self::DOTS, $folder);
        if ($file === null) {
            return new PageSign($number, false, 0.0, 0, null);
        }
        $separator = self::separator($file, $folder);
        if ($separator !== null) {
            return new PageSign($number, false, 0.0, 0, $separator);
        }
        $look = PageLook::at(Raster::pgm((string) file_get_contents($file)));

        return new PageSign($number, $look->isBlank, $look->skew, $look->isBlank ? 0 : self::turn($pdf, $number, $folder), null);
    }

    private static function drawn(string $pdf, int $number, int $dots, string $folder): ?string
    {
        $file = "{$folder}/look-{$dots}.pgm";

        return FilePages::draw($pdf, $number, ['-cropbox', '-gray', '-r', (string) $dots], $file, $folder) ? $file : null;
    }

    private static function separator(string $file, string $folder): ?SeparatorCode
    {
        [, $output] = ExternalProgram::run(['zbarimg', '-q', '--raw', '-Sdisable', '-Sqrcode.enable', $file], $folder);
        foreach (explode("\n", $output) as $line) {
            $code = SeparatorCode::read($line);
            if ($code !== null) {
                return $code;
            }
        }

        return null;
    }

    /** Which way is up, by Tesseract's detection of orientation and script. */
    private static function turn(string $pdf, int $number, string $folder): int
    {
        $file = self::drawn($pdf, $number, self::DOTS_OF_WRITING, $folder);
        if ($file === null) {
            return 0;
        }
        [, $output] = ExternalProgram::run(['tesseract', $file, '-', '--psm', '0', '--dpi', (string) self::DOTS_OF_WRITING], $folder);
        $isSure = preg_match('/^Orientation confidence:\s*([\d.]+)/m', $output, $sure) === 1 && (float) $sure[1] >= self::SURE;

        return $isSure && preg_match('/^Rotate:\s*(\d+)/m', $output, $m) === 1 ? ((int) $m[1]) % 360 : 0;
    }
}
