<?php

declare(strict_types=1);

namespace Brenvic\Core\Xml;

/** Texts as XML can have them. */
final class XmlText
{
    private const NO_SIGNS = '/[^\x{9}\x{A}\x{D}\x{20}-\x{D7FF}\x{E000}-\x{FFFD}\x{10000}-\x{10FFFF}]/u';

    /** Without the signs that no XML may have (XML 1.0, 2.2); what is not UTF-8 is made so. */
    public static function clean(string $text): string
    {
        return (string) preg_replace(self::NO_SIGNS, '', mb_scrub($text, 'UTF-8'));
    }

    /** The same, to stand in an element or an attribute. */
    public static function escaped(string $text): string
    {
        return htmlspecialchars(self::clean($text), ENT_XML1 | ENT_QUOTES);
    }
}
