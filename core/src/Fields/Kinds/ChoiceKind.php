<?php

declare(strict_types=1);

namespace Brenvic\Core\Fields\Kinds;

use Brenvic\Core\Fields\FieldDefinition;
use Brenvic\Core\Fields\FieldKind;
use Brenvic\Core\Fields\InvalidDefinition;
use Brenvic\Core\Fields\InvalidValue;

/** A term of a vocabulary. The normal form is its code. */
final class ChoiceKind extends FieldKind
{
    public function __construct()
    {
        parent::__construct('choice', 'Choice');
    }

    public function widget(): string
    {
        return 'choice';
    }

    public function options(): array
    {
        return ['vocabulary', 'default'];
    }

    public function isChosen(): bool
    {
        return true;
    }

    public function isCoded(): bool
    {
        return true;
    }

    public function check(FieldDefinition $field): void
    {
        if ($field->vocabulary === null) {
            throw new InvalidDefinition('vocabulary', 'A choice field needs the vocabulary its values come from.');
        }
    }

    public function parse(FieldDefinition $field, string $text): string
    {
        $code = $field->vocabulary?->resolve($text);
        if ($code === null) {
            $near = $field->vocabulary?->nearest($text);
            throw new InvalidValue(
                "“{$text}” is not in the list for {$field->label}.".
                    ($near === null ? ' Choose one of its terms.' : " Did you mean “{$near}”?"),
            );
        }

        return $code;
    }

    public function display(FieldDefinition $field, string $normal): string
    {
        return $field->vocabulary?->label($normal) ?? $normal;
    }

    public function counted(FieldDefinition $field, string $normal): array
    {
        return $field->vocabulary?->lineage($normal) ?? [$normal];
    }

    public function above(FieldDefinition $field, string $value): array
    {
        return $field->isTree() ? ($field->vocabulary->terms[$value] ?? null)?->parents() ?? [] : [];
    }

    public function places(FieldDefinition $field, array $values): array
    {
        return array_flip(array_map(strval(...), array_keys($field->vocabulary->terms ?? [])));
    }

    public function displayAsked(FieldDefinition $field, string $value): string
    {
        return $field->display($value);
    }

    public function sought(FieldDefinition $field, string $plain): string
    {
        return $field->vocabulary?->resolve($plain) ?? $plain;
    }
}
