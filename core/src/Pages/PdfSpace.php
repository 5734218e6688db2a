<?php

declare(strict_types=1);

namespace Brenvic\Core\Pages;

/**
 * Turns places on a page as it is seen (from top left, turned as the page says) into those of a PDF’s user space (from
 * bottom left, unturned) and back: ISO 32000-1, 8.3.2.3 and the entries CropBox and Rotate of 7.7.3.3.
 */
final readonly class PdfSpace
{
    private float $width;

    private float $height;

    /**
     * @param  array{float, float, float, float}  $crop  left, bottom, right, top of the crop box
     * @param  int  $rotate  degrees clockwise, a multiple of 90
     */
    public function __construct(
        private array $crop,
        private int $rotate = 0,
    ) {
        $this->width = abs($crop[2] - $crop[0]);
        $this->height = abs($crop[3] - $crop[1]);
    }

    /** @return array{float, float} */
    public function point(float $x, float $y): array
    {
        [$u, $v] = match ((($this->rotate % 360) + 360) % 360) {
            90 => [$y, $x],
            180 => [$this->width - $x, $y],
            270 => [$this->width - $y, $this->height - $x],
            default => [$x, $this->height - $y],
        };

        return [min($this->crop[0], $this->crop[2]) + $u, min($this->crop[1], $this->crop[3]) + $v];
    }

    /** @return array{float, float} */
    public function seen(float $x, float $y): array
    {
        $u = $x - min($this->crop[0], $this->crop[2]);
        $v = $y - min($this->crop[1], $this->crop[3]);

        return match ((($this->rotate % 360) + 360) % 360) {
            90 => [$v, $u],
            180 => [$this->width - $u, $v],
            270 => [$this->height - $v, $this->width - $u],
            default => [$u, $this->height - $v],
        };
    }

    /** A box moved, and made smaller where it must be, so that it lies on the page as it is seen. */
    public function onPage(Box $box): Box
    {
        [$width, $height] = (($this->rotate % 180) + 180) % 180 === 90 ? [$this->height, $this->width] : [$this->width, $this->height];
        $left = max(0.0, min($box->left, $width - ($box->right - $box->left)));
        $top = max(0.0, min($box->top, $height - ($box->bottom - $box->top)));

        return new Box($left, $top, min($width, $left + $box->right - $box->left), min($height, $top + $box->bottom - $box->top));
    }

    /** @return array{float, float, float, float} left, bottom, right, top */
    public function rectangle(Box $box): array
    {
        [$a, $b] = $this->point($box->left, $box->top);
        [$c, $d] = $this->point($box->right, $box->bottom);

        return [min($a, $c), min($b, $d), max($a, $c), max($b, $d)];
    }

    /** @param  array{float, float, float, float}  $rectangle */
    public function box(array $rectangle): Box
    {
        return Box::of([...$this->seen($rectangle[0], $rectangle[1]), ...$this->seen($rectangle[2], $rectangle[3])]);
    }
}
