<?php

declare(strict_types=1);

namespace Brenvic\Core\Design;

use Brenvic\Core\Fields\FieldDefinition;

/** How a document type makes titles: text with field codes in braces, like `{waterway}: dredging survey {document_date}`. */
final readonly class TitlePattern
{
    /** Stands for a field without a value while the title is put together. */
    private const EMPTY = "\u{E000}";

    /** Words that lead to a value, in the languages of offices we know. */
    private const LEADING = 'at|by|of|in|on|for|from|with|near|to|von|vom|bei|beim|am|an|im|in|aus|mit|für|zu|zum|zur|à|au|aux|de|du|des|par|pour|avec|chez';

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
        $title = preg_replace_callback(
            '/\{([a-z0-9_]+)\}/',
            static function (array $m) use ($fields, $values, &$filled): string {
                $field = $fields[$m[1]] ?? null;
                if ($field === null || ($values[$m[1]] ?? []) === []) {
                    return self::EMPTY;
                }
                $filled++;

                return implode(', ', array_map($field->display(...), $values[$m[1]]));
            },
            $this->pattern,
        );
        // Brackets and quotation marks around nothing go with it.
        $title = (string) preg_replace('/[(\[“‘„"]\s*'.self::EMPTY.'\s*[)\]”’"]/u', self::EMPTY, (string) $title);
        // A word that only leads to what is not there goes with it, and so does the sign behind it: “Incident at , 2024”.
        $title = (string) preg_replace('/(?:(?<=\s|^)(?:'.self::LEADING.')\s+)?'.self::EMPTY.'/u', self::EMPTY, (string) $title);
        $title = (string) preg_replace(
            [
                '/[,;:–-]\s*'.self::EMPTY.'(?=\s*[,;:(\[]|\s+[–-]\s)/u',
                '/\s*'.self::EMPTY.'(?=\s*[,;:]|\s+[–-]\s)/u',
                '/([,;:–-])\s*'.self::EMPTY.'/u',
                '/'.self::EMPTY.'/u',
            ],
            ['', '', '$1', ''],
            $title,
        );
        $title = trim((string) preg_replace('/\s+/u', ' ', $title), " :,;–-\u{00A0}");

        return $filled === 0 || $title === '' ? null : $title;
    }
}
