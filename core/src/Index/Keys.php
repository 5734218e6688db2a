<?php

declare(strict_types=1);

namespace Brenvic\Core\Index;

/** The names under which the index keeps its blobs. */
final class Keys
{
    /** Values a byte column tells apart: 0 stands for none. */
    public const BLOCK = 255;

    /** Bits of every document in the index. */
    public const ALL = 'all';

    /** The dictionary space of words. */
    public const WORDS = 'w';

    /** The dictionary space of “stem word”, for all words of a stem; likewise by sound. */
    public const STEMS = 'w.stem';

    public const SOUNDS = 'w.sound';

    /** The dictionary spaces of the names of parts and fields, which records hold as numbers. */
    public const PARTS = 'p';

    public const FIELDS = 'f';

    /** In place of the number of a word or value: whether there is any. */
    public const ANY = 0;

    /** The dictionary space of “stem word” for a language other than English. */
    public static function stems(string $language): string
    {
        return self::STEMS.".{$language}";
    }

    /** The name under which the values of a tree stand without those above them, and dates that are known only in part. */
    public static function own(string $field): string
    {
        return "{$field}.own";
    }

    /** The name under which the last days of stretches of time stand; their first days are the field's own ordinals. */
    public static function end(string $field): string
    {
        return "{$field}.end";
    }

    /** The dictionary space of a field's values. */
    public static function values(string $field): string
    {
        return "v.{$field}";
    }

    public static function isPosting(string $key): bool
    {
        return $key[0] === 'w' || $key[0] === 'v';
    }

    /** Posting of a word in a part. */
    public static function word(string $part, int $word): string
    {
        return "w/{$part}/{$word}";
    }

    /** Bits of a binary digit of the impact that a word has which stands once in a part of a document. */
    public static function usual(string $part, int $digit): string
    {
        return "u/{$part}/{$digit}";
    }

    /** Posting of a field's value. */
    public static function value(string $field, int $value): string
    {
        return "v/{$field}/{$value}";
    }

    /**
     * Byte column of a field: one byte a document, its value's number within the block. A document with several values
     * of one block takes the next slots.
     */
    public static function column(string $field, int $block, int $slot): string
    {
        return "c/{$field}/{$block}/{$slot}";
    }

    /**
     * Byte column of a field with more than one block: the block of a document's `$n`th value, from 0. Only for documents
     * that have a value outside of the first block.
     */
    public static function blocks(string $field, int $n): string
    {
        return "c/{$field}/b/{$n}";
    }

    /** Bits of a binary digit of a field's ordinals; of several ordinals of a document the lowest is in slot 0. */
    public static function slice(string $field, int $slot, int $digit): string
    {
        return "n/{$field}/{$slot}/{$digit}";
    }

    /** Bits of the documents that have an ordinal in a slot. */
    public static function present(string $field, int $slot): string
    {
        return "n/{$field}/{$slot}/x";
    }
}
