<?php

declare(strict_types=1);

namespace Brenvic\Core\Templates;

use DOMElement;
use DOMNode;
use DOMXPath;

/**
 * Places in a template where values of a sheet are set: `{code}`, with the code of a field. A code that is no field’s stays as it
 * stands; a field without a value leaves nothing.
 */
final readonly class Placeholders
{
    private const FORM = '/\{([a-z0-9][a-z0-9_-]{0,39})\}/';

    /** @param  array<string, string>  $values  as people read them, by field code; empty for a field without one */
    public function __construct(public array $values)
    {
    }

    public function inText(string $text): string
    {
        return (string) preg_replace_callback(self::FORM, fn (array $m): string => $this->values[$m[1]] ?? $m[0], $text);
    }

    /** @return list<string> the codes that a text names, each once */
    public static function named(string $text): array
    {
        preg_match_all(self::FORM, $text, $found);

        return array_values(array_unique($found[1]));
    }

    /**
     * Sets values into pieces of text that are read as one: programs cut a placeholder in two wherever somebody went back to
     * correct a letter of it. The value stands in the piece where the placeholder begins, with how that is written.
     *
     * @param  list<DOMNode>  $pieces
     */
    public function inPieces(array $pieces): void
    {
        $all = '';
        $starts = [];
        foreach ($pieces as $piece) {
            $starts[] = strlen($all);
            $all .= $piece->textContent;
        }
        preg_match_all(self::FORM, $all, $found, PREG_OFFSET_CAPTURE | PREG_SET_ORDER);
        $cuts = [];
        foreach ($found as [[$whole, $from], [$code]]) {
            if (isset($this->values[$code])) {
                $cuts[] = [$from, $from + strlen($whole), $this->values[$code]];
            }
        }
        if ($cuts === []) {
            return;
        }
        foreach ($pieces as $i => $piece) {
            $start = $starts[$i];
            $text = $piece->textContent;
            $end = $start + strlen($text);
            $made = '';
            $at = $start;
            foreach ($cuts as [$from, $to, $value]) {
                if ($to <= $start || $from >= $end) {
                    continue;
                }
                $made .= $from > $at ? substr($text, $at - $start, $from - $at) : '';
                $made .= $from >= $start ? $value : '';
                $at = min($end, $to);
            }
            $made .= substr($text, $at - $start);
            if ($made !== $text) {
                self::write($piece, $made);
            }
        }
    }

    private static function write(DOMNode $piece, string $text): void
    {
        $piece->textContent = $text;
        if ($piece instanceof DOMElement) {
            $piece->setAttributeNS('http://www.w3.org/XML/1998/namespace', 'xml:space', 'preserve');
        }
    }

    /** @return list<DOMNode> */
    public static function found(DOMXPath $path, string $what, ?DOMNode $in = null): array
    {
        $found = [];
        foreach ($path->query($what, $in) ?: [] as $node) {
            if ($node instanceof DOMNode) {
                $found[] = $node;
            }
        }

        return $found;
    }

    /** How many of a kind a node is in, itself among them. */
    public static function depth(DOMXPath $path, string $kind, DOMNode $node): int
    {
        $count = $path->evaluate("count({$kind})", $node);

        return is_float($count) ? (int) $count : 0;
    }
}
