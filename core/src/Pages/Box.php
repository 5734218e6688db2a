<?php

declare(strict_types=1);

namespace Brenvic\Core\Pages;

use Brenvic\Core\Capture\WordBox;

/** A rectangle on a page, in the page's units from top left. */
final readonly class Box
{
    public function __construct(public float $left, public float $top, public float $right, public float $bottom)
    {
    }

    public static function ofWord(WordBox $word): self
    {
        return new self($word->left, $word->top, $word->right, $word->bottom);
    }

    /** @param  list<float|int>  $edges  left, top, right, bottom, in whatever order the corners were drawn */
    public static function of(array $edges): self
    {
        [$a, $b, $c, $d] = array_map(floatval(...), $edges);

        return new self(min($a, $c), min($b, $d), max($a, $c), max($b, $d));
    }

    /** @return array{float, float, float, float} */
    public function edges(): array
    {
        return [$this->left, $this->top, $this->right, $this->bottom];
    }

    /** Whether the two share more than an edge. */
    public function touches(self $other): bool
    {
        return $this->left < $other->right && $other->left < $this->right && $this->top < $other->bottom && $other->top < $this->bottom;
    }

    /** Larger, or smaller, by a share of its height above and below, and as much at its sides. */
    public function grown(float $share): self
    {
        $by = ($this->bottom - $this->top) * $share;

        return new self($this->left - $by, $this->top - $by, $this->right + $by, $this->bottom + $by);
    }

    public function times(float $x, float $y): self
    {
        return new self($this->left * $x, $this->top * $y, $this->right * $x, $this->bottom * $y);
    }

    /**
     * Where it is when its page is turned.
     *
     * @param  int  $turn  degrees clockwise, a multiple of 90
     * @param  float  $width  of the page before, as is `$height`
     */
    public function turned(int $turn, float $width, float $height): self
    {
        return self::of([
            ...self::turnedPoint($this->left, $this->top, $turn, $width, $height),
            ...self::turnedPoint($this->right, $this->bottom, $turn, $width, $height),
        ]);
    }

    /** @return array{float, float} */
    public static function turnedPoint(float $x, float $y, int $turn, float $width, float $height): array
    {
        return match ((($turn % 360) + 360) % 360) {
            90 => [$height - $y, $x],
            180 => [$width - $x, $height - $y],
            270 => [$y, $width - $x],
            default => [$x, $y],
        };
    }
}
