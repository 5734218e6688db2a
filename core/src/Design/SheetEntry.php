<?php

declare(strict_types=1);

namespace Brenvic\Core\Design;

/** A field on the sheet of a document type or dossier kind, and what is asked of it there. */
final readonly class SheetEntry
{
    /**
     * @param  string  $default  what a new sheet begins with; empty for what the field itself begins with
     * @param  string|null  $below  the term from which on down the choice is
     * @param  bool  $isHandedDown  of a dossier kind: whether the documents in a dossier have the value too
     */
    private function __construct(
        public string $code,
        public bool $isRequired,
        public bool $isReadOnly,
        public string $default,
        public ?string $below,
        public bool $isHandedDown,
    ) {
    }

    /**
     * @param  array<string, mixed>  $content
     * @return list<self>
     */
    public static function of(array $content): array
    {
        $entries = [];
        foreach (Design::entries($content, 'fields') as $entry) {
            if (is_string($entry['code'] ?? null)) {
                $entries[] = new self(
                    $entry['code'],
                    ($entry['required'] ?? false) === true,
                    ($entry['read_only'] ?? false) === true,
                    is_string($entry['default'] ?? null) ? $entry['default'] : '',
                    is_string($entry['below'] ?? null) ? $entry['below'] : null,
                    ($entry['handed_down'] ?? false) === true,
                );
            }
        }

        return $entries;
    }
}
