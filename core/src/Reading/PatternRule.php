<?php

declare(strict_types=1);

namespace Brenvic\Core\Reading;

use Brenvic\Core\Capture\TextPage;
use Brenvic\Core\Fields\FieldDefinition;
use Brenvic\Core\Fields\InvalidValue;
use Brenvic\Core\Lift\Lift;

/** What fits a pattern and the field can have: an identifier only with its right check character. */
final readonly class PatternRule implements ReadingRule
{
    public function __construct(private SafePattern $pattern)
    {
    }

    public function in(TextPage $page, FieldDefinition $field): array
    {
        $found = [];
        foreach ($this->pattern->matches($page->text) as [$offset, $length, $written]) {
            try {
                $found[] = [$offset, $length, Lift::value($field, $written)];
            } catch (InvalidValue) {
                continue;
            }
        }

        return $found;
    }
}
