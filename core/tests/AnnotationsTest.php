<?php

declare(strict_types=1);

use Brenvic\Core\Pages\AnnotationKind;
use Brenvic\Core\Pages\Box;
use Brenvic\Core\Pages\Overlay;
use Brenvic\Core\Pages\PdfAnnotation;
use Brenvic\Core\Pages\PdfSpace;

it('turns places on a page into those of a PDF and back, however the page is turned', function () {
    seeded(9);
    for ($i = 0; $i < 400; $i++) {
        [$left, $bottom] = [mt_rand(-50, 50), mt_rand(-50, 50)];
        $space = new PdfSpace(
            [$left, $bottom, $left + mt_rand(100, 600), $bottom + mt_rand(100, 800)],
            [0, 90, 180, 270, -90][mt_rand(0, 4)],
        );
        [$x, $y] = [mt_rand(0, 1000) / 10, mt_rand(0, 1000) / 10];
        [$u, $v] = $space->seen(...$space->point($x, $y));
        expect(abs($u - $x) < 1e-6 && abs($v - $y) < 1e-6)->toBeTrue();
    }
    // The top left corner as it is seen, of a page of 200 by 100.
    foreach ([0 => [0.0, 100.0], 90 => [0.0, 0.0], 180 => [200.0, 0.0], 270 => [200.0, 100.0]] as $rotate => $corner) {
        expect((new PdfSpace([0, 0, 200, 100], $rotate))->point(0, 0))->toBe($corner);
    }
});

it('writes annotations as a PDF has them and reads them again where they were', function (int $rotate) {
    $space = new PdfSpace([10, 20, 605, 862], $rotate);
    $at = new DateTimeImmutable('2024-03-01T10:20:30Z');
    $overlays = [
        new Overlay(AnnotationKind::Highlight, [new Box(10, 20, 60, 32), new Box(10, 36, 40, 48)], [], 'why', 'Isla Thorne', $at, 'a-1'),
        new Overlay(AnnotationKind::Pen, [], [[[5.0, 5.0], [50.0, 70.0]], [[1.0, 2.0]]], '', 'Isla', $at, 'a-2'),
        new Overlay(AnnotationKind::Stamp, [new Box(100, 100, 220, 140)], [], 'Received (1 Mar) by Zoë', 'Isla', $at, 'a-3'),
    ];
    foreach ($overlays as $overlay) {
        ['dictionary' => $dictionary, 'appearance' => $appearance] = PdfAnnotation::of($overlay, $space);
        $read = PdfAnnotation::read(json_decode((string) json_encode($dictionary), true), $space);
        expect($read?->kind)
            ->toBe($overlay->kind)
            ->and($read->text)
            ->toBe($overlay->text)
            ->and($read->author)
            ->toBe($overlay->author)
            ->and($read->name)
            ->toBe($overlay->name)
            ->and($read->at)
            ->toEqual($at);
        $places = static fn (Overlay $o): array => [
            array_map(static fn (Box $b): array => array_map(static fn (float $n): float => round($n, 1), $b->edges()), $o->boxes),
            array_map(
                static fn (array $s): array => array_map(static fn (array $p): array => [round($p[0], 1), round($p[1], 1)], $s),
                $o->strokes,
            ),
        ];
        expect($places($read))
            ->toEqual($places($overlay))
            ->and($appearance[0])
            ->not->toBe('')
            ->and($appearance[1]['/BBox'])
            ->toBe($dictionary['/Rect']);
    }
    $note = PdfAnnotation::of(new Overlay(AnnotationKind::Note, [new Box(100, 50, 300, 90)], [], 'Look here', isFolded: true), $space);
    $read = PdfAnnotation::read($note['dictionary'], $space);
    expect($read->text)->toBe('Look here')->and($read->isFolded)->toBeTrue()->and($note['appearance'])->toBeNull();
})->with([0, 90, 180, 270]);

it('reads no annotation where there is none, and none that has no counterpart', function () {
    $space = new PdfSpace([0, 0, 100, 100]);
    expect(PdfAnnotation::read(['/Subtype' => '/Link', '/Rect' => [0, 0, 1, 1]], $space))
        ->toBeNull()
        ->and(PdfAnnotation::read(['/Subtype' => '/Highlight'], $space))
        ->toBeNull()
        ->and(PdfAnnotation::read(['/Subtype' => '/Ink', '/Rect' => [0, 0, 1, 1], '/InkList' => 'none'], $space))
        ->toBeNull()
        ->and(PdfAnnotation::read(['/Subtype' => '/Highlight', '/Rect' => [10, 10, 20, 20], '/QuadPoints' => [1, 2]], $space)?->boxes)
        ->toEqual([new Box(10, 80, 20, 90)])
        ->and(PdfAnnotation::of(new Overlay(AnnotationKind::Pen, []), $space))
        ->toBeNull();
});

it('keeps notes and stamps on the page', function (int $rotate) {
    $space = new PdfSpace([10.0, 20.0, 210.0, 320.0], $rotate);
    [$width, $height] = $rotate % 180 === 0 ? [200.0, 300.0] : [300.0, 200.0];
    foreach ([new Box($width - 5, $height - 5, $width + 95, $height + 15), new Box(-30, -4, 70, 16), new Box(0, 0, 900, 900)] as $box) {
        $kept = $space->onPage($box);
        expect($kept->left)
            ->toBeGreaterThanOrEqual(0.0)
            ->and($kept->top)
            ->toBeGreaterThanOrEqual(0.0)
            ->and($kept->right)
            ->toBeLessThanOrEqual($width)
            ->and($kept->bottom)
            ->toBeLessThanOrEqual($height);
    }
    $inside = new Box(5, 6, 50, 26);
    expect($space->onPage($inside))->toEqual($inside);
})->with([0, 90, 180, 270]);
