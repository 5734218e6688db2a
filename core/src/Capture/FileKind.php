<?php

declare(strict_types=1);

namespace Brenvic\Core\Capture;

/** What a file is, told by its first bytes and, for text, by its name. */
enum FileKind: string
{
    case Pdf = 'pdf';
    case Image = 'image';
    case Word = 'docx';
    case Rtf = 'rtf';
    case OpenText = 'odt';
    case Workbook = 'xlsx';
    case OpenSheet = 'ods';
    case Slides = 'pptx';
    case OpenSlides = 'odp';
    case OldOffice = 'office';
    case Mail = 'mail';
    case Message = 'msg';
    case Mailbox = 'mbox';
    case Html = 'html';
    case Markdown = 'markdown';
    case Table = 'csv';
    case Text = 'text';
    case Other = 'other';

    /** How compound files begin: the older office files, and MSG. */
    public const COMPOUND = "\xD0\xCF\x11\xE0\xA1\xB1\x1A\xE1";

    private const OLD = ['doc', 'dot', 'xls', 'xlt', 'ppt', 'pps'];

    public function label(): string
    {
        return match ($this) {
            self::Pdf => 'PDF',
            self::Image => 'Image',
            self::Word => 'Word document',
            self::Rtf => 'RTF document',
            self::OpenText => 'OpenDocument text',
            self::Workbook => 'Spreadsheet',
            self::OpenSheet => 'OpenDocument spreadsheet',
            self::Slides => 'Presentation',
            self::OpenSlides => 'OpenDocument presentation',
            self::OldOffice => 'Office file of before 2007',
            self::Mail => 'Mail',
            self::Message => 'Mail (MSG)',
            self::Mailbox => 'Mailbox',
            self::Html => 'HTML',
            self::Markdown => 'Markdown',
            self::Table => 'CSV table',
            self::Text => 'Plain text',
            self::Other => 'Other',
        };
    }

    /**
     * @param  string  $head  the first 4 kB or all there is
     * @param  string  $name  the file's name
     */
    public static function detect(string $head, string $name): self
    {
        $extension = strtolower(pathinfo($name, PATHINFO_EXTENSION));

        return match (true) {
            str_contains(substr($head, 0, 1024), '%PDF-') => self::Pdf,
            str_starts_with($head, "\x89PNG"),
            str_starts_with($head, "\xFF\xD8\xFF"),
            str_starts_with($head, 'GIF8'),
            str_starts_with($head, "II*\0"),
            str_starts_with($head, "MM\0*"),
            str_starts_with($head, 'RIFF') && substr($head, 8, 4) === 'WEBP',
            self::isHeic($head) => self::Image,
            str_starts_with($head, self::COMPOUND) => match (true) {
                $extension === 'msg' => self::Message,
                in_array($extension, self::OLD, true) => self::OldOffice,
                // So a newer one begins that is protected by a password.
                default => self::packed($head, $extension),
            },
            str_starts_with($head, "PK\x03\x04") => self::packed($head, $extension),
            str_starts_with($head, '{\\rtf') => self::Rtf,
            $extension === 'pdf', $extension === 'docx' => $extension === 'pdf' ? self::Pdf : self::Word,
            in_array($extension, ['png', 'jpg', 'jpeg', 'gif', 'tif', 'tiff', 'webp'], true) => self::Image,
            ! self::isText($head) => self::Other,
            Mailbox::is($head) => self::Mailbox,
            $extension === 'eml',
            preg_match('/^(?:From|To|Subject|Date|Received|Return-Path|Message-ID|MIME-Version): .*\n(?:[\w-]+:|[ \t])/i', $head) === 1 &&
                preg_match('/^From:/mi', $head) === 1 => self::Mail,
            in_array($extension, ['html', 'htm', 'xhtml'], true), preg_match('/^\s*(?:<!doctype html|<html)/i', $head) === 1 => self::Html,
            in_array($extension, ['md', 'markdown'], true) => self::Markdown,
            in_array($extension, ['csv', 'tsv'], true) => self::Table,
            default => self::Text,
        };
    }

    /** OpenDocument says what it is in its first entry; Office Open XML is told by the name. */
    private static function packed(string $head, string $extension): self
    {
        if (
            preg_match('/^mimetypeapplication\/vnd\.oasis\.opendocument\.(text|spreadsheet|presentation)/', substr($head, 30, 80), $m) === 1
        ) {
            return match ($m[1]) {
                'text' => self::OpenText,
                'spreadsheet' => self::OpenSheet,
                default => self::OpenSlides,
            };
        }

        return match ($extension) {
            'docx', 'docm', 'dotx' => self::Word,
            'xlsx', 'xlsm' => self::Workbook,
            'pptx', 'pptm', 'ppsx' => self::Slides,
            default => self::Other,
        };
    }

    /** The type under which the original is handed out; what a browser might run is handed out as plain text or bytes. */
    public function mediaType(string $head): string
    {
        return match ($this) {
            self::Pdf => 'application/pdf',
            self::Image => match (true) {
                str_starts_with($head, "\x89PNG") => 'image/png',
                str_starts_with($head, 'GIF8') => 'image/gif',
                str_starts_with($head, 'RIFF') => 'image/webp',
                str_starts_with($head, 'II*'), str_starts_with($head, 'MM') => 'image/tiff',
                self::isHeic($head) => 'image/heic',
                default => 'image/jpeg',
            },
            self::Word => 'application/vnd.openxmlformats-officedocument.wordprocessingml.document',
            self::Rtf => 'application/rtf',
            self::OpenText => 'application/vnd.oasis.opendocument.text',
            self::Workbook => 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
            self::OpenSheet => 'application/vnd.oasis.opendocument.spreadsheet',
            self::Slides => 'application/vnd.openxmlformats-officedocument.presentationml.presentation',
            self::OpenSlides => 'application/vnd.oasis.opendocument.presentation',
            self::OldOffice => 'application/x-ole-storage',
            self::Mail => 'message/rfc822',
            self::Message => 'application/vnd.ms-outlook',
            self::Mailbox => 'application/mbox',
            self::Html, self::Markdown, self::Table, self::Text => 'text/plain; charset=utf-8',
            self::Other => 'application/octet-stream',
        };
    }

    /** The kind of files of a media type (RFC 6838); null for one that says nothing here. */
    public static function ofMediaType(string $type): ?self
    {
        $type = strtolower(trim(explode(';', $type)[0]));

        return match (true) {
            $type === 'application/pdf' => self::Pdf,
            str_starts_with($type, 'image/') => self::Image,
            $type === 'text/html', $type === 'application/xhtml+xml' => self::Html,
            $type === 'text/markdown' => self::Markdown,
            $type === 'text/csv', $type === 'text/tab-separated-values' => self::Table,
            $type === 'text/plain' => self::Text,
            $type === 'application/msword' => self::OldOffice,
            $type === 'text/rtf' => self::Rtf,
            default => self::ofExactType($type),
        };
    }

    private static function ofExactType(string $type): ?self
    {
        foreach (self::cases() as $kind) {
            if ($kind !== self::Other && $kind->mediaType('') === $type) {
                return $kind;
            }
        }

        return null;
    }

    /** Whether it is a text, sheet or presentation of an office program, which draws its pages. */
    public function isOffice(): bool
    {
        return in_array(
            $this,
            [
                self::Word,
                self::Rtf,
                self::OpenText,
                self::Workbook,
                self::OpenSheet,
                self::Slides,
                self::OpenSlides,
                self::OldOffice,
            ],
            true,
        );
    }

    /** Whether a file begins as pictures of telephones do (ISO/IEC 23008-12: a `ftyp` box that names a brand of still pictures). */
    public static function isHeic(string $head): bool
    {
        return substr($head, 4, 4) === 'ftyp' && preg_match('/^(?:hei[cxms]|mif1|msf1)/', substr($head, 8, 4)) === 1;
    }

    private static function isText(string $head): bool
    {
        if (
            str_starts_with($head, "\xFF\xFE") ||
            str_starts_with($head, "\xFE\xFF") ||
            str_starts_with($head, "\0\0\xFE\xFF") ||
            TextEncoding::isWide($head)
        ) {
            return true;
        }
        $controls = preg_match_all('/[\x00-\x06\x0E-\x1A\x1C-\x1F]/', $head);

        return $controls === 0 || ($controls !== false && $controls * 200 < strlen($head) && ! str_contains($head, "\0"));
    }
}
