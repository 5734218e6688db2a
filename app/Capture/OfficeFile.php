<?php

declare(strict_types=1);

namespace App\Capture;

use Brenvic\Core\Capture\FileKind;
use Brenvic\Core\Capture\OfficeText;
use Brenvic\Core\Capture\UnreadableFile;
use ZipArchive;

/** Opens office files and hands their parts to the core: text, then notes, comments, heads and feet; sheets; slides. */
final class OfficeFile
{
    private const MOST_PARTS = 2_000;

    /** The parts of a Word document behind its text, as they are called, in this order. */
    private const BESIDE_TEXT = '/^word\/(?:footnotes|endnotes|comments|header\d*|footer\d*)\.xml$/';

    /** @throws UnreadableFile */
    public function text(string $path, FileKind $kind): string
    {
        $zip = new ZipArchive();
        if (str_starts_with((string) file_get_contents($path, length: 8), FileKind::COMPOUND)) {
            throw new UnreadableFile('encrypted', 'The document is protected by a password. It is kept as it is; its text was not read.');
        }
        if ($zip->open($path, ZipArchive::RDONLY) !== true) {
            throw new UnreadableFile('damaged', 'The document is damaged and cannot be opened. It is kept as it is.');
        }
        try {
            $room = (int) config('brenvic.limits.expanded_bytes');

            return match ($kind) {
                FileKind::Word => $this->word($zip, $room),
                FileKind::Workbook => $this->workbook($zip, $room),
                FileKind::Slides => $this->slides($zip, $room),
                default => OfficeText::openDocument($this->member($zip, 'content.xml', $room)),
            };
        } finally {
            $zip->close();
        }
    }

    private function word(ZipArchive $zip, int $room): string
    {
        $texts = [OfficeText::paragraphs($this->member($zip, 'word/document.xml', $room))];
        foreach (self::names($zip, self::BESIDE_TEXT) as $name) {
            $texts[] = OfficeText::paragraphs($this->member($zip, $name, $room));
        }

        // First and later pages have the same heads and feet.
        return implode("\n\n", array_unique(array_filter($texts, static fn (string $text): bool => trim($text) !== '')));
    }

    private function workbook(ZipArchive $zip, int $room): string
    {
        $sheets = OfficeText::sheets(
            $this->member($zip, 'xl/workbook.xml', $room),
            $this->member($zip, 'xl/_rels/workbook.xml.rels', $room),
        );
        $shared =
            $zip->locateName('xl/sharedStrings.xml') === false
                ? []
                : OfficeText::sharedStrings($this->member($zip, 'xl/sharedStrings.xml', $room));
        $dates = $zip->locateName('xl/styles.xml') === false ? [] : OfficeText::dateStyles($this->member($zip, 'xl/styles.xml', $room));
        $text = '';
        foreach ($sheets as $name => $title) {
            if ($zip->locateName($name) !== false) {
                $text .= "{$title}\n".OfficeText::sheet($this->member($zip, $name, $room), $shared, $dates)."\n\n";
            }
        }

        return trim($text);
    }

    private function slides(ZipArchive $zip, int $room): string
    {
        $texts = [];
        foreach (self::names($zip, '/^ppt\/(?:slides\/slide|notesSlides\/notesSlide)\d+\.xml$/') as $name) {
            $texts[] = OfficeText::paragraphs($this->member($zip, $name, $room));
        }

        return implode("\n\n", array_filter($texts, static fn (string $text): bool => $text !== ''));
    }

    /** @return list<string> the members whose names fit, slides before notes, each in the order of their numbers */
    private static function names(ZipArchive $zip, string $pattern): array
    {
        $names = [];
        for ($i = 0; $i < $zip->numFiles && count($names) < self::MOST_PARTS; $i++) {
            $name = (string) $zip->getNameIndex($i);
            if (preg_match($pattern, $name) === 1) {
                $names[] = $name;
            }
        }
        usort(
            $names,
            static fn (string $a, string $b): int => str_contains($a, 'notesSlides') <=> str_contains($b, 'notesSlides') ?:
            strnatcmp($a, $b),
        );

        return $names;
    }

    /**
     * One member, never more than what is left of the limit however small it was packed.
     *
     * @param  int  $room  bytes that may still be taken out
     */
    private function member(ZipArchive $zip, string $name, int &$room): string
    {
        $stream = $zip->getStream($name);
        if ($stream === false) {
            throw new UnreadableFile('damaged', 'The document holds no text part, so it is not an office document that can be read.');
        }
        $contents = (string) stream_get_contents($stream, $room + 1);
        if (strlen($contents) > $room) {
            throw new UnreadableFile(
                'too_large',
                'The document unpacks to more than the limit. It is kept as it is; its text was not read.',
            );
        }
        $room -= strlen($contents);

        return $contents;
    }
}
