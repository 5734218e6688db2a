<?php

declare(strict_types=1);

namespace Brenvic\Core\Fields\Kinds;

use Brenvic\Core\Fields\FieldDefinition;
use Brenvic\Core\Fields\FieldKind;

/** A line of text. */
final class TextKind extends FieldKind
{
    public function __construct()
    {
        parent::__construct('text', 'Text');
    }

    public function options(): array
    {
        return ['pattern', 'max_length', 'default'];
    }

    public function takesAnyText(): bool
    {
        return true;
    }

    public function parse(FieldDefinition $field, string $text): string
    {
        return $this->fitting($field, $this->short($field, (string) preg_replace('/\s+/u', ' ', $text)));
    }
}
