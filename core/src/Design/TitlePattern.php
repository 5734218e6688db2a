<?php

declare(strict_types=1);

namespace Brenvic\Core\Design;

use Brenvic\Core\Fields\FieldDefinition;

/** How a document type makes titles: text with field codes in braces, like `{waterway}: dredging survey {document_date}`. */
final readonly class TitlePattern
{
    public function __construct(public string $pattern)
    {
    }

    /** @return list<string> the field codes it names */
    public function fields(): array
    {
        preg_match_all('/\{([a-z0-9_]+)\}/', $this->pattern, $m);

        return array_values(array_unique($m[1]));
    }

    /**
     * @param  array<string, FieldDefinition>  $fields  by code
     * @param  array<string, list<string>>  $values  normal forms by field code
     * @return string|null null when none of the named fields has a value, so that the file's name must do
     */
    public function title(array $fields, array $values): ?string
    {
        $filled = 0;
        $title = preg_replace_callback('/\{([a-z0-9_]+)\}/', static function (array $m) use ($fields, $values, &$filled): string {
            $field = $fields[$m[1]] ?? null;
            if ($field === null || ($values[$m[1]] ?? []) === []) {
                return '';
            }
            $filled++;

            return implode(', ', array_map($field->display(...), $values[$m[1]]));
        }, $this->pattern);
        $title = trim((string) preg_replace('/\s+/u', ' ', (string) $title), " :,;–-\u{00A0}");

        return $filled === 0 || $title === '' ? null : $title;
    }
}
