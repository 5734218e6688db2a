<?php

declare(strict_types=1);

namespace Brenvic\Core\Fields\Kinds;

use Brenvic\Core\Fields\FieldDefinition;
use Brenvic\Core\Fields\FieldKind;

/** Text of several lines, which is found by its words and not as a whole. */
final class LongTextKind extends FieldKind
{
    private const MAX_LENGTH = 50_000;

    public function __construct()
    {
        parent::__construct('long_text', 'Long text');
    }

    public function widget(): string
    {
        return 'long-text';
    }

    public function takesAnyText(): bool
    {
        return true;
    }

    public function mayBeMultiple(): bool
    {
        return false;
    }

    public function mayBeFaceted(): bool
    {
        return false;
    }

    public function isSoughtWhole(): bool
    {
        return false;
    }

    public function parse(FieldDefinition $field, string $text): string
    {
        return $this->bounded($field, $text, $field->maxLength ?? self::MAX_LENGTH);
    }

    public function counted(FieldDefinition $field, string $normal): array
    {
        return [];
    }
}
