<?php

declare(strict_types=1);

namespace Brenvic\Core\Index;

/**
 * The parts of a document whose words are kept apart, so that a search can look in some of them. Besides these, each
 * field with words has a part of its own (`Part::ofField`). The text of earlier versions is looked in only when asked for; `Original`
 * holds the whole text of documents that are redacted, and is looked in only for those who may see it.
 */
enum Part: string
{
    case Names = 'n';
    case Values = 'v';
    case Text = 't';
    case Comments = 'c';
    case Paths = 'p';
    case Earlier = 'e';
    case Original = 'o';

    public static function ofField(string $code): string
    {
        return "f.{$code}";
    }

    /** The name in queries and in the API. */
    public function indexName(): string
    {
        return match ($this) {
            self::Names => 'title',
            self::Values => 'values',
            self::Text => 'text',
            self::Comments => 'comment',
            self::Paths => 'path',
            self::Earlier => 'earlier',
            self::Original => 'original',
        };
    }

    /** What it is called where words are looked for. */
    public function place(): string
    {
        return match ($this) {
            self::Names => 'titles',
            self::Values => 'index values',
            self::Text => 'full text',
            self::Comments => 'comments',
            self::Paths => 'paths',
            self::Earlier => 'earlier versions',
            self::Original => 'originals',
        };
    }

    /** What it is called where one document is told of. */
    public function label(): string
    {
        return match ($this) {
            self::Names => 'Title',
            self::Values => 'Index values',
            self::Text, self::Original => 'Full text',
            self::Comments => 'Comments',
            self::Paths => 'Path',
            self::Earlier => 'Earlier versions',
        };
    }

    public static function named(string $name): ?self
    {
        foreach (self::cases() as $part) {
            if ($part !== self::Original && $part->indexName() === $name) {
                return $part;
            }
        }

        return null;
    }

    /**
     * How much a word counts for here, against once for the text: a name or an index value was chosen by somebody to say
     * what the document is. Measured by `bench ranking`.
     */
    public static function weightOf(string $part): int
    {
        return match (self::tryFrom($part)) {
            self::Names => 4,
            self::Values => 3,
            self::Comments => 2,
            default => 1,
        };
    }

    /** Whether its words were chosen by somebody to say what the document is. */
    public function isChosen(): bool
    {
        return $this === self::Names || $this === self::Values;
    }

    /** Whether its texts have paragraphs and sentences, or are names each for itself. */
    public function isProse(): bool
    {
        return match ($this) {
            self::Text, self::Comments, self::Earlier, self::Original => true,
            self::Names, self::Values, self::Paths => false,
        };
    }

    /** How many words such a part usually has: what BM25 measures a document's length against (see Impact). */
    public static function usualLength(string $part): int
    {
        return match (self::tryFrom($part)) {
            self::Text, self::Earlier, self::Original => 300,
            self::Values, self::Comments => 30,
            default => 10,
        };
    }
}
