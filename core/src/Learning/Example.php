<?php

declare(strict_types=1);

namespace Brenvic\Core\Learning;

use Brenvic\Core\Capture\TextPage;

/** A filed document, with what people gave it. */
final readonly class Example
{
    /** What says what a paper is stands at the beginning of its pages, in bytes. */
    private const BEGINNING = 30_000;

    /** @var array<int, TextPage> by their number, each up to a limit */
    public array $pages;

    /**
     * @param  array<int, TextPage>  $pages  by their number
     * @param  array<string, list<string>>  $values  normal forms by field code
     */
    public function __construct(public int $document, array $pages, public array $values)
    {
        $this->pages = self::beginnings($pages);
    }

    /**
     * @param  array<int, TextPage>  $pages  by their number
     * @return array<int, TextPage>
     */
    public static function beginnings(array $pages): array
    {
        return array_map(
            static fn (TextPage $page): TextPage => strlen($page->text) <= self::BEGINNING
                ? $page
                : new TextPage($page->width, $page->height, mb_strcut($page->text, 0, self::BEGINNING)),
            $pages,
        );
    }
}
