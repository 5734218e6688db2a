<?php

declare(strict_types=1);

use Brenvic\Core\Pages\PageLook;
use Brenvic\Core\Pages\Raster;
use Brenvic\Core\Pages\SeparatorCode;

/** A page of written lines, lying askew by some degrees: each point is asked where it would be on the straight page. */
function askew(float $degrees, int $paper = 240, int $noise = 12): Raster
{
    [$width, $height] = [480, 620];
    [$sin, $cos] = [sin(deg2rad($degrees)), cos(deg2rad($degrees))];
    mt_srand(7);
    $grey = '';
    for ($y = 0; $y < $height; $y++) {
        for ($x = 0; $x < $width; $x++) {
            [$dx, $dy] = [$x - $width / 2, $y - $height / 2];
            $u = $dx * $cos + $dy * $sin + $width / 2;
            $v = -$dx * $sin + $dy * $cos + $height / 2;
            $line = (int) floor($v / 24);
            $isInk = $u > 60 && $u < 420 && $v > 70 && $v < 560 && fmod($v, 24) < 9 && ((int) ($u / 5) * 7 + $line * 13) % 5 < 3;
            $grey .= chr(max(0, min(255, ($isInk ? 40 : $paper) + mt_rand(-$noise, $noise))));
        }
    }

    return new Raster($width, $height, $grey);
}

/** @param  list<array{int, int, int, int}>  $marks  left, top, width and height of what is on it */
function paperWith(array $marks, int $tone = 30): Raster
{
    mt_srand(3);
    $grey = '';
    for ($i = 0; $i < 600 * 800; $i++) {
        $grey .= chr(228 + mt_rand(-14, 14));
    }
    foreach ($marks as [$left, $top, $width, $height]) {
        for ($y = $top; $y < $top + $height; $y++) {
            $grey = substr_replace($grey, str_repeat(chr($tone), $width), $y * 600 + $left, $width);
        }
    }

    return new Raster(600, 800, $grey);
}

it('tells how far a page lies askew, to a tenth of a degree', function (float $degrees) {
    $look = PageLook::at(askew($degrees));
    expect($look->isBlank)->toBeFalse()->and(abs($look->skew - $degrees))->toBeLessThan(0.1);
})->with([-6.3, -2.2, -0.7, 0.5, 3.0, 7.1]);

it('leaves alone what is straight, or says nothing of how it lies', function () {
    expect(PageLook::at(askew(0.0))->skew)->toBe(0.0)->and(PageLook::at(askew(0.1))->skew)->toBe(0.0);
    // A picture, and a few words.
    expect(PageLook::at(new Raster(4, 2, "\x20\x40\x20\x10\x20\x20\x80\xFF")))->toMatchObject(['isBlank' => false, 'skew' => 0.0]);
    expect(PageLook::at(paperWith([[200, 300, 40, 12]]))->skew)->toBe(0.0);
});

it('knows a blank page, whatever lies on it by chance', function () {
    $punched = [[20, 200, 18, 18], [20, 500, 18, 18]];
    $dust = [[300, 300, 2, 2], [410, 120, 3, 2], [150, 600, 4, 4]];
    expect(PageLook::at(paperWith([]))->isBlank)->toBeTrue()
        ->and(PageLook::at(paperWith([...$punched, ...$dust]))->isBlank)->toBeTrue()
        // What shines through from the other side is paler than ink.
        ->and(PageLook::at(paperWith([[100, 100, 400, 8], [100, 130, 380, 8]], 185))->isBlank)->toBeTrue()
        ->and(PageLook::at(paperWith([[100, 100, 60, 10]]))->isBlank)->toBeFalse();
});

it('reads graymaps as pdftoppm writes them, and no other', function () {
    $raster = Raster::pgm("P5\n# made by a test\n2 3\n255\n\x00\x0A\xFF\x20\x30\x40");
    expect([$raster->width, $raster->height, ord($raster->grey[1])])->toBe([2, 3, 10]);
    foreach (['', "P6\n2 3\n255\nabcdef", "P5\n2 3\n255\nabc"] as $wrong) {
        expect(static fn () => Raster::pgm($wrong))->toThrow(UnexpectedValueException::class);
    }
});

it('writes on a separator sheet what it reads of one', function () {
    mt_srand(11);
    for ($i = 0; $i < 200; $i++) {
        $some = static fn (): ?string => mt_rand(0, 2) === 0 ? null : ['lock_inspection', 'DS-00012-X', 'a&b=c d', 'Tümpel'][mt_rand(0, 3)];
        $code = new SeparatorCode($some(), $some(), $some());
        expect(SeparatorCode::read(" {$code->text()}\n"))->toEqual($code);
    }
    expect(SeparatorCode::read('brenvic:next'))->toEqual(new SeparatorCode())
        ->and(SeparatorCode::read('brenvic:next?type=x&colour=red&type='))->toEqual(new SeparatorCode(type: 'x'))
        ->and(SeparatorCode::read('brenvic:next?type='.str_repeat('x', 61)))->toEqual(new SeparatorCode());
    foreach (['', 'brenvic', 'brenvic:nextdoor', 'see brenvic:next', 'https://brenvic.example/'] as $other) {
        expect(SeparatorCode::read($other))->toBeNull();
    }
});
