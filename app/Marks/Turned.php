<?php

declare(strict_types=1);

namespace App\Marks;

use Brenvic\Core\Capture\TextPage;
use Brenvic\Core\Pages\Box;

/** How places on a page move when the page is turned, and when its units are others afterwards. */
final readonly class Turned
{
    private float $x;

    private float $y;

    public function __construct(private int $turn, private TextPage $then, TextPage $now)
    {
        $isAcross = $turn % 180 !== 0;
        $this->x = $now->width / max(1.0, $isAcross ? $then->height : $then->width);
        $this->y = $now->height / max(1.0, $isAcross ? $then->width : $then->height);
    }

    /**
     * @param  list<list<float>>  $boxes  edges
     * @return list<array{float, float, float, float}>
     */
    public function boxes(array $boxes): array
    {
        return array_map(
            fn (array $b): array => Box::of($b)
                ->turned($this->turn, $this->then->width, $this->then->height)
                ->times($this->x, $this->y)
                ->edges(),
            $boxes,
        );
    }

    /**
     * @param  list<list<array{float, float}>>  $strokes
     * @return list<list<array{float, float}>>
     */
    public function strokes(array $strokes): array
    {
        return array_map(
            fn (array $stroke): array => array_map(function (array $point): array {
                [$x, $y] = Box::turnedPoint((float) $point[0], (float) $point[1], $this->turn, $this->then->width, $this->then->height);

                return [$x * $this->x, $y * $this->y];
            }, $stroke),
            $strokes,
        );
    }
}
