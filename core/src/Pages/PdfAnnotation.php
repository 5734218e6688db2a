<?php

declare(strict_types=1);

namespace Brenvic\Core\Pages;

use DateTimeImmutable;

/**
 * Annotations as PDF has them (ISO 32000-1, 12.5), as objects in the JSON form of qpdf, version 2: names begin with `/`,
 * texts with `u:`. Highlights, notes and pen strokes are the standard Highlight, Text and Ink; a stamp is a FreeText in a
 * frame. Each brings its own appearance, so that it looks alike in every reader and in print.
 */
final readonly class PdfAnnotation
{
    /** Red, green and blue from 0 to 1, the colours the overlay has on the screen. */
    private const COLOURS = [
        'highlight' => [0.949, 0.835, 0.541],
        'note' => [0.949, 0.835, 0.541],
        'stamp' => [0.631, 0.239, 0.145],
        'pen' => [0.294, 0.137, 0.329],
    ];

    private const PEN = 1.6;

    private const SIZE = 11;

    /** Sides of a folded note. */
    private const ICON = 18;

    /**
     * @return array{dictionary: array<string, mixed>, appearance: array{string, array<string, mixed>}|null}|null
     *         the annotation without its appearance, and the content and dictionary of that; null when it has no place
     */
    public static function of(Overlay $overlay, PdfSpace $space): ?array
    {
        $around = $overlay->around();
        if ($around === null) {
            return null;
        }
        if ($overlay->kind === AnnotationKind::Note) {
            $around = new Box($around->left, $around->top, $around->left + self::ICON, $around->top + self::ICON);
        } elseif ($overlay->kind === AnnotationKind::Pen) {
            $around = new Box($around->left - self::PEN, $around->top - self::PEN, $around->right + self::PEN, $around->bottom + self::PEN);
        }
        // What somebody set at the edge of a page is not to stand beside it.
        $isMoved = $overlay->kind === AnnotationKind::Note || $overlay->kind === AnnotationKind::Stamp;
        $rectangle = $space->rectangle($isMoved ? $space->onPage($around) : $around);
        $dictionary = [
            '/Type' => '/Annot',
            '/Rect' => self::rounded($rectangle),
            '/C' => self::COLOURS[$overlay->kind->value],
            '/F' => 4,
            '/Contents' => "u:{$overlay->text}",
            '/T' => "u:{$overlay->author}",
            ...$overlay->name === '' ? [] : ['/NM' => "u:{$overlay->name}"],
            ...$overlay->at === null ? [] : ['/M' => 'u:D:'.$overlay->at->setTimezone(new \DateTimeZone('UTC'))->format('YmdHis').'Z'],
        ];

        return match ($overlay->kind) {
            AnnotationKind::Highlight => self::highlight($overlay, $space, $rectangle, $dictionary),
            AnnotationKind::Note => [
                'dictionary' => [...$dictionary, '/Subtype' => '/Text', '/Name' => '/Comment', '/Open' => ! $overlay->isFolded],
                'appearance' => null,
            ],
            AnnotationKind::Pen => self::pen($overlay, $space, $rectangle, $dictionary),
            AnnotationKind::Stamp => self::stamp($overlay, $rectangle, $dictionary),
        };
    }

    /**
     * What an annotation of a PDF is here; null for what has no counterpart (links, form fields, attached files).
     *
     * @param  array<string, mixed>  $dictionary  in the JSON form of qpdf
     */
    public static function read(array $dictionary, PdfSpace $space): ?Overlay
    {
        $numbers = static fn (mixed $list): array => is_array($list)
            ? array_values(array_map(floatval(...), array_filter($list, is_numeric(...))))
            : [];
        $text = static fn (mixed $value): string => is_string($value) && str_starts_with($value, 'u:')
            ? mb_substr(mb_scrub(substr($value, 2)), 0, 4_000)
            : '';
        $rectangle = $numbers($dictionary['/Rect'] ?? null);
        if (count($rectangle) !== 4) {
            return null;
        }
        $box = $space->box($rectangle);
        $rest = [
            $text($dictionary['/Contents'] ?? null),
            $text($dictionary['/T'] ?? null),
            self::date($text($dictionary['/M'] ?? null)),
            $text($dictionary['/NM'] ?? null),
        ];

        return match ($dictionary['/Subtype'] ?? null) {
            '/Highlight' => new Overlay(
                AnnotationKind::Highlight,
                self::quads($numbers($dictionary['/QuadPoints'] ?? null), $space) ?: [$box],
                [],
                ...$rest,
            ),
            '/Text' => new Overlay(
                AnnotationKind::Note,
                [new Box($box->left, $box->top, $box->left + 160, $box->top + 90)],
                [],
                ...[...$rest, ($dictionary['/Open'] ?? false) !== true],
            ),
            '/FreeText', '/Stamp' => $rest[0] === '' ? null : new Overlay(AnnotationKind::Stamp, [$box], [], ...$rest),
            '/Ink' => self::ink($dictionary['/InkList'] ?? null, $numbers, $space, $rest),
            default => null,
        };
    }

    /**
     * @param  array<string, mixed>  $dictionary
     * @param  array{float, float, float, float}  $rectangle
     * @return array{dictionary: array<string, mixed>, appearance: array{string, array<string, mixed>}}
     */
    private static function highlight(Overlay $overlay, PdfSpace $space, array $rectangle, array $dictionary): array
    {
        $quads = [];
        $content = '/G gs '.implode(' ', self::COLOURS['highlight']).' rg';
        foreach ($overlay->boxes as $box) {
            [$left, $bottom, $right, $top] = self::rounded($space->rectangle($box));
            // In the order that readers draw, which is not the one the standard prints: top left, top right, bottom left, bottom right.
            array_push($quads, $left, $top, $right, $top, $left, $bottom, $right, $bottom);
            $content .= " {$left} {$bottom} ".round($right - $left, 2).' '.round($top - $bottom, 2).' re';
        }

        return [
            'dictionary' => [...$dictionary, '/Subtype' => '/Highlight', '/QuadPoints' => $quads],
            'appearance' => [
                "{$content} f",
                self::form(
                    $rectangle,
                    ['/ExtGState' => ['/G' => ['/BM' => '/Multiply', '/ca' => 1]]],
                    ['/Group' => ['/S' => '/Transparency']],
                ),
            ],
        ];
    }

    /**
     * @param  array<string, mixed>  $dictionary
     * @param  array{float, float, float, float}  $rectangle
     * @return array{dictionary: array<string, mixed>, appearance: array{string, array<string, mixed>}}
     */
    private static function pen(Overlay $overlay, PdfSpace $space, array $rectangle, array $dictionary): array
    {
        $ink = [];
        $content = implode(' ', self::COLOURS['pen']).' RG '.self::PEN.' w 1 J 1 j';
        foreach ($overlay->strokes as $stroke) {
            $points = array_map(static fn (array $p): array => self::rounded($space->point($p[0], $p[1])), $stroke);
            $ink[] = array_merge([], ...$points);
            foreach ($points as $i => [$x, $y]) {
                $content .= " {$x} {$y} ".($i === 0 ? 'm' : 'l');
            }
            $content .= ' S';
        }

        return [
            'dictionary' => [...$dictionary, '/Subtype' => '/Ink', '/InkList' => $ink, '/BS' => ['/W' => self::PEN]],
            'appearance' => [$content, self::form($rectangle, [])],
        ];
    }

    /**
     * @param  array<string, mixed>  $dictionary
     * @param  array{float, float, float, float}  $rectangle
     * @return array{dictionary: array<string, mixed>, appearance: array{string, array<string, mixed>}}
     */
    private static function stamp(Overlay $overlay, array $rectangle, array $dictionary): array
    {
        [$left, $bottom, $right, $top] = self::rounded($rectangle);
        $colour = implode(' ', self::COLOURS['stamp']);
        $lines = explode("\n", wordwrap($overlay->text, max(8, (int) (($right - $left - 8) / (self::SIZE * 0.52))), "\n", true));
        $content =
            "{$colour} RG {$colour} rg 1.2 w ".
            ($left + 0.6).
            ' '.
            ($bottom + 0.6).
            ' '.
            round($right - $left - 1.2, 2).
            ' '.
            round($top - $bottom - 1.2, 2).
            ' re S BT /F '.
            self::SIZE.
            ' Tf '.
            self::SIZE * 1.2.
            ' TL '.
            ($left + 5).
            ' '.
            ($top - self::SIZE - 3).
            ' Td';
        foreach ($lines as $line) {
            $content .= ' ('.addcslashes((string) mb_convert_encoding($line, 'Windows-1252', 'UTF-8'), '()\\').') Tj T*';
        }

        return [
            'dictionary' => [...$dictionary, '/Subtype' => '/FreeText', '/DA' => "u:{$colour} rg /Helv ".self::SIZE.' Tf'],
            'appearance' => [
                "{$content} ET",
                self::form($rectangle, [
                    '/Font' => [
                        '/F' => [
                            '/Type' => '/Font',
                            '/Subtype' => '/Type1',
                            '/BaseFont' => '/Helvetica',
                            '/Encoding' => '/WinAnsiEncoding',
                        ],
                    ],
                ]),
            ],
        ];
    }

    /**
     * @param  array{float, float, float, float}  $rectangle
     * @param  array<string, mixed>  $resources
     * @param  array<string, mixed>  $more
     * @return array<string, mixed>
     */
    private static function form(array $rectangle, array $resources, array $more = []): array
    {
        return [
            '/Type' => '/XObject',
            '/Subtype' => '/Form',
            '/BBox' => self::rounded($rectangle),
            '/Resources' => $resources === [] ? (object) [] : $resources,
            ...$more,
        ];
    }

    /**
     * @param  list<float>  $numbers
     * @return list<Box>
     */
    private static function quads(array $numbers, PdfSpace $space): array
    {
        $boxes = [];
        foreach (array_chunk($numbers, 8) as $quad) {
            if (count($quad) === 8) {
                $boxes[] = $space->box([
                    min($quad[0], $quad[2], $quad[4], $quad[6]),
                    min($quad[1], $quad[3], $quad[5], $quad[7]),
                    max($quad[0], $quad[2], $quad[4], $quad[6]),
                    max($quad[1], $quad[3], $quad[5], $quad[7]),
                ]);
            }
        }

        return $boxes;
    }

    /**
     * @param  \Closure(mixed): list<float>  $numbers
     * @param  array{string, string, DateTimeImmutable|null, string}  $rest
     */
    private static function ink(mixed $list, \Closure $numbers, PdfSpace $space, array $rest): ?Overlay
    {
        $strokes = [];
        foreach (is_array($list) ? $list : [] as $stroke) {
            $points = array_map(
                static fn (array $p): array => $space->seen($p[0], $p[1]),
                array_filter(array_chunk($numbers($stroke), 2), static fn (array $p): bool => count($p) === 2),
            );
            if ($points !== []) {
                $strokes[] = array_values($points);
            }
        }

        return $strokes === [] ? null : new Overlay(AnnotationKind::Pen, [], $strokes, ...$rest);
    }

    private static function date(string $text): ?DateTimeImmutable
    {
        if (preg_match("/^D:(\d{14})([+-]\d\d)?'?(\d\d)?/", $text, $m) !== 1) {
            return null;
        }

        return DateTimeImmutable::createFromFormat('YmdHis O', "{$m[1]} ".($m[2] ?? '+00').($m[3] ?? '00')) ?: null;
    }

    /**
     * @template T of array<int, float>
     *
     * @param  T  $numbers
     * @return T
     */
    private static function rounded(array $numbers): array
    {
        /** @var T */
        return array_map(static fn (float $n): float => round($n, 2), $numbers);
    }
}
