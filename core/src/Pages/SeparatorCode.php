<?php

declare(strict_types=1);

namespace Brenvic\Core\Pages;

/**
 * What the code on a separator sheet says: that a document begins behind it, and what is known of that document. It is written
 * as a query string behind `brenvic:next`, so that any reader of codes shows it as text.
 */
final readonly class SeparatorCode
{
    private const BEGIN = 'brenvic:next';

    private const PARTS = ['library', 'type', 'dossier'];

    private const LONGEST = 60;

    /**
     * @param  string|null  $library  code of a library
     * @param  string|null  $type  code of a document type
     * @param  string|null  $dossier  reference of a dossier
     */
    public function __construct(public ?string $library = null, public ?string $type = null, public ?string $dossier = null)
    {
    }

    public function text(): string
    {
        $parts = array_filter(['library' => $this->library, 'type' => $this->type, 'dossier' => $this->dossier], is_string(...));

        return self::BEGIN.($parts === [] ? '' : '?'.http_build_query($parts, encoding_type: PHP_QUERY_RFC3986));
    }

    /** What a code says; null when it is no separator sheet’s. */
    public static function read(string $text): ?self
    {
        $text = trim($text);
        if ($text !== self::BEGIN && ! str_starts_with($text, self::BEGIN.'?')) {
            return null;
        }
        $given = [];
        foreach (explode('&', substr($text, strlen(self::BEGIN) + 1)) as $part) {
            [$name, $value] = [...explode('=', $part, 2), ''];
            $value = mb_scrub(rawurldecode($value));
            if (in_array($name, self::PARTS, true) && $value !== '' && mb_strlen($value) <= self::LONGEST) {
                $given[$name] = $value;
            }
        }

        return new self($given['library'] ?? null, $given['type'] ?? null, $given['dossier'] ?? null);
    }
}
