<?php

declare(strict_types=1);

namespace Brenvic\Core\Fields\Kinds;

use Brenvic\Core\Fields\FieldDefinition;
use Brenvic\Core\Fields\FieldKind;

/** The name of a person. */
final class PersonKind extends FieldKind
{
    public function __construct()
    {
        parent::__construct('person', 'Person');
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

    public function formats(): array
    {
        return ['surname' => 'surname', 'initials' => 'initials and surname'];
    }

    public function formatted(FieldDefinition $field, string $normal, string $format): string
    {
        $words = explode(' ', $normal);
        $last = array_pop($words);

        return match ($format) {
            'surname' => $last,
            'initials' => implode(' ', [...array_map(static fn (string $word): string => mb_substr($word, 0, 1).'.', $words), $last]),
            default => $normal,
        };
    }
}
