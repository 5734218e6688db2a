<?php

declare(strict_types=1);

namespace Brenvic\Core\Reading;

use Brenvic\Core\Capture\TextPage;
use Brenvic\Core\Fields\FieldDefinition;
use Brenvic\Core\Fields\InvalidValue;
use Brenvic\Core\Lift\Lift;
use Brenvic\Core\Lift\Places;

/**
 * What stands in one of the first or the last lines: what fits the kind of the field; of a field that any words fit all of the line, or
 * its beginning up to a sign.
 */
final class LineRule implements ReadingRule
{
    /**
     * @param  int  $line  from 1, without empty ones; −1 for the last
     * @param  string  $upTo  a sign before which the value ends; none for the whole line
     */
    public function __construct(private readonly int $line, private readonly string $upTo = '')
    {
    }

    public function in(TextPage $page, FieldDefinition $field): array
    {
        $lines = self::lines($page->text);
        [$offset, $text] = $lines[$this->line > 0 ? $this->line - 1 : count($lines) + $this->line] ?? [0, ''];
        $place = Places::shared($field)->in($text, 1)[0] ?? null;
        if ($place !== null) {
            return [[$offset + $place->offset, $place->length, $place->value]];
        }
        $words = $this->upTo === '' ? $text : strstr($text, $this->upTo, true);
        // Of a year that stands before other words it is the first.
        foreach (array_filter([$words, $field->kind->value === 'date' ? strtok((string) $words, " \t,;") : false], is_string(...)) as $some) {
            try {
                return [[$offset, strlen($some), Lift::value($field, $some)]];
            } catch (InvalidValue) {
                continue;
            }
        }

        return [];
    }

    /** @return list<array{int, string}> the lines that are not empty, with where they begin in bytes */
    public static function lines(string $text): array
    {
        $lines = [];
        $offset = 0;
        foreach (explode("\n", $text) as $line) {
            $plain = trim($line);
            if ($plain !== '') {
                $lines[] = [$offset + (int) strpos($line, $plain), $plain];
            }
            $offset += strlen($line) + 1;
        }

        return $lines;
    }
}
