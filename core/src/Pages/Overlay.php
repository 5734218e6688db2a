<?php

declare(strict_types=1);

namespace Brenvic\Core\Pages;

/** One annotation, apart from where it is kept. */
final readonly class Overlay
{
    /**
     * @param  list<Box>  $boxes  of the words or the area of a highlight; one for a note or stamp
     * @param  list<list<array{float, float}>>  $strokes  of a pen: points from left and top
     */
    public function __construct(
        public AnnotationKind $kind,
        public array $boxes,
        public array $strokes = [],
        public string $text = '',
        public string $author = '',
        public ?\DateTimeImmutable $at = null,
        public string $name = '',
        public bool $isFolded = false,
    ) {
    }

    /** The smallest box around all of it. */
    public function around(): ?Box
    {
        $xs = [
            ...array_merge([], ...array_map(static fn (Box $b): array => [$b->left, $b->right], $this->boxes)),
            ...array_merge([], ...array_map(static fn (array $s): array => array_column($s, 0), $this->strokes)),
        ];
        $ys = [
            ...array_merge([], ...array_map(static fn (Box $b): array => [$b->top, $b->bottom], $this->boxes)),
            ...array_merge([], ...array_map(static fn (array $s): array => array_column($s, 1), $this->strokes)),
        ];

        return $xs === [] || $ys === [] ? null : new Box(min($xs), min($ys), max($xs), max($ys));
    }
}
