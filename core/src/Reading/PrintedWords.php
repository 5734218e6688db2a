<?php

declare(strict_types=1);

namespace Brenvic\Core\Reading;

use Brenvic\Core\Capture\TextPage;
use Brenvic\Core\Index\Tokenizer;
use WeakMap;

/** The words of a page with their places, cut once however many rules read it. */
final class PrintedWords
{
    /** @var WeakMap<TextPage, self>|null */
    private static ?WeakMap $known = null;

    /** @var array<string, list<int>>|null where each word stands among them */
    private ?array $at = null;

    /** @param  list<array{string, int, int}>  $all  folded word, offset and length in bytes */
    private function __construct(public readonly array $all)
    {
    }

    public static function of(TextPage $page): self
    {
        self::$known ??= new WeakMap();

        return self::$known[$page] ??= new self(Tokenizer::located($page->text));
    }

    /**
     * The places of a phrase.
     *
     * @param  non-empty-list<string>  $phrase  folded words
     * @return list<int> the number of its first word
     */
    public function places(array $phrase): array
    {
        if ($this->at === null) {
            $this->at = [];
            foreach ($this->all as $i => [$word]) {
                $this->at[$word][] = $i;
            }
        }
        $places = [];
        foreach ($this->at[$phrase[0]] ?? [] as $i) {
            foreach ($phrase as $k => $word) {
                if (($this->all[$i + $k][0] ?? null) !== $word) {
                    continue 2;
                }
            }
            $places[] = $i;
        }

        return $places;
    }
}
