<?php

declare(strict_types=1);

namespace Brenvic\Core\Fields\Kinds;

use Brenvic\Core\Fields\FieldDefinition;
use Brenvic\Core\Fields\FieldKind;
use Brenvic\Core\Fields\InvalidValue;

/** Yes or no. The normal form is 1 or 0. */
final class YesNoKind extends FieldKind
{
    public function __construct()
    {
        parent::__construct('yes_no', 'Yes or no');
    }

    public function widget(): string
    {
        return 'yes-no';
    }

    public function isCoded(): bool
    {
        return true;
    }

    public function hasWords(): bool
    {
        return false;
    }

    public function parse(FieldDefinition $field, string $text): string
    {
        return match (mb_strtolower($text)) {
            '1', 'y', 'yes', 'true', 'on' => '1',
            '0', 'n', 'no', 'false', 'off' => '0',
            default => throw new InvalidValue("{$field->label} is yes or no; “{$text}” is neither."),
        };
    }

    public function display(FieldDefinition $field, string $normal): string
    {
        return $normal === '1' ? 'Yes' : 'No';
    }

    public function datatype(): array
    {
        return ['base' => 'boolean', 'format' => '1|0'];
    }

    public function displayAsked(FieldDefinition $field, string $value): string
    {
        return $field->display((string) $field->parse($value));
    }

    public function sought(FieldDefinition $field, string $plain): string
    {
        return $field->parse($plain) ?? '';
    }
}
